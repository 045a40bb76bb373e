import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const PHOTO_TOOLS = [
  { name: 'pick', title: 'Pick' },
  { name: 'crossing', title: 'Crossings', find: 'Set crossings of the lattice by hand', words: 'points pick calibration corners add move remove' },
  { name: 'photo-outline', title: 'Seen within', find: 'Draw the outline that artwork on a photograph ends at', words: 'clip mask edge surface' },
  { name: 'front', title: 'In front', find: 'Draw what stands in front of artwork on a photograph', words: 'mask occlude cover soft edge feather' },
  { name: 'panel', title: 'Panel by edges', find: 'Fit a flat panel by its four edges', words: 'corners quad without lattice sign' },
  { name: 'round', title: 'Round by edges', find: 'Fit a round thing by its side edges and rims', words: 'cylinder cup can bottle without lattice' },
] as const satisfies readonly ToolWords[];

export const PHOTO_COMMANDS = [
  { id: 'photo.take', title: 'Take photographs from files', keys: [], group: 'Document', words: 'open import picture pair bare lattice mockup' },
  { id: 'photo.solve', title: 'Find the lattice and fit the surface', keys: [], group: 'Things', words: 'calibrate solve crossings detect' },
  {
    id: 'photo.light',
    title: 'Show artwork on photographs without light, or with it',
    keys: ['Shift+L'],
    group: 'View',
    words: 'shade highlights before after toggle',
  },
  { id: 'photo.worst', title: 'Go to the crossing that is off most', keys: [], group: 'View', words: 'miss error residual' },
  { id: 'photo.compare', title: 'Compare the two photographs', keys: [], group: 'View', words: 'blink split difference registered pair' },
  { id: 'photo.png', title: 'Export the photograph as PNG', keys: [], group: 'Document', words: 'mockup bitmap size' },
  { id: 'photo.jpeg', title: 'Export the photograph as JPEG', keys: [], group: 'Document', words: 'mockup bitmap jpg' },
  { id: 'photo.both', title: 'Export before and after as one picture', keys: [], group: 'Document', words: 'comparison side by side' },
  { id: 'photo.fit', title: 'Export the fit as JSON', keys: [], group: 'Document', words: 'surface calibration data' },
] as const satisfies readonly CommandWords[];

/** What is set in the stage, by what different trades call it. */
export const PHOTO_SETTINGS: readonly Setting[] = [
  setting('photo', 'pick', 'Practice camera', 'practice camera sample photograph learn', ['Funnel']),
  setting('photo', 'pick', 'Photographs, bare and with a lattice', 'photograph mockup lattice columns rows box shade surface label', ['Take two photographs']),
];
