import { COMMANDS, type CommandWords } from '../state/keys';
import type { Setting } from '../state/settings';
import type { ToolWords } from '../state/stage';
import { ARTWORK_COMMANDS, ARTWORK_SETTINGS, ARTWORK_TOOLS } from './artwork/words';
import { BUILD_COMMANDS, BUILD_SETTINGS, BUILD_TOOLS } from './build/words';
import { DRAW_COMMANDS, DRAW_SETTINGS, DRAW_TOOLS } from './draw/words';
import { LIGHT_COMMANDS, LIGHT_SETTINGS, LIGHT_TOOLS } from './light/words';
import { OUTPUT_COMMANDS, OUTPUT_SETTINGS, OUTPUT_TOOLS } from './output/words';
import { PHOTO_COMMANDS, PHOTO_SETTINGS, PHOTO_TOOLS } from './photo/words';
import { PROJECTION_COMMANDS, PROJECTION_SETTINGS, PROJECTION_TOOLS } from './projection/words';

/** The words of the stages in the order of work. */
export const STAGE_WORDS: readonly { readonly title: string; readonly tools: readonly ToolWords[]; readonly commands: readonly CommandWords[] }[] = [
  { title: 'Projection', tools: PROJECTION_TOOLS, commands: PROJECTION_COMMANDS },
  { title: 'Draw', tools: DRAW_TOOLS, commands: DRAW_COMMANDS },
  { title: 'Build', tools: BUILD_TOOLS, commands: BUILD_COMMANDS },
  { title: 'Light', tools: LIGHT_TOOLS, commands: LIGHT_COMMANDS },
  { title: 'Artwork', tools: ARTWORK_TOOLS, commands: ARTWORK_COMMANDS },
  { title: 'Photo', tools: PHOTO_TOOLS, commands: PHOTO_COMMANDS },
  { title: 'Output', tools: OUTPUT_TOOLS, commands: OUTPUT_COMMANDS },
];

/** The words of every command: of all stages, of tools that are found by words, and those that go to a stage. */
export const EVERY_COMMAND: readonly Pick<CommandWords, 'title' | 'keys' | 'group'>[] = [
  ...STAGE_WORDS.flatMap(({ tools }) => tools.flatMap(({ find }) => (find === undefined ? [] : { title: find, keys: [], group: 'Tools' as const }))),
  ...COMMANDS,
  ...STAGE_WORDS.map(({ title }) => ({ title: `Go to ${title}`, keys: [], group: 'Stages' as const })),
  ...STAGE_WORDS.flatMap(({ commands }) => commands),
];

/** Every setting that the finder leads to. */
export const EVERY_SETTING: readonly Setting[] = [
  ...PROJECTION_SETTINGS,
  ...DRAW_SETTINGS,
  ...BUILD_SETTINGS,
  ...LIGHT_SETTINGS,
  ...ARTWORK_SETTINGS,
  ...PHOTO_SETTINGS,
  ...OUTPUT_SETTINGS,
];
