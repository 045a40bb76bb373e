/** @jest-environment node */
import { execFileSync } from 'node:child_process';

/** What the lint says of an import, by the file that it stands in. */
const CASES: readonly (readonly [string, string, RegExp | null])[] = [
  ['app/platform/some.ts', '../state/view.store', /platform comes before/],
  ['app/platform/some.ts', '../tools/tool', /platform comes before/],
  ['app/tools/some.ts', '../state/view.store', /tools comes before/],
  ['app/state/some.ts', '../drawing/surface', /state comes before/],
  ['app/state/some.ts', '../features/stages', /state comes before/],
  ['app/state/some.ts', '../platform/ids', null],
  ['app/controls/some.ts', '../drawing/surface', /controls comes before/],
  ['app/drawing/some.ts', '../features/draw/rectangle.tool', /drawing comes before/],
  ['app/drawing/some.ts', '../shell/shell.component', /drawing comes before/],
  ['app/drawing/some.ts', '../tools/tool', null],
  ['app/features/draw/some.ts', '../../shell/shell.component', /features comes before/],
  ['app/features/draw/some.ts', '../build/depth.tool', /never import one another/],
  ['app/features/draw/some.ts', '../../state/view.store', null],
  ['app/shell/some.ts', '../features/stages', null],
  ['app/shell/some.ts', '../../core/picture/picture', /by its index alone/],
  ['core/geometry/some.ts', '../picture/picture', /comes before that folder/],
  ['core/picture/some.ts', '../geometry/body', null],
];

describe('the direction of imports', () => {
  it('is held by lint, for the rooms of the application and the folders of core', () => {
    const script = `
      import { ESLint } from 'eslint';
      const eslint = new ESLint();
      const said = [];
      for (const [filePath, from] of ${JSON.stringify(CASES)}) {
        const [result] = await eslint.lintText(\`import { x } from '\${from}';\\nexport const y = x;\\n\`, { filePath });
        said.push(result.messages.filter(({ ruleId }) => ruleId === 'no-restricted-imports').map(({ message }) => message));
      }
      console.log(JSON.stringify(said));
    `;
    const said = JSON.parse(execFileSync('node', ['--input-type=module', '-e', script], { encoding: 'utf8' })) as string[][];
    CASES.forEach(([file, from, wanted], i) => {
      const words = said[i]!.join(' ');
      if (wanted) expect([file, from, words]).toEqual([file, from, expect.stringMatching(wanted)]);
      else expect([file, from, words]).toEqual([file, from, '']);
    });
  });
});
