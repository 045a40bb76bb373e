import { applyEdit, bodyOf, LampShades, PictureMaker, sunDirection, SunShades, type CheminDocument, type LitBody, type ShapeNode } from '../core/index';
import { landing } from '../demo/index';
import { median, type Row } from './measure';
import { boxScene } from './scenes';

const litOf = (document: CheminDocument): readonly LitBody[] => document.nodes.map((node) => ({ body: bodyOf(node as ShapeNode)!, casts: true, receives: true, half: 0 })); // prettier-ignore
const lit = (document: CheminDocument): CheminDocument => ({ ...document, light: { ...document.light, shadows: { on: true, floor: 0 } } });

/** Shadows from nothing, with the sun turned, with one body dragged, and by a lamp; memory of the largest. */
export function shadowRows(): Row[] {
  const rows: Row[] = [];
  let first = 0;
  for (const boxes of [84, 167, 334, 667]) {
    const bodies = litOf(boxScene(boxes));
    const ms = median(() => new SunShades(sunDirection({ azimuthDeg: 245, elevationDeg: 50 })).update(bodies), 5);
    first ||= ms / (boxes * Math.log(boxes));
    rows.push({ what: `${boxes * 3} faces: shadows of a sun`, ms, note: `${(ms / (boxes * Math.log(boxes)) / first).toFixed(2)} x n log n of the first` });
  }
  const before = process.memoryUsage().heapUsed;
  const kept = new SunShades(sunDirection({ azimuthDeg: 245, elevationDeg: 50 }));
  kept.update(litOf(boxScene(667)));
  rows.push({ what: '2001 faces: memory of what is kept, MB', ms: (process.memoryUsage().heapUsed - before) / 2 ** 20, note: '' });
  const lamp = { at: { a: 9.3, b: 8.2, h: 20.1 }, reach: 100 };
  rows.push({
    what: '250 faces: shadows of a lamp, preview',
    ms: median(() => new LampShades(lamp).update(litOf(boxScene(84)), true), 5),
    note: 'wanted within a frame of 16 ms',
  });
  rows.push({ what: '250 faces: shadows of a lamp', ms: median(() => new LampShades(lamp).update(litOf(boxScene(84))), 3, 1), note: '' }); // prettier-ignore
  const document = lit(boxScene(500));
  const maker = new PictureMaker();
  maker.make(document);
  let step = 0;
  const dragged = median(() => maker.make(applyEdit(document, { kind: 'move', ids: ['box10'], by: { a: ++step % 7, b: 0, h: 0 } }), 'quick'), 30, 10);
  rows.push({ what: '500 solids with shadows: one dragged, one frame', ms: dragged, note: 'wanted within a frame of 16 ms' });
  for (const [name, scene] of [
    ['500 solids', document],
    ['the landing', lit(landing())],
  ] as const) {
    // prettier-ignore
    const turning = new PictureMaker();
    const ms = median(() => turning.make({ ...scene, light: { ...scene.light, sun: { azimuthDeg: 245 + (++step % 40), elevationDeg: 50 } } }, 'quick'), 9);
    const exact = median(() => turning.make({ ...scene, light: { ...scene.light, sun: { azimuthDeg: 245 + (++step % 40), elevationDeg: 50 } } }), 9);
    rows.push({ what: `${name}: sun turned by a degree, exact`, ms: exact, note: '' });
    rows.push({ what: `${name}: sun turned by a degree, preview`, ms, note: 'wanted within a frame of 16 ms' });
  }
  return rows;
}
