import { applyEdit, bodyOf, drawBody, PictureMaker, RegionKeeper, type ShapeNode } from '../core/index';
import { median, type Row } from './measure';
import { boxScene } from './scenes';

/** What the viewer's eye sees of every face, from nothing, and with one box moved. */
export function regionRows(): Row[] {
  let first = 0;
  return [334, 667, 1667].flatMap((boxes): Row[] => {
    const document = boxScene(boxes);
    const { view } = new PictureMaker().stageOf(document);
    const bodies = document.nodes.map((node) => drawBody(view, bodyOf(node as ShapeNode)!));
    const faces = bodies.reduce((sum, { surfaces }) => sum + surfaces.length, 0);
    const regions = new RegionKeeper().update(bodies);
    const share = (extent: string): string => `${((100 * regions.filter((region) => region.extent === extent).length) / faces).toFixed(0)} %`;
    const all = median(() => new RegionKeeper().update(bodies), 5);
    first ||= all / (334 * Math.log(334));
    const keeper = new RegionKeeper();
    keeper.update(bodies);
    let step = 0;
    const moved = median(() => {
      const next = applyEdit(document, { kind: 'move', ids: ['box250'], by: { a: (step++ % 7) + 1, b: 0, h: 0 } });
      keeper.update(bodies.map((drawn, i) => (next.nodes[i] === document.nodes[i] ? drawn : drawBody(view, bodyOf(next.nodes[i] as ShapeNode)!))));
    });
    return [
      {
        what: `${faces} faces: visible regions`,
        ms: all,
        note: `${share('whole')} whole, ${share('part')} in part, ${share('none')} hidden; ${(all / (boxes * Math.log(boxes)) / first).toFixed(2)} x n log n of the first`,
      },
      { what: `${faces} faces: visible regions, one box moved`, ms: moved, note: `${(moved / all).toFixed(3)} of all` },
    ];
  });
}
