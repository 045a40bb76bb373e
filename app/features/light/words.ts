import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const LIGHT_TOOLS = [{ name: 'pick', title: 'Pick' }] as const satisfies readonly ToolWords[];

/** What is set in the stage, by what different trades call it. */
export const LIGHT_SETTINGS: readonly Setting[] = [
  setting('light', 'pick', 'Sun', 'sun light direction azimuth elevation shadow shade', ['Turn from a']),
  setting('light', 'pick', 'Tones', 'shade shading tone ramp', ['Facing the sun']),
];
