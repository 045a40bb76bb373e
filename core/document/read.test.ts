import { landing } from '@demo';
import { checkDocument, readProject, writeProject } from './read';
import { emptyDocument, type CheminDocument } from './types';

const good = landing();
const problemsOf = (text: string): string[] => {
  const read = readProject(text);
  return read.ok ? [] : read.problems.map((p) => p.message);
};
const changed = (change: (document: Record<string, never>) => void): string => {
  const copy = JSON.parse(writeProject(good)) as Record<string, never>;
  change(copy);
  return JSON.stringify(copy);
};

describe('project files', () => {
  it('come back as they went out', () => {
    for (const document of [good, emptyDocument('e', 'empty')]) {
      const read = readProject(writeProject(document));
      expect(read.ok && read.value).toEqual(document);
    }
  });

  it('are refused when they are cut short, with line and column', () => {
    const text = writeProject(good);
    expect(problemsOf(text.slice(0, text.length / 2))[0]).toMatch(/damaged.*line \d+, column \d+/);
    expect(problemsOf('')[0]).toMatch(/cut short/);
  });

  it('are refused when they are something else', () => {
    expect(problemsOf('{"type":"FeatureCollection","features":[]}')[0]).toMatch(/not a Chemin project/);
    expect(problemsOf('[1,2,3]')[0]).toMatch(/not a Chemin project/);
    expect(problemsOf('null')[0]).toMatch(/not a Chemin project/);
    expect(problemsOf('PK\u0003\u0004 binary')[0]).toMatch(/damaged/);
  });

  it('are refused when a later version wrote them', () => {
    expect(problemsOf(changed((d) => Object.assign(d, { version: 7 })))[0]).toMatch(/later Chemin \(format 7; this one reads up to 4\)/);
  });

  it('are refused with NaN, with the place', () => {
    expect(problemsOf(writeProject(good).replace('"offset": -2', '"offset": NaN'))[0]).toMatch(/damaged near “NaN”.*line \d+, column 15/);
    expect(problemsOf(changed((d) => Object.assign((d as never as CheminDocument).nodes[0]!, { depth: null })))).toEqual([
      expect.stringMatching(/^nodes\[0\]\.depth: /),
    ]);
    expect(problemsOf(changed((d) => Object.assign((d as never as CheminDocument).nodes[0]!, { depth: 1e300 })))).toEqual([
      'nodes[0].depth: a coordinate lies within a million cells',
    ]);
  });

  it('are refused with 200 levels of groups, before anything is built from them', () => {
    const nested = (levels: number): string => {
      const group = (i: number, inside: string): string => `{"kind":"group","id":"g${i}","name":"g","hidden":false,"locked":false,"children":[${inside}]}`;
      let nodes = '';
      for (let i = 0; i < levels; i++) nodes = group(i, nodes);
      return changed((d) => Object.assign(d, { nodes: [] })).replace('"nodes":[]', `"nodes":[${nodes}]`);
    };
    expect(problemsOf(nested(200))).toEqual([expect.stringMatching(/nested too deeply; groups may be 32 deep/)]);
    expect(problemsOf(nested(36))[0]).toMatch(/more than 32 deep/);
    expect(problemsOf(nested(20))).toEqual([]);
    expect(problemsOf('['.repeat(200_000))[0]).toMatch(/nested too deeply/);
  });

  it('are refused for what does not fit together, each with its place', () => {
    const twice = changed((d) => Object.assign((d as never as CheminDocument).nodes[1]!, { id: 'demo-1' }));
    expect(problemsOf(twice)).toEqual(['nodes[1].id: the id “demo-1” is used twice']);
    const orphan = changed((d) => Object.assign(d, { artworks: [] }));
    expect(problemsOf(orphan)[0]).toMatch(/^nodes\[\d+\]\.children\[\d+\]\.artwork: there is no artwork/);
    const strange = changed((d) => Object.assign(d, { sheet: { ...good.sheet, background: 'url(x)' }, extra: 1 }));
    expect(problemsOf(strange).join()).toMatch(/sheet\.background: a colour is written #rrggbb.*extra/s);
    const points = changed((d) => Object.assign((d as never as { nodes: [{ outline: { points: { id: number }[] } }] }).nodes[0].outline.points[1]!, { id: 1 }));
    expect(problemsOf(points)).toEqual(['nodes[0].outline: two points have one id']);
  });

  it('are refused when their artwork cannot be read', () => {
    const broken = changed((d) => Object.assign((d as never as CheminDocument).artworks[0]!, { svg: '<svg viewBox="0 0 1 1"><path d="M0 0L oops"/></svg>' }));
    expect(problemsOf(broken)[0]).toMatch(/^artworks\[0\]\.svg: line 1: A path cannot be read/);
  });
});

describe('files of format 2', () => {
  it('get an empty palette', () => {
    const { swatches: _swatches, ...rest } = emptyDocument('old', 'old');
    const read = checkDocument({ ...rest, version: 2 });
    expect(read.ok && [read.value.version, read.value.swatches]).toEqual([4, []]);
  });
});
