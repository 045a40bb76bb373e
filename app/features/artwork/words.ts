import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const ARTWORK_TOOLS = [
  { name: 'pick', title: 'Pick' },
  { name: 'place', title: 'Place artwork' },
] as const satisfies readonly ToolWords[];

export const ARTWORK_COMMANDS = [
  { id: 'artwork.add', title: 'Add an SVG as artwork', keys: [], group: 'Document', words: 'import svg image vector logo' },
] as const satisfies readonly CommandWords[];

/** What is set in the stage, by what different trades call it. */
export const ARTWORK_SETTINGS: readonly Setting[] = [setting('artwork', 'place', 'Place artwork', 'artwork place bitmap image logo label svg', ['Add an SVG'])];
