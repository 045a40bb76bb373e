import { HELD_KEYS } from '../state/keys';
import { EVERY_COMMAND, STAGE_WORDS } from './every-word';

/** The guide's page of keys as Markdown, from the same words that the list of keys and the finder read. */
export function keysPage(): string {
  const rows = (title: string, lines: readonly (readonly [string, string])[]): string =>
    lines.length === 0
      ? ''
      : `## ${title}\n\n| keys | what they do |\n| --- | --- |\n${lines.map(([keys, what]) => `| ${cell(keys)} | ${cell(what)} |\n`).join('')}\n`;
  const groups = [...new Set(EVERY_COMMAND.map((command) => command.group))];
  const tools = STAGE_WORDS.map(({ title, tools: own }): string => {
    const lines = own.slice(0, 18).map((tool, i): readonly [string, string] => [i < 9 ? String(i + 1) : `Shift+${i - 8}`, tool.title]);
    return rows(`Tools of ${title}`, lines);
  });
  const commands = groups.map((group) => {
    const own = EVERY_COMMAND.filter((command) => command.group === group && command.keys.length > 0);
    return rows(
      group,
      own.map(({ keys, title }) => [keys.join(', '), title]),
    );
  });
  const held = rows(
    'While drawing',
    HELD_KEYS.map(({ keys, title }) => [keys, title]),
  );
  const found = EVERY_COMMAND.filter((command) => command.keys.length === 0);
  const rest = `## Found by words\n\nWith Ctrl+K, like every other command.\n\n${found.map(({ title }) => `- ${title}\n`).join('')}`;
  return `# Keys\n\nMade from the words of all commands by \`npm run keys\`. On a Mac, Ctrl is the command key.\n\n${held}${tools.join('')}${commands.join('')}${rest}`;
}

/** Text safe in a cell of a table. */
const cell = (text: string): string => text.replace(/\|/g, '\\|');
