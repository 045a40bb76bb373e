import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const LIGHT_TOOLS = [
  { name: 'pick', title: 'Pick' },
  { name: 'shadow-end', title: 'Shadow’s end', find: 'Say where the shadow of a corner falls', words: 'sun direction angle cast shadow end point' },
  { name: 'lamp', title: 'Lamp', find: 'Put a lamp at a place', words: 'light bulb lantern point light torch' },
] as const satisfies readonly ToolWords[];

export const LIGHT_COMMANDS = [
  { id: 'light.shadows', title: 'Switch shadows on or off', keys: [], group: 'Light', words: 'shadow sun on off drop shade' },
  { id: 'light.unshadowed', title: 'Let the selection throw no shadow', keys: [], group: 'Light', needs: 'selected', words: 'shadow off object without' },
] as const satisfies readonly CommandWords[];

/** What is set in the stage, by what different trades call it. */
export const LIGHT_SETTINGS: readonly Setting[] = [
  setting('light', 'pick', 'Sun', 'sun light direction azimuth elevation shadow shade', ['Turn from a']),
  setting('light', 'pick', 'Cast shadows', 'shadow cast drop on off', ['Cast shadows']),
  setting('light', 'pick', 'Soft edges of shadows', 'shadow blur soft penumbra feather edge', ['Soft edge', 'Cast shadows']),
  setting('light', 'pick', 'Contact shadows', 'ambient occlusion contact dark ground grounded', ['Dark round contacts', 'Cast shadows']),
  setting('light', 'pick', 'Contours', 'outline stroke contour silhouette border keyline', ['Contour']),
  setting('light', 'pick', 'Inner edges', 'edges creases lines outline', ['Inner edges']),
  setting('light', 'pick', 'Lit edges', 'highlight edge rim light bevel shine', ['Lit edges']),
  setting('light', 'pick', 'Hidden edges, dashed', 'hidden lines dashed wireframe', ['Hidden edges, dashed']),
  setting('light', 'pick', 'Palettes', 'recolour colours scheme swatches harmony', ['Low tide']),
  setting('light', 'pick', 'Colours seen by other eyes', 'colour blind deficiency protanopia deuteranopia tritanopia accessibility', ['All cones']),
  setting('light', 'pick', 'Contrast of neighbouring faces', 'contrast legibility ratio weak', ['Find the weakest contrasts']),
  setting('light', 'pick', 'Key of tones', 'legend key tones swatch sheet', ['Put this key on the sheet']),
  setting('light', 'pick', 'Tones', 'shade shading tone ramp', ['Facing the light']),
];
