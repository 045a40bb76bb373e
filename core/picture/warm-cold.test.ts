import type * as Core from '../index';
import { applyEdit, type Edit } from '../document/edits';
import { passEdit } from '../document/gate';
import { commitEdit, goToStep, presentDocument, startHistory, type History } from '../document/history';
import { flattenTree } from '../document/tree';
import { emptyDocument, type CheminDocument, type DimensionNode, type DocumentNode, type Light, type PlacementNode, type ShapeNode } from '../document/types';
import { anchorIn, readingFrameOf } from '../geometry/anchor';
import { surfaceNamed } from '../geometry/body';
import { bodyVolume } from '../geometry/body-measures';
import { bodyOf, geometry, OvertakenError, type SpaceNode } from '../geometry/book';
import { joinWith, type JoinKind, type Part } from '../geometry/joined-recipe';
import { joinedBody } from '../joining/join';
import { CoreError } from '../math/errors';
import { handedSheet } from '../output/handed';
import { svgFromSheet } from '../output/paint-svg';
import { FAMILIES as SETUPS } from '../testing/solids';
import { kernelForTests } from '../testing/kernel';
import { randomFrom, runs } from '../testing/random';
import { base, box as plainBox, group, solid, type Triple } from '../testing/things';
import { catchSource } from './catch-source';
import { drawnNodes } from './drawn-nodes';
import { pickAt } from './pick';
import { PictureMaker, type Picture } from './picture';
import { settled } from './settled';

/** The id of a joined thing that no kernel can make. */
const DIES = 'dies';

type Modules = Pick<typeof Core, 'geometry' | 'joinWith' | 'settled'> & { readonly looks: Looks };
interface Looks {
  readonly PictureMaker: typeof PictureMaker;
  readonly pickAt: typeof pickAt;
  readonly catchSource: typeof catchSource;
  readonly drawnNodes: typeof drawnNodes;
  readonly bodyOf: typeof bodyOf;
  readonly bodyVolume: typeof bodyVolume;
  readonly handedSheet: typeof handedSheet;
  readonly svgFromSheet: typeof svgFromSheet;
}

const WARM: Looks = { PictureMaker, pickAt, catchSource, drawnNodes, bodyOf, bodyVolume, handedSheet, svgFromSheet };
/** The same code with caches of its own. */
let cold: Modules;

beforeAll(async () => {
  const kernel = await kernelForTests();
  const join = (parts: readonly Part[], how: JoinKind, id: string): ReturnType<typeof joinedBody> => {
    if (id === DIES) throw new Error('the kernel is gone');
    return joinedBody(kernel, parts, how);
  };
  const newest = new Map<string, number>();
  let serial = 0;
  // Slow, each time differently, and what was asked for before for the same thing is overtaken.
  joinWith(async (parts, how, id, again) => {
    const own = ++serial;
    if (!again) newest.set(id, own);
    for (let tick = (own * 7) % 5; tick > 0; tick--) await Promise.resolve();
    if (!again && newest.get(id) !== own) throw new OvertakenError();
    return join(parts, how, id);
  });
  jest.isolateModules(() => {
    const load = <T extends object>(path: string): T => jest.requireActual<T>(path);
    const book = load<typeof Core>('../geometry/book');
    load<typeof Core>('../geometry/joined-recipe').joinWith((parts, how, id) => Promise.resolve().then(() => join(parts, how, id)));
    cold = {
      geometry: book.geometry,
      joinWith: load<typeof Core>('../geometry/joined-recipe').joinWith,
      settled: load<typeof Core>('./settled').settled,
      looks: {
        PictureMaker: load<Looks>('./picture').PictureMaker,
        pickAt: load<Looks>('./pick').pickAt,
        catchSource: load<Looks>('./catch-source').catchSource,
        drawnNodes: load<Looks>('./drawn-nodes').drawnNodes,
        bodyOf: book.bodyOf,
        bodyVolume: load<Looks>('../geometry/body-measures').bodyVolume,
        handedSheet: load<Looks>('../output/handed').handedSheet,
        svgFromSheet: load<Looks>('../output/paint-svg').svgFromSheet,
      },
    };
  });
});

const SVG = '<svg viewBox="0 0 40 20"><path fill="#123456" stroke="#00ff00" stroke-width="0.4" d="M0 0L40 0C50 10 30 18 40 20L0 20Z"/></svg>';
/** A box of a swatch's colour, or of another. */
const box = (id: string, at: Triple, size: Triple, fill = 'swatch:s1'): ShapeNode => plainBox(id, at, size, { paint: { fill, line: null } });
const dimension = (id: string): DimensionNode => ({ ...base(id), kind: 'dimension', plane: { kind: 'sheet', offset: 0 }, from: { u: 0.5, v: 1 }, to: { u: 5, v: 1 }, along: 'u', apart: 1, colour: '#102030' }); // prettier-ignore

/** A scene in which everything that takes part in a picture is there, few of each. */
function scene(id: string, lift: number, seed: number): CheminDocument {
  const walls = box('walls', [0, 0, 0], [8, 5, 6 + lift]);
  const side = surfaceNamed(bodyOf(walls), 'side:1')!;
  const sign: PlacementNode = { ...base('sign'), kind: 'placement', artwork: 'art', target: { kind: 'face', node: 'walls', face: 'side:1' }, anchor: anchorIn(readingFrameOf(side)!, { x: 1, y: 1, width: 6, height: 3 }) }; // prettier-ignore
  const nodes: DocumentNode[] = [
    group('kiosk', [walls, box('hatch', [2, -1, 2], [4, 3, 2], '#00aa55')], 'take away'),
    sign,
    solid('tank', 'cylinder', [10, 1, 0], [4, 4, 5]),
    ...(seed % 8 === 0 ? [solid('ball', 'ball', [1, 8, lift], [3, 3, 3])] : []),
    box('crate', [9, 6, 0], [3, 2, 2 + lift], '#b0413a'),
    group('pair', [
      box('left', [4, 8, 0], [2, 2, 4]),
      group('inner', [box('over', [5, 9, 1], [3, 2, 2]), solid('peg', 'cylinder', [6, 9, 0], [1, 1, 5])], 'join'),
    ]),
    group(DIES, [box('x', [13, 8, 0], [2, 2, 2]), box('y', [14, 9, 1], [2, 2, 2])], 'join'),
    { ...base('twin'), kind: 'copy', of: 'kiosk', by: { a: 0, b: 13, h: 0 } },
    { ...base('again'), kind: 'copy', of: 'twin', by: { a: 11, b: 0, h: 0 }, axes: ['a', '-b', 'h'] },
    { ...base('measure'), kind: 'dimension', plane: { kind: 'floor', offset: 0 }, from: { u: 9, v: 6, node: 'crate', point: 1 }, to: { u: 12, v: 6 }, along: 'u', apart: -1, colour: '#102030' }, // prettier-ignore
    { ...box('pane', [7, 12, 0], [0.5, 4, 3], '#3377aa'), paint: { fill: '#3377aa', line: null, strength: 0.5 } },
  ];
  const document = { ...emptyDocument(id, id), swatches: [{ id: 's1', name: 'wall', colour: '#c0a080' }] };
  const artworks = [{ id: 'art', name: 'art', svg: SVG, width: 40, height: 20 }, { id: 'plan', name: 'plan', svg: '', width: 60, height: 30, unitMm: 1, background: '#ffeecc', nodes: [dimension('length'), { ...base('art on it'), kind: 'placement' as const, artwork: 'art', target: { kind: 'plane' as const, plane: { kind: 'sheet' as const, offset: 0 } }, anchor: { at: { a: 1, b: 3, h: 0 }, width: 4, height: 2 } }] }]; // prettier-ignore
  const poster: PlacementNode = { ...base('poster'), kind: 'placement', artwork: 'plan', target: { kind: 'plane', plane: { kind: 'right', offset: 0 } }, anchor: { at: { a: 10, b: 0, h: 8 }, width: 6, height: 3 } }; // prettier-ignore
  return applyEdit(document, { kind: 'add', nodes: [...nodes, poster], artworks });
}

/** Changes as people make them, every kind, chosen by a seed. */
class Hand {
  readonly random: () => number;
  private serial = 0;

  constructor(seed: number) {
    this.random = randomFrom(seed);
  }

  one<T>(of: readonly T[]): T {
    return of[Math.floor(this.random() * of.length)]!;
  }

  whole(from: number, to: number): number {
    return from + Math.floor(this.random() * (to - from + 1));
  }

  private light(light: Light): Light {
    const line = { colour: '#2a2333', width: this.one([0.2, 0.6]) };
    const { lamp: _, ...sunny } = light;
    return this.one([
      { ...light, sun: { azimuthDeg: this.whole(0, 359), elevationDeg: this.whole(15, 80) } },
      { ...sunny, lamp: { at: { a: this.whole(-5, 20), b: -6, h: 14 }, reach: 60 } },
      sunny,
      { ...light, shadows: { on: true, ...(this.random() < 0.6 && { floor: 0 }), ...(this.random() < 0.3 && { soft: 1 }), ...(this.random() < 0.3 && { fade: 6 }), ...(this.random() < 0.4 && { contact: 0.5 }), ...(this.random() < 0.3 && { ink: { colour: '#203040', strength: 0.5 } }) } }, // prettier-ignore
      { ...light, shadows: { on: false } },
      { ...light, lines: { contour: { of: this.one(['thing', 'group', 'all']), line }, ...(this.random() < 0.5 && { inner: { smooth: this.random() < 0.5, line } }), ...(this.random() < 0.4 && { highlight: { line, soft: 0.5, strength: 0.6 } }), ...(this.random() < 0.3 && { hidden: { line } }) } }, // prettier-ignore
      { ...light, lines: {} },
      { ...light, fill: this.random() },
      { ...light, keep: 'picture' },
    ]);
  }

  private look(node: DocumentNode): DocumentNode {
    const look = this.one([{ tint: { colour: '#ff8800', share: 0.4 } }, { casts: false }, { receives: false }, { lined: false }, { contour: { colour: '#aa0000', width: 0.8 } }, {}] as const); // prettier-ignore
    return { ...node, ...look } as DocumentNode;
  }

  edit(document: CheminDocument): Edit {
    const entries = flattenTree(document.nodes).map(({ node }) => node);
    const shapes = entries.filter((node): node is ShapeNode => node.kind === 'shape');
    const id = (): string => this.one(entries).id;
    const shape = this.one(shapes);
    const by = { a: this.whole(-2, 2), b: this.whole(-2, 2), h: this.whole(0, 2) };
    const fresh = `n${++this.serial}`;
    const ring = this.one(entries.filter((node) => node.kind === 'group'));
    return this.one<() => Edit>([
      () => ({ kind: 'depth', id: shape.id, depth: this.whole(1, 8) }),
      () => ({ kind: 'depth', id: this.one(['walls', 'hatch', 'over']), depth: this.whole(1, 8) }),
      () => ({ kind: 'move', ids: [id()], by }),
      () => ({ kind: 'move', ids: [this.one(['kiosk', 'hatch', 'pair', 'twin'])], by }),
      () => ({ kind: 'hide', ids: [id()], hidden: this.random() < 0.5 }),
      () => ({ kind: 'lock', ids: [id()], locked: this.random() < 0.5 }),
      () => ({ kind: 'name', id: id(), name: `name ${this.whole(1, 99)}` }),
      () => ({ kind: 'paints', items: [{ id: shape.id, paint: { fill: this.one(['#884422', 'swatch:s1', 'swatch:s1+12']), line: this.random() < 0.3 ? { colour: '#111111', width: 0.4 } : null, ...(this.random() < 0.3 && { strength: 0.6 }) } }] }), // prettier-ignore
      () => ({ kind: 'change', nodes: [this.look(this.one(entries))] }),
      () => ({ kind: 'change', nodes: [{ ...ring, joined: this.one(['join', 'take away', 'overlap']) } as DocumentNode] }),
      () => ({ kind: 'light', light: this.light(document.light) }),
      () => ({ kind: 'light', light: this.light(document.light) }),
      () => ({ kind: 'projection', projection: this.one(SETUPS)[1] }),
      () => ({
        kind: 'sheet',
        sheet: { ...document.sheet, unit: this.one(['mm', 'in', 'px', 'pt']), resolution: this.one([72, 300]), scale: this.one([1, 20]) },
      }),
      () => ({ kind: 'sheet', sheet: { ...document.sheet, width: this.one([297, 420]) } }),
      () => ({ kind: 'grid', grid: { ...document.grid, cell: this.one([4, 6, 10]) } }),
      () => ({ kind: 'recount', cell: this.one([3, 6, 12]) }),
      () => ({ kind: 'swatches', swatches: [{ id: 's1', name: 'wall', colour: this.one(['#c0a080', '#7788aa']) }] }),
      () => ({ kind: 'title', name: `drawing ${this.whole(1, 9)}` }),
      () => ({ kind: 'delete', ids: [id()] }),
      () => ({ kind: 'add', nodes: [box(fresh, [this.whole(-4, 12), this.whole(-4, 12), 0], [this.whole(1, 3), 2, this.whole(1, 6)])], artworks: [] }),
      () => ({
        kind: 'add',
        nodes: [solid(fresh, this.one(['cylinder', 'cone', 'wedge', 'dome']), [this.whole(-4, 12), this.whole(-4, 12), 0], [3, 3, 1.5])],
        artworks: [],
      }),
      () => ({ kind: 'add', nodes: [{ ...base(fresh), kind: 'copy', of: id(), by: { a: this.whole(-9, 9), b: 9, h: 0 } }], artworks: [] }),
      () => ({ kind: 'group', ids: [id()], id: fresh, name: fresh, ...(this.random() < 0.3 && { joined: 'join' as const }) }),
      () => ({ kind: 'ungroup', id: ring?.id ?? 'none' }),
      () => ({ kind: 'arrange', ids: [id()], parent: null, before: this.random() < 0.5 ? (document.nodes[0]?.id ?? null) : null }),
      () => ({ kind: 'flat', artwork: 'plan', edit: { kind: 'move', ids: [this.one(['length', 'art on it'])], by: { a: 0, b: this.whole(-1, 1), h: 0 } } }),
      () => ({ kind: 'flat', artwork: this.one(['plan', 'art']), edit: { kind: 'add', nodes: [dimension(fresh)], artworks: [] } }),
      () => ({ kind: 'artworks', items: [{ id: 'plan', name: 'plan', width: 60, height: 30, unitMm: 1, background: this.one(['#ffeecc', '#ccffee']) }] }),
    ])();
  }
}

/** Everything that a document is shown by; files are written from these marks by what remembers nothing. */
async function shown(document: CheminDocument, looks: Looks, maker: PictureMaker, unjoined: readonly unknown[]): Promise<Record<string, unknown>> {
  const picture: Picture = maker.make(document);
  const { width, height } = document.sheet;
  const places = Array.from({ length: 60 }, (_, i) => ({ x: ((i % 10) + 0.37) * (width / 10), y: (Math.floor(i / 10) + 0.43) * (height / 6) }));
  const caught = (['floor', 'left', 'right'] as const).map((kind) => looks.catchSource(document, { kind, offset: 0 }));
  const figures = looks.drawnNodes(document).map(({ node, owner, within }) => {
    const body = looks.bodyOf(node as SpaceNode);
    return { owner, within, volume: body && looks.bodyVolume(body), bounds: body?.bounds };
  });
  const handed = looks.handedSheet(document, picture, { kind: 'floor', offset: 0 }, { content: 'both', gridFrom: 'drawing', background: true });
  return {
    unjoined,
    marks: picture.marks,
    visible: picture.visible,
    told: [picture.uncut, picture.through, picture.shaded, [...picture.unjoined]],
    picked: places.map((at) => looks.pickAt(picture, at, 1)),
    caught,
    figures,
    file: looks.svgFromSheet(handed, document.name),
  };
}

const SAME = 1e-9;

/** The first place at which two values differ by more than rounding, put together only where there is one; null where they are the same. */
function difference(p: unknown, q: unknown): string | null {
  if (typeof p === 'number' && typeof q === 'number') return Math.abs(p - q) <= SAME * Math.max(1, Math.abs(p)) ? null : `: ${p}, and cold ${q}`;
  if (typeof p !== 'object' || typeof q !== 'object' || !p || !q) return Object.is(p, q) ? null : `: ${String(p)}, and cold ${String(q)}`.slice(0, 600);
  if (isList(p) && isList(q)) {
    for (let i = 0; i < p.length && i < q.length; i++) {
      const found = difference(p[i], q[i]);
      if (found !== null) return `.${i}${found}`;
    }
    return p.length === q.length ? null : `: ${p.length} of them, and cold ${q.length}`;
  }
  for (const key of new Set([...Object.keys(p), ...Object.keys(q)])) {
    const found = difference(p[key as never], q[key as never]);
    if (found !== null) return `.${key}${found}`;
  }
  return null;
}

const isList = (value: object): value is ArrayLike<unknown> => Array.isArray(value) || value instanceof Float64Array;

/** A document as it is read from a file: nothing of it is known from before. */
const clone = (document: CheminDocument): CheminDocument => JSON.parse(JSON.stringify(document)) as CheminDocument;

async function differenceFromCold(document: CheminDocument, maker: PictureMaker): Promise<string | null> {
  const warm = await shown(document, WARM, maker, await settled(document));
  const read = clone(document);
  cold.geometry.turnTo();
  const fresh = await shown(read, cold.looks, new cold.looks.PictureMaker(), await cold.settled(read));
  return difference(warm, fresh);
}

/** Changes in a row. */
const STEPS = 5;

describe('what is shown from warm caches', () => {
  it('is what a document read anew shows, after any way by which it came to be', async () => {
    const counts = { edits: 0, refused: 0, undone: 0, switched: 0, gestures: 0, compared: 0 };
    for (let seed = 0; seed < runs(200); seed++) {
      const hand = new Hand(seed);
      const maker = new PictureMaker();
      const start = scene('one', 0, seed);
      const drawings: History[] = [startHistory(start), startHistory({ ...clone(start), id: 'copy' }), startHistory(scene('other', 1, seed))];
      let open = 0;
      const done: string[] = [];
      for (let step = 0; step < STEPS; step++) {
        const history = drawings[open]!;
        const way = hand.random();
        try {
          if (way < 0.15 && history.position > 0) {
            drawings[open] = goToStep(history, history.position - 1);
            counts.undone++;
            done.push('undo');
          } else if (way < 0.22 && history.position < history.steps.length) {
            drawings[open] = goToStep(history, history.position + 1);
            done.push('redo');
          } else if (way < 0.3) {
            open = hand.whole(0, 2);
            geometry.turnTo();
            counts.switched++;
            done.push(`to ${open}`);
          } else {
            const edit = hand.edit(presentDocument(history));
            done.push(JSON.stringify(edit).slice(0, 160));
            // A gesture shows some frames of its own before.
            if (way < 0.55) {
              counts.gestures++;
              for (let frame = 0; frame < 2; frame++) maker.make(passEdit(presentDocument(history), hand.random() < 0.5 ? edit : hand.edit(presentDocument(history))).document, 'quick'); // prettier-ignore
            }
            drawings[open] = commitEdit(history, edit);
            counts.edits++;
          }
        } catch (error) {
          if (!(error instanceof CoreError)) throw error;
          counts.refused++;
        }
        const document = presentDocument(drawings[open]!);
        // Mostly nobody waits for the kernel.
        if (hand.random() < 0.5) maker.make(document, hand.one(['exact', 'soon']));
        if (step < STEPS - 1 && hand.random() < 0.6) continue;
        counts.compared++;
        const found = await differenceFromCold(document, maker);
        if (found !== null) throw new Error(`seed ${seed}: ${found}\nafter ${done.join('\n')}`);
      }
    }
    console.log(counts);
    expect(counts.compared).toBeGreaterThanOrEqual(runs(200));
    expect(Math.min(counts.undone, counts.switched, counts.gestures)).toBeGreaterThan(0);
  });
});

/** Volume of what is drawn for a node. */
const volumeOf = (document: CheminDocument, id: string): number => {
  const drawn = drawnNodes(document).find(({ owner }) => owner === id)!;
  return bodyVolume(bodyOf(drawn.node as SpaceNode)!)!;
};

/** A box out of which another is taken. */
function cutBox(id: string, height: number): CheminDocument {
  const nodes = [group('kiosk', [box('walls', [0, 0, 0], [8, 5, height]), box('hatch', [2, -1, 2], [4, 3, 2])], 'take away')];
  return applyEdit(emptyDocument(id, id), { kind: 'add', nodes, artworks: [] });
}

describe('what once told something old', () => {
  const maker = new PictureMaker();

  it('a join that another has overtaken is made when it is wanted again', async () => {
    geometry.turnTo();
    let history = startHistory(cutBox('overtaken', 6));
    maker.make(presentDocument(history));
    history = commitEdit(history, { kind: 'depth', id: 'walls', depth: 7 });
    maker.make(presentDocument(history));
    history = goToStep(history, 0);
    maker.make(presentDocument(history));
    expect(await differenceFromCold(presentDocument(history), maker)).toBeNull();
    expect(volumeOf(presentDocument(history), 'kiosk')).toBeCloseTo(8 * 5 * 6 - 4 * 2 * 2, 6);
  });

  it('a drawing whose things have the ids of another’s shows none of their bodies', async () => {
    const here = cutBox('here', 6);
    geometry.turnTo();
    await settled(here);
    maker.make(here);
    geometry.turnTo();
    const copy = cutBox('copy', 9);
    // Before its own is made there are its parts, not what the other drawing has.
    expect(maker.make(copy).unjoined.get('kiosk')).toMatchObject({ state: 'pending' });
    expect(volumeOf(copy, 'kiosk')).not.toBeCloseTo(8 * 5 * 6 - 4 * 2 * 2, 6);
    expect(await differenceFromCold(copy, maker)).toBeNull();
    expect(volumeOf(copy, 'kiosk')).toBeCloseTo(8 * 5 * 9 - 4 * 2 * 2, 6);
  });

  it('dimensions on the sheet of an artwork follow the unit and the resolution', async () => {
    let history = startHistory(scene('unit', 0, 0));
    await settled(presentDocument(history));
    for (const part of [{ unit: 'px' }, { resolution: 72 }, { unit: 'in' }] as const) {
      const before = JSON.stringify(maker.make(presentDocument(history)).marks);
      history = commitEdit(history, { kind: 'sheet', sheet: { ...presentDocument(history).sheet, ...part } });
      expect(await differenceFromCold(presentDocument(history), maker)).toBeNull();
      expect(JSON.stringify(maker.make(presentDocument(history)).marks) === before).toBe(false);
    }
    history = goToStep(history, 0);
    expect(await differenceFromCold(presentDocument(history), maker)).toBeNull();
  });

  it('what is being joined, and what cannot be, is told apart from what is joined', async () => {
    geometry.turnTo();
    const nodes = [group(DIES, [box('x', [13, 8, 0], [2, 2, 2]), box('y', [14, 9, 1], [2, 2, 2])], 'join'), group('fine', [box('p', [0, 0, 0], [2, 2, 2]), box('q', [1, 1, 1], [2, 2, 2])], 'join')]; // prettier-ignore
    const document = applyEdit(emptyDocument('told', 'told'), { kind: 'add', nodes, artworks: [] });
    expect([...maker.make(document).unjoined.values()].map(({ state }) => state)).toEqual(['pending', 'pending']);
    expect((await settled(document)).map(({ name }) => name)).toEqual([DIES]);
    expect([...maker.make(document).unjoined]).toEqual([[DIES, { state: 'failed', reason: 'the kernel is gone' }]]);
    expect(await differenceFromCold(document, maker)).toBeNull();
  });
});
