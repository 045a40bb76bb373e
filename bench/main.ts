import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import {
  applyEdit,
  catchAt,
  CatchIndex,
  catchSource,
  bodyOf,
  drawBody,
  ellipseOutline,
  emptyDocument,
  frameFamily,
  gridMarks,
  indexOf,
  isometricSetup,
  moveVanishingPoint,
  OrderKeeper,
  PictureMaker,
  projectionFrom,
  rectangleOutline,
  subjectOf,
  vanishingPoints,
  type CatchSource,
  type CheminDocument,
  type PerspectiveSetup,
  type ShapeNode,
} from '../core/index';
import { landing } from '../demo/index';
import { bitmapRows } from './bitmaps';
import { manyRows, openingRows, placementRows, roundRows, typedRows } from './edits';
import { median, type Row } from './measure';
import { photoRows } from './photos';
import { regionRows } from './regions';
import { boxScene } from './scenes';
import { shadowRows } from './shadows';
import { solidRows } from './solids';

/** A camera change: everything about the projection is new, so nothing kept helps. */
function turned(document: CheminDocument, i: number): CheminDocument {
  return { ...document, projection: isometricSetup({ x: 150 + i, y: 150 }) };
}

/** The yardstick: the same faces projected and sorted by the distance of their middles, which is often wrong. */
function plainSort(document: CheminDocument): number {
  const { view } = new PictureMaker().stageOf(document);
  const faces = document.nodes.flatMap((node) =>
    drawBody(view, bodyOf(node as ShapeNode)!).surfaces.map((drawn) => {
      const corners = drawn.surface!.loops[0]!;
      let distance = 0;
      for (let i = 0; i < corners.length; i += 3) distance += corners[i]! + corners[i + 1]! - corners[i + 2]!;
      return { drawn, distance: (3 * distance) / corners.length };
    }),
  );
  faces.sort((p, q) => q.distance - p.distance);
  return faces.length;
}

function cameraRows(): Row[] {
  return [167, 334, 667, 1667].flatMap((boxes): Row[] => {
    const document = boxScene(boxes);
    let serial = 0;
    const sort = median(() => plainSort(turned(document, serial++)));
    const picture = median(() => new PictureMaker().make(turned(document, serial++)));
    const { view } = new PictureMaker().stageOf(document);
    const bodies = document.nodes.map((node) => drawBody(view, bodyOf(node as ShapeNode)!));
    const faces = bodies.flatMap(({ surfaces }) => surfaces);
    const order = median(() => new OrderKeeper().update(bodies));
    return [
      { what: `${faces.length} faces: project and plain distance sort`, ms: sort, note: 'yardstick' },
      { what: `${faces.length} faces: order alone`, ms: order, note: `${(order / sort).toFixed(2)} x yardstick (wanted at most 0.6)` },
      {
        what: `${faces.length} faces: project, order, display list`,
        ms: picture,
        note: `${(picture / sort).toFixed(2)} x yardstick (wanted at most 1.0 for 2,001)`,
      },
    ];
  });
}

/** What a frame costs while a vanishing point is dragged: drawing and grid anew, and strokes solved. */
function steeringRows(): Row[] {
  const scene = boxScene(334);
  const subject = subjectOf(scene, new PictureMaker().stageOf(scene));
  const start = frameFamily('two-point', subject, { middle: { x: 150, y: 100 }, width: 200, height: 130 }) as PerspectiveSetup;
  const a = vanishingPoints(start).a;
  const seen = { minX: 0, minY: 0, maxX: 300, maxY: 200 };
  const maker = new PictureMaker();
  let step = 0;
  const moved = (): PerspectiveSetup => {
    const steered = moveVanishingPoint(start, 'a', { x: a.x + (step++ % 40), y: a.y });
    return steered.ok ? steered.setup : steered.nearest;
  };
  const lines = median(() => gridMarks(projectionFrom(moved()), scene.grid, { kind: 'floor', offset: 0 }, seen, { pxPerMm: 4, leastWidth: 0.25 }), 60, 60);
  const demo = { ...landing(), projection: start };
  const demoFrame = median(() => maker.make({ ...demo, projection: moved() }, 'quick'), 60, 60);
  const sceneFrame = median(() => maker.make({ ...scene, projection: moved() }, 'quick'), 30, 30);
  return [
    { what: 'vanishing point dragged: the grid of one plane', ms: lines, note: '' },
    { what: 'vanishing point dragged: the demo drawing', ms: demoFrame, note: `${(demoFrame + lines).toFixed(1)} ms with the grid (wanted under 12)` },
    { what: 'vanishing point dragged: 1002 faces of boxes', ms: sceneFrame, note: '' },
  ];
}

function dragRows(): Row[] {
  const document = boxScene(500);
  const maker = new PictureMaker();
  maker.make(document);
  let step = 0;
  const full = median(() => new PictureMaker().make(document), 30, 30);
  const drag = median(
    () => {
      step++;
      return maker.make(applyEdit(document, { kind: 'move', ids: ['box250'], by: { a: step % 7, b: 0, h: 0 } }), 'quick');
    },
    60,
    60,
  );
  return [
    { what: '500 solids: full rebuild', ms: full, note: '' },
    { what: '500 solids: one dragged, one frame', ms: drag, note: `${(drag / full).toFixed(3)} of a rebuild (wanted under 0.125)` },
  ];
}

/** Snapping among many points and edges: the index built once, then a pointer's move. */
function snapRows(): Row[] {
  const options = { sheetFromPlane: [8, 0, 0, 0, 8, 0, 0, 0, 1], pxPerUnit: 4, grid: true } as const;
  const times = [1250, 2500, 5000, 10_000].map((count) => {
    const source = scattered(count);
    const build = median(() => new CatchIndex({ ...source }));
    indexOf(source);
    let step = 0;
    const move = median(() => {
      for (let i = 0; i < 100; i++) catchAt({ u: (step++ * 7.3) % 300, v: (step * 3.1) % 300 }, source, options);
    });
    return { count, build, move: move / 100 };
  });
  const [first, last] = [times[0]!, times.at(-1)!];
  // Eight times as many: n log n gives 8 x log(8n)/log(n).
  const allowed = 8 * (Math.log(last.count) / Math.log(first.count));
  return times.flatMap(({ count, build, move }, i): Row[] => [
    {
      what: `${count} points and edges: index`,
      ms: build,
      note: i === 3 ? `grew ${(build / first.build).toFixed(1)} x for 8 x as many (n log n: ${allowed.toFixed(1)} x)` : '',
    },
    { what: `${count} points and edges: a pointer's move`, ms: move, note: i === 3 ? `${(move / first.move).toFixed(1)} x that among ${first.count}` : '' },
  ]);
}

function scattered(count: number): CatchSource {
  let state = 7;
  const pick = (): number => ((state = (state * 48_271) % 2_147_483_647) % 30_000) / 100;
  const points = Array.from({ length: count }, () => ({ u: pick(), v: pick() }));
  return { points, edges: points.map((p) => [p, { u: p.u + 1, v: p.v + 0.5 }] as const), centres: [], chords: [] };
}

/** Display list and marks of many flat shapes on the planes, and of the same with one moved. */
function shapeRows(): Row[] {
  const times = [625, 1250, 2500, 5000].map((count) => {
    const document = flatScene(count);
    const maker = new PictureMaker();
    const picture = median(() => new PictureMaker().make(document), 7);
    maker.make(document);
    let step = 0;
    const moved = median(() => maker.make(applyEdit(document, { kind: 'move', ids: ['s7'], by: { a: (step++ % 5) + 1, b: 0, h: 0 } })), 15);
    const source = median(() => catchSource(document, { kind: 'floor', offset: 0 }), 7);
    return { count, picture, moved, source };
  });
  const [first, last] = [times[0]!, times.at(-1)!];
  const allowed = 8 * (Math.log(last.count) / Math.log(first.count));
  return times.flatMap(({ count, picture, moved, source }, i): Row[] => [
    {
      what: `${count} flat shapes: picture`,
      ms: picture,
      note: i === 3 ? `grew ${(picture / first.picture).toFixed(1)} x for 8 x as many (n log n: ${allowed.toFixed(1)} x)` : '',
    },
    { what: `${count} flat shapes: one moved`, ms: moved, note: '' },
    { what: `${count} flat shapes: what can be caught`, ms: source, note: '' },
  ]);
}

/** Shapes in rows on the floor and both walls: boxes, circles and rounded boxes that touch no other. */
function flatScene(count: number): CheminDocument {
  const nodes = Array.from({ length: count }, (_, i): ShapeNode => {
    const kind = (['floor', 'left', 'right'] as const)[i % 3]!;
    const k = Math.floor(i / 3);
    const at = { u: (k % 40) * 3, v: Math.floor(k / 40) * 3 };
    const box = rectangleOutline(at, { u: at.u + 2, v: at.v + 2 });
    const round = { ...box, points: box.points.map((p) => ({ ...p, corner: { kind: 'round' as const, size: 0.4 } })) };
    const outline = i % 5 === 0 ? ellipseOutline({ u: at.u + 1, v: at.v + 1 }, { u: 1, v: 1 }) : i % 5 === 1 ? round : box;
    return {
      kind: 'shape',
      id: `s${i}`,
      name: `s${i}`,
      hidden: false,
      locked: false,
      plane: { kind, offset: 0 },
      outline,
      depth: 0,
      paint: { fill: '#8899aa', line: null },
    };
  });
  return { ...emptyDocument('flat', 'flat'), nodes };
}

/** What the page loads before the drawing can be used: what index.html names, and all that this imports at once. */
function loadRows(): Row[] {
  const folder = 'dist/app';
  const text = (name: string): string => readFileSync(join(folder, name), 'utf8');
  const page = text('index.html');
  const needed = new Set<string>();
  const add = (name: string): void => {
    if (needed.has(name)) return;
    needed.add(name);
    for (const found of text(name).matchAll(/(?:import|from)\s*"\.\/([^"]+\.js)"/g)) add(found[1]!);
  };
  for (const found of page.matchAll(/(?:src|href)="([^"]+\.(?:js|css))"/g)) add(found[1]!);
  const kB = (names: Iterable<string>): number => [...names].reduce((sum, name) => sum + gzipSync(text(name)).length, 0) / 1024;
  const rest = readdirSync(folder).filter((name) => name.endsWith('.js') && !needed.has(name) && !/ngsw|safety|worker-basic/.test(name));
  const size = kB(needed) + gzipSync(page).length / 1024;
  return [{ what: 'first load, kB gzip', ms: size, note: `${needed.size} files; a further ${kB(rest).toFixed(0)} kB when first needed` }];
}

const rows = [
  ...cameraRows(),
  ...regionRows(),
  ...steeringRows(),
  ...dragRows(),
  ...snapRows(),
  ...shapeRows(),
  ...roundRows(),
  ...placementRows(),
  ...typedRows(),
  ...(await solidRows()),
  ...manyRows(),
  ...openingRows(),
  ...shadowRows(),
  ...bitmapRows(),
  ...photoRows(),
  ...loadRows(),
];
const width = Math.max(...rows.map((row) => row.what.length));
for (const row of rows) console.log(`${row.what.padEnd(width)}  ${row.ms.toFixed(2).padStart(9)}  ${row.note}`);
console.log(JSON.stringify(rows));
