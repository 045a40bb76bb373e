import { applyEdit } from '../document/edits';
import { readProject, writeProject } from '../document/read';
import { emptyDocument, type CheminDocument, type GroupNode, type PlacementNode, type ShapeNode } from '../document/types';
import { anchorIn, readingFrameOf } from '../geometry/anchor';
import { surfaceNamed } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import { joinWith } from '../geometry/joined-recipe';
import { joinedBody } from '../joining/join';
import { kernelForTests } from '../testing/kernel';
import { rectangleOutline } from '../shape/outline';
import { pickAt } from './pick';
import { PictureMaker, type Picture } from './picture';
import { settled } from './settled';
import { sheetFromWorld } from '../projection/projection';

beforeAll(async () => {
  const kernel = await kernelForTests();
  joinWith((parts, how) => Promise.resolve(joinedBody(kernel, parts, how)));
});

const SVG = '<svg viewBox="0 0 40 20"><path fill="#123456" d="M0 0L40 0L40 20L0 20Z"/></svg>';

const box = (id: string, [a, b, h]: readonly number[], [w, l, t]: readonly number[], fill: string): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: h! },
  outline: rectangleOutline({ u: a!, v: b! }, { u: a! + w!, v: b! + l! }),
  depth: t!,
  paint: { fill, line: null },
});

/** A kiosk with a hatch cut into its right side, its top painted by itself, artwork hung over the hatch. */
function kiosk(): CheminDocument {
  const walls: ShapeNode = { ...box('walls', [0, 0, 0], [8, 5, 6], '#c0a080'), surfaces: { end: { fill: '#ff0000', line: null } } };
  const hatch = box('hatch', [2, -1, 2], [4, 3, 2], '#00aa55');
  const side = surfaceNamed(bodyOf(walls), 'side:1')!;
  const sign: PlacementNode = { kind: 'placement', id: 'sign', name: 'sign', hidden: false, locked: false, artwork: 'art', target: { kind: 'face', node: 'walls', face: 'side:1' }, anchor: anchorIn(readingFrameOf(side)!, { x: 1, y: 1, width: 6, height: 3 }) }; // prettier-ignore
  const group: GroupNode = { kind: 'group', id: 'kiosk', name: 'kiosk', hidden: false, locked: false, children: [walls, hatch], joined: 'take away' };
  return applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [group, sign], artworks: [{ id: 'art', name: 'art', svg: SVG, width: 40, height: 20 }] });
}

async function picture(document: CheminDocument): Promise<Picture> {
  await settled(document);
  return new PictureMaker().make(document);
}

/** What is pointed at over a place of the world in cells. */
function at(document: CheminDocument, made: Picture, a: number, b: number, h: number): ReturnType<typeof pickAt> {
  const { cell, sight } = new PictureMaker().stageOf(document);
  return pickAt(made, sheetFromWorld(sight.projection, { a: a * cell, b: b * cell, h: h * cell })!, 0);
}

const hues = (made: Picture): string => JSON.stringify(made.marks);

describe('the picture of solids that are one', () => {
  it('paints each surface as the part has it that it came from', async () => {
    const document = kiosk();
    const made = await picture(document);
    const top = at(document, made, 4, 3, 6)!;
    expect([top.node, top.part]).toEqual(['kiosk', { node: 'walls', name: 'end' }]);
    expect(at(document, made, 3, 1, 2)!.part?.node).toBe('hatch');
    const plain = applyEdit(document, { kind: 'paint', ids: ['hatch'], paint: { fill: '#0055aa', line: null } });
    expect(hues(await picture(plain))).not.toBe(hues(made));
    expect(made.marks.map(({ name }) => name)).toContain('kiosk');
  });

  it('keeps artwork on a face that is cut into, where it was, seen on what is left', async () => {
    const document = kiosk();
    const made = await picture(document);
    expect(at(document, made, 1.5, 0, 3)!.node).toBe('sign');
    // Through the hatch its own floor is seen, not the artwork.
    expect(at(document, made, 4, 1, 2)!.part?.node).toBe('hatch');
    const moved = applyEdit(document, { kind: 'move', ids: ['hatch'], by: { a: 1.5, b: 0, h: 0 } });
    const after = await picture(moved);
    expect(at(moved, after, 2.5, 0, 3)!.node).toBe('sign');
    expect(moved.nodes[1]).toEqual(document.nodes[1]);
  });

  it('is the same after saving and loading', async () => {
    const document = kiosk();
    const read = readProject(writeProject(document));
    if (!read.ok) throw new Error('not read');
    expect(hues(await picture(read.value))).toBe(hues(await picture(document)));
  });

  it('shows copies of it, with what lies on its faces', async () => {
    const document = applyEdit(kiosk(), { kind: 'add', nodes: [{ kind: 'copy', id: 'twin', name: 'twin', hidden: false, locked: false, of: 'kiosk', by: { a: -12, b: 0, h: 0 } }], artworks: [] }); // prettier-ignore
    const made = await picture(document);
    expect(at(document, made, 4 - 12, 3, 6)).toMatchObject({ node: 'twin', part: { node: 'walls', name: 'end' } });
    expect(at(document, made, 1.5 - 12, 0, 3)!.node).toBe('twin');
  });
});

describe('solids of which nothing is left', () => {
  it('are told, where they only touch and where all is taken away', async () => {
    const two = (joined: 'overlap' | 'take away', second: ShapeNode): CheminDocument => {
      const group: GroupNode = { kind: 'group', id: 'whole', name: 'whole', hidden: false, locked: false, children: [box('first', [0, 0, 0], [4, 4, 4], '#c0a080'), second], joined }; // prettier-ignore
      return applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [group], artworks: [] });
    };
    const emptied = async (document: CheminDocument): Promise<readonly string[]> => (await picture(document)).emptied;
    expect(await emptied(two('overlap', box('second', [4, 0, 0], [4, 4, 4], '#00aa55')))).toEqual(['whole']);
    expect(await emptied(two('overlap', box('second', [3, 0, 0], [4, 4, 4], '#00aa55')))).toEqual([]);
    expect(await emptied(two('take away', box('second', [-1, -1, -1], [6, 6, 6], '#00aa55')))).toEqual(['whole']);
    expect(await emptied(kiosk())).toEqual([]);
  });
});
