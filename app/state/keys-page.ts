import { COMMANDS, HELD_KEYS } from './keys';
import { STAGES, TOOL_TITLES } from './stages';

/** The guide's page of keys as Markdown, from the same table that the list of keys and the finder read. */
export function keysPage(): string {
  const rows = (title: string, lines: readonly (readonly [string, string])[]): string =>
    lines.length === 0
      ? ''
      : `## ${title}\n\n| keys | what they do |\n| --- | --- |\n${lines.map(([keys, what]) => `| ${cell(keys)} | ${cell(what)} |\n`).join('')}\n`;
  const groups = [...new Set(Object.values(COMMANDS).map((command) => command.group))];
  const tools = STAGES.map(({ title, tools: names }): string => {
    const lines = names.map((name, i): readonly [string, string] => [i < 9 ? String(i + 1) : `Shift+${i - 8}`, TOOL_TITLES[name]]);
    return rows(`Tools of ${title}`, lines);
  });
  const commands = groups.map((group) => {
    const own = Object.values(COMMANDS).filter((command) => command.group === group && command.keys.length > 0);
    return rows(
      group,
      own.map(({ keys, title }) => [keys.join(', '), title]),
    );
  });
  const held = rows(
    'While drawing',
    HELD_KEYS.map(({ keys, title }) => [keys, title]),
  );
  const found = Object.values(COMMANDS).filter((command) => command.keys.length === 0);
  const rest = `## Found by words\n\nWith Ctrl+K, like every other command.\n\n${found.map(({ title }) => `- ${title}\n`).join('')}`;
  return `# Keys\n\nMade from the table of commands by \`npm run keys\`. On a Mac, Ctrl is the command key.\n\n${held}${tools.join('')}${commands.join('')}${rest}`;
}

/** Text safe in a cell of a table. */
const cell = (text: string): string => text.replace(/\|/g, '\\|');
