import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const BUILD_TOOLS = [
  { name: 'pick', title: 'Pick' },
  { name: 'depth', title: 'Depth' },
] as const satisfies readonly ToolWords[];

/** What is set in the stage, by what different trades call it. */
export const BUILD_SETTINGS: readonly Setting[] = [
  setting('build', 'depth', 'Depth', 'depth extrude extrusion thickness height volume 3d', ['Depth', 'Depth 2']),
];
