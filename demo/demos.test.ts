import { checkDocument, digestOf, flattenTree, PictureMaker, SOLID_KINDS } from '@core';
import { demoAssets, DEMOS, type DemoKey } from './index';

describe('the demo drawings', () => {
  it.each(Object.entries(DEMOS))('%s: is a valid document, the same every time, and can be pictured', (_, make) => {
    const document = make();
    const checked = checkDocument(JSON.parse(JSON.stringify(document)));
    expect(checked.ok ? [] : checked.problems).toEqual([]);
    expect(make()).toEqual(document);
    const { marks, uncut } = new PictureMaker().make(document);
    expect(marks.length).toBeGreaterThan(1);
    expect(uncut).toEqual([]);
  });

  it('names its bytes by what they are', async () => {
    for (const key of Object.keys(DEMOS) as DemoKey[]) {
      const assets = demoAssets(key);
      expect(DEMOS[key]().bitmaps.every(({ asset }) => assets.has(asset))).toBe(true);
      for (const [hash, bytes] of assets) expect(await digestOf(bytes)).toBe(hash);
    }
  });

  it('show most kinds of solids, cut ones and letters', () => {
    const nodes = Object.values(DEMOS).flatMap((make) => flattenTree(make().nodes).map(({ node }) => node));
    const kinds = new Set(nodes.flatMap((node) => (node.kind === 'shape' && node.solid ? [node.solid] : [])));
    expect(kinds.size).toBeGreaterThanOrEqual(SOLID_KINDS.length - 1);
    expect(nodes.some((node) => node.kind === 'group' && node.joined)).toBe(true);
    expect(nodes.some((node) => node.kind === 'group' && node.lettering)).toBe(true);
  });
});
