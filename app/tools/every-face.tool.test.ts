import {
  applyEdit,
  emptyDocument,
  facesOf,
  findNode,
  outlineCentre,
  PictureMaker,
  pickAt,
  samePlane,
  settled,
  spotsOnSheet,
  type CheminDocument,
  type DocumentNode,
  type PlacementNode,
  type ShapeNode,
  type SheetPoint,
} from '@core';
import { facePlaces, type FacePlace } from '../../core/testing/faced-things';
import { base, box, group, solid } from '../../core/testing/things';
import { joinInTests } from '../../core/testing/kernel';
import { placeTool } from '../features/artwork/place.tool';
import { dimensionTool } from '../features/draw/space-tools';
import { circleTool } from '../features/draw/form.tool';
import { USUAL_DRAW, type DrawSettings } from '../features/draw/draw-set';
import { letteringTool } from '../features/build/lettering.tool';
import { openingTool } from '../features/build/opening.tool';
import { USUAL_BUILD } from '../features/build/build-set';
import { planePointAt } from './catching';
import { groundAt } from './ground';
import { ToolBench } from '../testing/tool-bench';

const DRAWING: DrawSettings = { ...USUAL_DRAW, circleBy: 'face' };
const ART = { id: 'art', name: 'art', svg: '<svg viewBox="0 0 4 2"><path d="M0 0H4V2H0Z"/></svg>', width: 4, height: 2 };

/** Each kind of thing that has faces, none of which hides another much. */
const THINGS: Readonly<Record<string, readonly DocumentNode[]>> = {
  extruded: [box('crate', [0, 0, 0], [5, 5, 5])],
  tapered: [box('plinth', [0, 0, 0], [6, 6, 4], { taper: 0.5 })],
  leaning: [box('stack', [0, 0, 0], [5, 5, 4], { lean: { u: 2, v: 0 } })],
  flat: [box('sheet', [0, 0, 0], [6, 6, 0])],
  cylinder: [solid('tank', 'cylinder', [0, 0, 0], [5, 5, 5])],
  cone: [solid('hat', 'cone', [0, 0, 0], [5, 5, 5])],
  'cut box': [group('kiosk', [box('walls', [0, 0, 0], [8, 6, 6]), box('hatch', [2, -1, 1], [4, 4, 6])], 'take away')],
  'cut cylinder': [group('vat', [solid('wall', 'cylinder', [0, 0, 0], [6, 6, 5]), box('notch', [2, -1, 2], [2, 4, 4])], 'take away')],
  'round hole': [group('block', [box('stone', [0, 0, 0], [8, 8, 5]), solid('bore', 'cylinder', [2, 2, 1], [4, 4, 6])], 'take away')],
  joined: [group('house', [box('room', [0, 0, 0], [6, 6, 4]), box('chimney', [1, 1, 3], [2, 2, 4])], 'join')],
  grouped: [group('pair', [box('low', [0, 0, 0], [3, 3, 3]), group('deeper', [box('high', [4, 0, 0], [3, 3, 5])])])],
  'copy of a solid': [box('first', [-20, 0, 0], [5, 5, 5], { hidden: true }), { ...base('copied'), kind: 'copy', of: 'first', by: { a: 20, b: 0, h: 0 } }],
  'copy of a group': [group('two', [box('one', [-20, 0, 0], [3, 3, 3]), box('other', [-16, 0, 0], [3, 3, 5])]), { ...base('copied'), kind: 'copy', of: 'two', by: { a: 20, b: 2, h: 0 } }], // prettier-ignore
  'turned copy': [box('first', [-20, 0, 0], [5, 3, 4]), { ...base('copied'), kind: 'copy', of: 'first', by: { a: 3, b: 20, h: 0 }, axes: ['b', '-a', 'h'] }],
  'mirrored copy': [box('first', [-20, 0, 0], [5, 3, 4]), { ...base('copied'), kind: 'copy', of: 'first', by: { a: 0, b: 0, h: 0 }, axes: ['-a', 'b', 'h'] }],
  'copy of what was cut': [group('kiosk', [box('walls', [-20, 0, 0], [8, 6, 6]), box('hatch', [-18, -1, 1], [4, 4, 6])], 'take away'), { ...base('copied'), kind: 'copy', of: 'kiosk', by: { a: 20, b: 0, h: 0 } }], // prettier-ignore
  'copy of a copy': [box('first', [-20, 0, 0], [5, 5, 5]), { ...base('second'), kind: 'copy', of: 'first', by: { a: 8, b: 0, h: 0 } }, { ...base('copied'), kind: 'copy', of: 'second', by: { a: 12, b: 0, h: 0 } }], // prettier-ignore
};

const sceneOf = (nodes: readonly DocumentNode[]): CheminDocument => applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes, artworks: [ART] });

beforeAll(joinInTests);

describe.each(Object.entries(THINGS))('faces of what is %s', (_, nodes) => {
  let document: CheminDocument;
  let places: readonly FacePlace[];

  beforeAll(async () => {
    document = sceneOf(nodes);
    expect(await settled(document)).toEqual([]);
    places = facePlaces(document);
    expect(places.length).toBeGreaterThan(0);
  });

  it('take artwork where they are pressed and where it is dropped, upright as it is read', () => {
    for (const { seen, at } of places) {
      for (const dropped of [false, true]) {
        const bench = new ToolBench(placeTool, { artwork: 'art', ...(dropped && { dropped: ['art', 'art'] }) }, { kind: 'floor', offset: 0 }, document);
        bench.send({ kind: 'down', at, lock: false, free: false });
        const node = findNode(bench.document, bench.selection[0]!) as PlacementNode;
        expect(node.target).toMatchObject({ kind: 'face', node: seen.shape, face: seen.face });
        expect(bench.selection).toHaveLength(dropped ? 2 : 1);
        // What lies there already is looked through, of a copy too.
        const again = new ToolBench(placeTool, { artwork: 'art' }, { kind: 'floor', offset: 0 }, bench.document);
        again.send({ kind: 'down', at, lock: false, free: false });
        expect((findNode(again.document, again.selection[0]!) as PlacementNode).target).toEqual(node.target);
        expect(groundAt(bench.context, at)?.plane).toEqual(groundAt({ picture: new PictureMaker().make(document) }, at)?.plane);
        // On a round side it lies where it was pressed; in the middle of a flat face something may lie before it.
        const hits = pickAt(bench.context.picture, at, 0, (id) => id === bench.selection[1]);
        if (dropped || seen.surface.form.kind !== 'flat') expect([hits?.node, seen.face]).toEqual([seen.map ? seen.owner : node.id, seen.face]);
        const spots = (x: number, y: number): readonly SheetPoint[] => spotsOnSheet(bench.context.geometry, { ...bench.document, nodes: bench.document.nodes.filter((one) => one.id !== bench.selection[1]) }, 'art', { x, y }); // prettier-ignore
        const [p, q, r] = [spots(0.5, 0.5), spots(0.6, 0.5), spots(0.5, 0.6)];
        const far = ({ x, y }: SheetPoint): number => Math.hypot(x - at.x, y - at.y);
        const near = p.reduce((best, spot, i) => (far(spot) < far(p[best]!) ? i : best), 0);
        const [from, right, down] = [p[near], q[near], r[near]];
        if (from && right && down && !seen.map?.mirrors)
          expect((right.x - from.x) * (down.y - from.y) - (right.y - from.y) * (down.x - from.x)).toBeGreaterThan(0);
        // Only what has no room to lie about its place lies aside.
        if (dropped && from && seen.surface.form.kind === 'flat') expect(far(from)).toBeLessThan(12);
      }
    }
  });

  it('are named once each where artwork is laid by name', () => {
    const faces = facesOf(document);
    expect(faces.length).toBeGreaterThanOrEqual(places.length);
    for (const { seen } of places) expect(faces.some((one) => one.owner === seen.owner && one.face === seen.face && one.inside === seen.inside)).toBe(true);
  });

  it('are measured in their own plane where they are pressed', () => {
    for (const { seen, at } of places) {
      const ground = groundAt({ picture: new PictureMaker().make(document) }, at);
      if (!ground) continue;
      const bench = new ToolBench(dimensionTool, DRAWING, { kind: 'floor', offset: 0 }, document);
      const from = planePointAt(bench.context.on(ground.plane), at)!;
      bench.send({ kind: 'down', at, lock: false, free: true });
      bench.at('down', from.u + 0.7, from.v, { free: true, plane: ground.plane });
      bench.at('down', from.u, from.v + 0.4, { free: true, plane: ground.plane });
      const node = bench.document.nodes.at(-1)!;
      expect([seen.face, node.kind, node.kind === 'dimension' && samePlane(node.plane, ground.plane)]).toEqual([seen.face, 'dimension', true]);
      if (node.kind === 'dimension') expect(node.to.u - node.from.u).toBeCloseTo(0.7, 6);
    }
  });

  it('take lettering, circles and openings, each in its own plane or with a reason', () => {
    for (const { seen, at } of places) {
      const ground = groundAt({ picture: new PictureMaker().make(document) }, at);
      const isFlat = seen.surface.form.kind === 'flat';
      expect(ground !== null).toBe(isFlat);
      const letters = new ToolBench(letteringTool, { ...USUAL_BUILD }, { kind: 'floor', offset: 0 }, document);
      letters.send({ kind: 'move', at, lock: false, free: false });
      expect(letters.ghost).not.toBeNull();
      const circle = new ToolBench(circleTool, DRAWING, { kind: 'floor', offset: 0 }, document);
      circle.send({ kind: 'down', at, lock: false, free: false });
      expect([seen.face, circle.document.nodes.length]).toEqual([seen.face, document.nodes.length + (isFlat ? 1 : 0)]);
      if (isFlat) expect(outlineCentre((circle.document.nodes.at(-1) as ShapeNode).outline)).not.toBeNull();
      const opening = new ToolBench(openingTool, { ...USUAL_BUILD }, { kind: 'floor', offset: 0 }, document);
      opening.send({ kind: 'move', at, lock: false, free: false });
      const host = findNode(document, seen.thing);
      const cuts = isFlat && !(host?.kind === 'shape' && host.depth === 0);
      if (!cuts) {
        expect(opening.ghost!.words).toEqual(['Point at a flat face of a solid']);
        continue;
      }
      opening.send({ kind: 'down', at, lock: false, free: true });
      opening.type(1, 1, 0.5);
      expect([seen.face, JSON.stringify(opening.document.nodes).includes('opening 1')]).toEqual([seen.face, true]);
    }
  });
});
