import { importSvg } from '../artwork/import-svg';
import { readResolvedSvg } from '../artwork/read-svg';
import { doubleAreaOf } from '../shape/from-segments';
import { rectangleOutline, ringsOf } from '../shape/outline';
import { outlineSegments } from '../shape/segments';
import { applyEdit, type Edit } from './edits';
import { partOf, pastePart, readPart } from './part';
import { shapesFromArtwork } from './shapes-from-svg';
import { emptyDocument, type CheminDocument, type DocumentNode, type ShapeNode } from './types';

let serial = 0;
const newId = (): string => `n${++serial}`;
const shape = (id: string, part: Partial<ShapeNode> = {}): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane: { kind: 'right', offset: 2 },
  outline: rectangleOutline({ u: 0, v: 0 }, { u: 3, v: 2 }),
  depth: 0,
  paint: { fill: 'swatch:sea-4', line: null },
  ...part,
});
const documentOf = (...nodes: DocumentNode[]): CheminDocument => ({
  ...emptyDocument('d', 'd'),
  swatches: [{ id: 'sea', name: 'sea', colour: '#1b6c8c' }],
  nodes,
});

describe('parts on the clipboard', () => {
  it('carry things with their swatches into another drawing, true sizes kept', () => {
    const text = JSON.stringify(partOf(documentOf(shape('a'), shape('b')), ['a']));
    const read = readPart(text);
    if (!read.ok) throw new Error(read.problems[0]!.message);
    const other = { ...emptyDocument('e', 'e'), grid: { ...emptyDocument('e', 'e').grid, cell: 4 } };
    const pasted = pastePart(other, read.value, newId);
    // Eight mm to the cell become four: twice the count.
    expect((pasted.nodes[0] as ShapeNode).outline.points[2]).toMatchObject({ u: 6, v: 4 });
    expect((pasted.nodes[0] as ShapeNode).plane.offset).toBe(4);
    expect(pasted.nodes[0]!.id).not.toBe('a');
    expect(pasted.swatches).toEqual([{ id: 'sea', name: 'sea', colour: '#1b6c8c' }]);
  });

  it('bring the original of a copy along', () => {
    const copy: DocumentNode = { kind: 'copy', id: 'c', name: 'c', hidden: false, locked: false, of: 'a', by: { a: 1, b: 0, h: 0 } };
    const part = partOf(documentOf(shape('a'), copy), ['c']);
    expect(part.nodes.map((node) => node.id)).toEqual(['a', 'c']);
    const { nodes } = pastePart(emptyDocument('e', 'e'), part, newId);
    expect(nodes[1]).toMatchObject({ kind: 'copy', of: nodes[0]!.id });
  });

  it('are refused with their place when they are not what they say', () => {
    const first = (text: string): string => {
      const read = readPart(text);
      return read.ok ? '' : `${read.problems[0]!.path} ${read.problems[0]!.message}`;
    };
    const part = partOf(documentOf(shape('a')), ['a']);
    expect(first('{')).toContain('damaged');
    expect(first('[]')).not.toBe('');
    expect(first(JSON.stringify({ ...part, nodes: [{ ...part.nodes[0], plane: { kind: 'right', offset: null } }] }))).toContain('nodes[0].plane.offset');
    expect(first(JSON.stringify(part).replace('"u":3', '"u":1e309'))).toContain('nodes[0].outline');
    expect(first(JSON.stringify({ ...part, nodes: [{ ...part.nodes[0], paint: { fill: 'url(#x)', line: null } }] }))).toContain('nodes[0].paint');
    let deep: unknown = part.nodes[0];
    for (let i = 0; i < 200; i++) deep = { kind: 'group', id: `g${i}`, name: '', hidden: false, locked: false, children: [deep] };
    expect(first(JSON.stringify({ ...part, nodes: [deep] }))).toContain('groups deep');
    expect(first(`"${'x'.repeat(32_000_001)}"`)).toContain('32 MB');
  });
});

const PATHS = `<svg xmlns="http://www.w3.org/2000/svg" width="96" height="96" viewBox="0 0 96 96">
<path d="M0 0H96V96H0ZM24 24H72V72H24Z" fill="#336699" fill-rule="evenodd"/>
<path d="M0 48C0 0 96 0 96 48" fill="none" stroke="#ff0000" stroke-width="4"/></svg>`;

describe('shapes from SVG', () => {
  const flat = (text: string): Parameters<typeof shapesFromArtwork>[0] => {
    const read = readResolvedSvg(text);
    if (!read.ok) throw new Error(read.problems[0]!.message);
    return read.value;
  };

  it('are outlines with holes and curves, upright on walls and in true size', () => {
    // 96 px are an inch: 25.4 mm, with cells of 12.7 mm two cells.
    const shapes = shapesFromArtwork(flat(PATHS), { kind: 'right', offset: 0 }, { u: 1, v: 1 }, 12.7, 25.4 / 96, newId);
    if (!shapes.ok) throw new Error(shapes.problems[0]!.message);
    const [plate, arch] = shapes.value;
    const area = ringsOf(plate!.outline).map((ring) => Math.abs(doubleAreaOf(outlineSegments(ring))) / 2);
    expect(area).toEqual([expect.closeTo(4, 6), expect.closeTo(1, 6)]);
    expect(plate!.paint).toEqual({ fill: '#336699', line: null });
    expect(arch!.outline.closed).toBe(false);
    expect(outlineSegments(arch!.outline)[0]!.kind).toBe('cubic');
    // What bulges up in the file bulges up on the wall.
    expect(arch!.outline.points[0]).toMatchObject({ u: 1, v: 2, out: { v: 3 } });
    expect(arch!.paint.line).toMatchObject({ colour: '#ff0000', width: expect.closeTo((4 * 25.4) / 96, 6) });
    const left = shapesFromArtwork(flat(PATHS), { kind: 'left', offset: 0 }, { u: 0, v: 0 }, 12.7, 25.4 / 96, newId);
    expect(left.ok && left.value[1]!.outline.points[0]!.u).toBe(2);
  });

  it('are refused where there are too many points, too far, or none', () => {
    const many = `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M0 0${'L1 1'.repeat(120_000)}"/></svg>`;
    const first = (text: string): string => {
      const shapes = shapesFromArtwork(flat(text), { kind: 'sheet', offset: 0 }, { u: 0, v: 0 }, 8, 1, newId);
      return shapes.ok ? '' : shapes.problems[0]!.message;
    };
    expect(first(many)).toContain('120,001 points');
    expect(first('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M0 0L9e6 0"/></svg>')).toContain('100 m');
    expect(first('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M0 0"/></svg>')).toContain('no paths');
  });

  it('come of text that is read safely: scripts, outside references, bombs, NaN and a million points', () => {
    const problems = (text: string): string => {
      const read = importSvg(text, (t) => t);
      return read.ok ? read.notes.map((n) => n.code).join() : read.problems[0]!.code;
    };
    const wrap = (inside: string): string => `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">${inside}<path d="M0 0L1 1L2 0Z"/></svg>`;
    expect(problems(wrap('<script>alert(1)</script>'))).toContain('script');
    expect(problems(wrap('<path d="M0 0L1 1" onclick="x()"/>'))).toContain('script');
    expect(problems(wrap('<image href="https://example.org/x.png"/>'))).toContain('outside-reference');
    expect(problems('<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>' + wrap(''))).toBe('entity-bomb');
    expect(problems(wrap('<path d="M0 0L NaN 1"/>'))).not.toBe('');
    const million = wrap(`<path d="M0 0${'L1 1'.repeat(1_000_000)}"/>`);
    const read = importSvg(million, (t) => t);
    if (read.ok) expect(shapesFromArtwork(read.value.flat, { kind: 'sheet', offset: 0 }, { u: 0, v: 0 }, 8, 1, newId).ok).toBe(false);
    else expect(read.problems[0]!.message).not.toBe('');
    expect(problems('x'.repeat(9_000_000))).toBe('too-large');
  });
});

describe('edits of several things', () => {
  const copy: DocumentNode = { kind: 'copy', id: 'c', name: 'copy', hidden: false, locked: false, of: 'a', by: { a: 5, b: 0, h: 0 } };
  const group = (id: string, ...children: DocumentNode[]): DocumentNode => ({ kind: 'group', id, name: id, hidden: false, locked: false, children });
  const ids = (nodes: readonly DocumentNode[]): unknown[] => nodes.map((node) => (node.kind === 'group' ? [node.id, ids(node.children)] : node.id));
  const after = (document: CheminDocument, edit: Edit): unknown[] => ids(applyEdit(document, edit).nodes);

  it('replace things where the last of them stood', () => {
    const document = documentOf(shape('a'), shape('b'), shape('z'));
    expect(after(document, { kind: 'replace', ids: ['a', 'b'], nodes: [shape('a'), shape('x')] } as Edit)).toEqual(['a', 'x', 'z']);
    expect(after(document, { kind: 'replace', ids: ['b'], nodes: [shape('b'), shape('x')] } as Edit)).toEqual(['a', 'b', 'x', 'z']);
    expect(after(document, { kind: 'replace', ids: ['z', 'a'], nodes: [shape('x')] } as Edit)).toEqual(['x', 'b']);
  });

  it('arrange things before others, into groups and out of them, never into themselves', () => {
    const document = documentOf(shape('a'), group('g', shape('b'), shape('c')), shape('d'));
    expect(after(document, { kind: 'arrange', ids: ['d'], parent: null, before: 'a' })).toEqual(['d', 'a', ['g', ['b', 'c']]]);
    expect(after(document, { kind: 'arrange', ids: ['a', 'd'], parent: 'g', before: 'c' })).toEqual([['g', ['b', 'a', 'd', 'c']]]);
    expect(after(document, { kind: 'arrange', ids: ['c'], parent: null, before: null })).toEqual(['a', ['g', ['b']], 'd', 'c']);
    expect(after(document, { kind: 'arrange', ids: ['g', 'd'], parent: 'g', before: null })).toEqual(['a', ['g', ['b', 'c', 'd']]]);
    expect(() => applyEdit(document, { kind: 'arrange', ids: ['a'], parent: 'd', before: null })).toThrow('not a group');
  });

  it('make copies independent when their original goes', () => {
    const left = applyEdit(documentOf(shape('a'), copy), { kind: 'delete', ids: ['a'] }).nodes;
    expect(left).toHaveLength(1);
    expect(left[0]).toMatchObject({ kind: 'shape', id: 'c', name: 'copy' });
    expect((left[0] as ShapeNode).outline.points[0]).toMatchObject({ u: 5, v: 0 });
  });

  it('change palettes and paints', () => {
    const document = documentOf(shape('a'), shape('b'));
    const next = applyEdit(document, { kind: 'paints', items: [{ id: 'b', paint: { fill: null, line: null } }] } as Edit);
    expect((next.nodes[1] as ShapeNode).paint.fill).toBeNull();
    expect(next.nodes[0]).toBe(document.nodes[0]);
    expect(applyEdit(document, { kind: 'swatches', swatches: [] }).swatches).toEqual([]);
    expect(after(document, { kind: 'add', nodes: [shape('x')], artworks: [], before: 'b' } as Edit)).toEqual(['a', 'x', 'b']);
  });
});
