import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import {
  applyEdit,
  depthFaces,
  drawFace,
  frameFamily,
  gridMarks,
  isometricSetup,
  moveVanishingPoint,
  OrderKeeper,
  PictureMaker,
  planeFrame,
  projectionFrom,
  rangeDirections,
  subjectOf,
  vanishingPoints,
  type CheminDocument,
  type PerspectiveSetup,
  type ShapeNode,
} from '../core/index';
import { landing } from '../demo/index';
import { boxScene } from './scenes';

interface Row {
  readonly what: string;
  readonly ms: number;
  readonly note: string;
}

/** The median time in ms of a function over several runs, after two to warm up. */
function median(run: () => unknown, runs = 15): number {
  for (let i = 0; i < 2; i++) run();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  }).sort((p, q) => p - q);
  return times[runs >> 1]!;
}

/** A camera change: everything about the projection is new, so nothing kept helps. */
function turned(document: CheminDocument, i: number): CheminDocument {
  return { ...document, projection: isometricSetup({ x: 150 + i, y: 150 }) };
}

/** The yardstick: the same faces projected and sorted by the distance of their middles, which is often wrong. */
function plainSort(document: CheminDocument): number {
  const { sight, cell } = new PictureMaker().stageOf(document);
  const directions = rangeDirections(sight);
  const faces = (document.nodes as readonly ShapeNode[]).flatMap((node) => {
    const frame = planeFrame(node.plane, cell)!;
    return depthFaces(node.outline, frame, node.depth, cell).flatMap((face) => {
      const drawn = drawFace(sight, directions, node.id, face.corners, face.normal);
      const distance = face.corners.reduce((sum, c) => sum + c.a + c.b - c.h, 0) / face.corners.length;
      return drawn ? [{ drawn, distance }] : [];
    });
  });
  faces.sort((p, q) => q.distance - p.distance);
  return faces.length;
}

function cameraRows(): Row[] {
  return [167, 334, 667].flatMap((boxes): Row[] => {
    const document = boxScene(boxes);
    let serial = 0;
    const sort = median(() => plainSort(turned(document, serial++)));
    const picture = median(() => new PictureMaker().make(turned(document, serial++)));
    const { sight, directions, cell } = new PictureMaker().stageOf(document);
    const faces = (document.nodes as readonly ShapeNode[]).flatMap((node) =>
      depthFaces(node.outline, planeFrame(node.plane, cell)!, node.depth, cell).flatMap(
        (face) => drawFace(sight, directions, node.id, face.corners, face.normal) ?? [],
      ),
    );
    const order = median(() => new OrderKeeper().update(faces));
    return [
      { what: `${faces.length} faces: project and plain distance sort`, ms: sort, note: 'yardstick' },
      { what: `${faces.length} faces: order alone`, ms: order, note: `${(order / sort).toFixed(2)} x yardstick` },
      { what: `${faces.length} faces: project, order, display list`, ms: picture, note: `${(picture / sort).toFixed(2)} x yardstick` },
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
  const lines = median(() => gridMarks(projectionFrom(moved()), scene.grid, { kind: 'floor', offset: 0 }, seen, { pxPerMm: 4, leastWidth: 0.25 }));
  const demo = { ...landing(), projection: start };
  const demoFrame = median(() => maker.make({ ...demo, projection: moved() }));
  const sceneFrame = median(() => maker.make({ ...scene, projection: moved() }));
  return [
    { what: 'vanishing point dragged: the grid of one plane', ms: lines, note: '' },
    { what: 'vanishing point dragged: the demo drawing', ms: demoFrame, note: `${(demoFrame + lines).toFixed(1)} ms with the grid, of 16.7 a frame` },
    { what: 'vanishing point dragged: 1002 faces of boxes', ms: sceneFrame, note: '' },
  ];
}

function dragRows(): Row[] {
  const document = boxScene(500);
  const maker = new PictureMaker();
  maker.make(document);
  let step = 0;
  const full = median(() => new PictureMaker().make(document));
  const drag = median(() => {
    step++;
    return maker.make(applyEdit(document, { kind: 'move', ids: ['box250'], by: { a: step % 7, b: 0, h: 0 } }));
  }, 40);
  return [
    { what: '500 solids: full rebuild', ms: full, note: '' },
    { what: '500 solids: one dragged, one frame', ms: drag, note: `${(drag / full).toFixed(3)} of a rebuild (wanted under 0.125)` },
  ];
}

/** What the page loads before the drawing can be used: scripts and styles that index.html names. */
function loadRows(): Row[] {
  const folder = 'dist/app';
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  const named = new Set([...page.matchAll(/(?:src|href)="([^"]+\.(?:js|css))"/g)].map((m) => m[1]!));
  const size = [...named].reduce((sum, name) => sum + gzipSync(readFileSync(join(folder, name))).length, gzipSync(page).length);
  const rest = readdirSync(folder).filter((name) => name.endsWith('.js') && !named.has(name) && !/ngsw|safety|worker-basic/.test(name));
  const later = rest.reduce((sum, name) => sum + gzipSync(readFileSync(join(folder, name))).length, 0);
  return [{ what: 'first load, kB gzip', ms: size / 1024, note: `${named.size} files; a further ${(later / 1024).toFixed(0)} kB when first needed` }];
}

const rows = [...cameraRows(), ...steeringRows(), ...dragRows(), ...loadRows()];
const width = Math.max(...rows.map((row) => row.what.length));
for (const row of rows) console.log(`${row.what.padEnd(width)}  ${row.ms.toFixed(2).padStart(9)}  ${row.note}`);
console.log(JSON.stringify(rows));
