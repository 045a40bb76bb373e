import { applyEdit, bodyOf, emptyDocument, outlineThrough, rectangleOutline, type CheminDocument, type GroupNode, type Plane, type ShapeNode } from '@core';
import { ToolBench } from '../../testing/tool-bench';
import { USUAL_BUILD } from './build-set';
import { openingTool, type OpeningState } from './opening.tool';

const box = (id: string, from: number, to: number, height: number): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 0 },
  outline: rectangleOutline({ u: from, v: 0 }, { u: to, v: 4 }),
  depth: height,
  paint: { fill: '#336699', line: null },
});

/** A kiosk of 8 x 4 x 6 cells, with artwork hung on its right side. */
function kiosk(): CheminDocument {
  return applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [box('kiosk', 0, 8, 6)], artworks: [] });
}

const RIGHT: Plane = { kind: 'right', offset: 0 };
const TOP: Plane = { kind: 'floor', offset: 6 };
const bench = (set: Partial<typeof USUAL_BUILD> = {}): ToolBench<OpeningState, typeof USUAL_BUILD> =>
  new ToolBench(openingTool, { ...USUAL_BUILD, ...set }, { kind: 'floor', offset: 0 }, kiosk());

describe('an opening', () => {
  it('is pressed into the face under the pointer in one act, and stays a shape', () => {
    const one = bench().press(1, 2, { plane: RIGHT }).press(5, 5, { plane: RIGHT });
    expect(one.fields).toEqual(['depth']);
    one.type(2);
    const [group] = one.document.nodes as [GroupNode];
    expect(group).toMatchObject({ kind: 'group', name: 'kiosk', joined: 'take away' });
    const [host, cutter] = group.children as [ShapeNode, ShapeNode];
    expect([host.id, cutter.name, cutter.paint.fill]).toEqual(['kiosk', 'opening 1', '#14497a']);
    expect(bodyOf(cutter)!.bounds).toEqual({ min: { a: 1, b: 0, h: 2 }, max: { a: 5, b: 2, h: 5 } });
    expect(one.selection).toEqual([cutter.id]);
  });

  it('takes its width, height and depth typed, and goes deeper with the pointer', () => {
    const typed = bench().press(1, 2, { plane: RIGHT }).at('move', 2, 3, { plane: RIGHT });
    expect(typed.fields).toEqual(['width', 'height', 'depth']);
    typed.type(4, 3, 1.5);
    expect(bodyOf((typed.document.nodes[0] as GroupNode).children[1] as ShapeNode)!.bounds.max).toEqual({ a: 5, b: 1.5, h: 5 });
    const drawn = bench().press(1, 2, { plane: RIGHT }).press(5, 5, { plane: RIGHT });
    drawn.at('move', 5, 3, { plane: { kind: 'floor', offset: 5 } });
    expect(drawn.preview).toMatchObject({ kind: 'replace', ids: ['kiosk'] });
    expect(drawn.ghost!.words[0]).toContain('3\u2009cells');
  });

  it('says while it is drawn that it leaves its face or goes deeper than the solid', () => {
    const told = (to: readonly [number, number], depth?: number): readonly string[] => {
      const one = bench()
        .press(1, 2, { plane: RIGHT })
        .at('move', ...to, { plane: RIGHT });
      if (depth !== undefined) one.press(...to, { plane: RIGHT }).at('move', to[0], depth, { plane: { kind: 'floor', offset: to[1] } });
      return one.ghost!.words;
    };
    expect(told([8, 6]).join()).not.toMatch(/leaves|deeper/);
    expect(told([9, 5])).toContain('leaves its face');
    expect(told([5, 5], 4).join()).not.toMatch(/leaves|deeper/);
    expect(told([5, 5], 5)).toContain('deeper than the solid: right through');
    const round = bench({ openingShape: 'ellipse' }).press(1, 1, { plane: RIGHT }).at('move', 7, 5, { plane: RIGHT });
    expect(round.ghost!.words.join()).not.toContain('leaves');
  });

  it('joins the openings that are there already, and goes right through where that is set', () => {
    const one = bench({ through: true, openingShape: 'ellipse' });
    one.press(1, 1, { plane: TOP }).press(3, 3, { plane: TOP });
    one.press(5, 1, { plane: TOP }).press(7, 3, { plane: TOP });
    expect(one.document.nodes).toHaveLength(1);
    const { children } = one.document.nodes[0] as GroupNode;
    expect(children.map((node) => [node.name, (node as ShapeNode).solid ?? ''])).toEqual([['kiosk, solid', ''], ['opening 1', 'cylinder'], ['opening 2', 'cylinder']]); // prettier-ignore
    expect(bodyOf(children[2] as ShapeNode)!.bounds.min.h).toBe(-1);
  });

  it('may be a flat shape that lies on the face, pressed in as it is', () => {
    const one = bench();
    const star: ShapeNode = { ...box('star', 0, 1, 0), name: 'a roof light', plane: TOP, outline: outlineThrough([{ u: 2, v: 1 }, { u: 6, v: 1 }, { u: 4, v: 3 }], true), paint: { fill: '#ff0000', line: null } }; // prettier-ignore
    one.document = applyEdit(one.document, { kind: 'add', nodes: [star], artworks: [] });
    one.at('move', 4, 1.5, { plane: TOP });
    expect(one.ghost!.words).toEqual(['Press a roof light in']);
    one.press(4, 1.5, { plane: TOP });
    expect(one.fields).toEqual(['depth']);
    one.type(1.5);
    const [group] = one.document.nodes as [GroupNode];
    expect(one.document.nodes).toHaveLength(1);
    expect(group.children.map(({ id, name }) => [id, name])).toEqual([['kiosk', 'kiosk, solid'], ['star', 'a roof light']]); // prettier-ignore
    expect(group.children[1]).toMatchObject({ outline: star.outline, depth: -1.5, paint: { fill: '#245889' } });
    const through = bench({ through: true });
    through.document = applyEdit(through.document, { kind: 'add', nodes: [{ ...star, plane: RIGHT }], artworks: [] });
    through.press(4, 1.5, { plane: RIGHT });
    expect(bodyOf((through.document.nodes[0] as GroupNode).children[1] as ShapeNode)!.bounds).toMatchObject({ min: { b: 0 }, max: { b: 5 } });
  });

  it('is drawn over a flat shape that does not lie on the face', () => {
    const one = bench();
    one.document = applyEdit(one.document, { kind: 'add', nodes: [{ ...box('lid', 0, 8, 0), plane: { kind: 'floor', offset: 7 } }], artworks: [] });
    one.at('move', 4, 2, { plane: { kind: 'floor', offset: 7 } });
    expect(one.ghost!.words[0]).not.toContain('Press');
  });

  it('leaves the sheet, flat shapes and locked things alone', () => {
    const one = bench().at('move', 20, 20);
    expect(one.ghost!.words[0]).toBe('Point at a flat face of a solid');
    one.document = applyEdit(one.document, { kind: 'lock', ids: ['kiosk'], locked: true });
    one.press(1, 2, { plane: RIGHT });
    expect(one.fields).toEqual([]);
    expect(one.key('Escape').document.nodes).toHaveLength(1);
  });
});
