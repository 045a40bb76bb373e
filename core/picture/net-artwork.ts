import type { Artwork, CheminDocument, DocumentNode, PlacementNode, ShapeNode } from '../document/types';
import { bodyOf } from '../geometry/book';
import { anchorOfNetFace, unfolded, type Net } from '../geometry/unfold';
import { surfaceWord } from '../geometry/words';
import { exactCells } from '../math/exact';
import type { LinePaint } from '../paint/paint';

/** An artwork that is a solid's net, and its placements: each face wears its part. */
export interface NetArtwork {
  readonly artwork: Artwork;
  readonly placements: readonly PlacementNode[];
}

const CUT: LinePaint = { colour: '#2a2333', width: 0.25 };
const FOLD: LinePaint = { colour: '#2a2333', width: 0.25, dashes: [8, 5] };

/** The lines of a net as things of its sheet, in two groups. Open where they are cut on only. */
function linesOf({ cuts, folds }: Net): readonly DocumentNode[] {
  const shape =
    (kind: 'cut' | 'fold', line: LinePaint) =>
    (coords: readonly number[], i: number): ShapeNode => {
      const points = Array.from({ length: coords.length / 2 }, (_, k) => ({ id: k + 1, u: exactCells(coords[2 * k]!), v: exactCells(coords[2 * k + 1]!) }));
      const [first, last] = [points[0]!, points.at(-1)!];
      const closed = points.length > 3 && Math.hypot(first.u - last.u, first.v - last.v) < 1e-6;
      return {
        kind: 'shape',
        id: `net-${kind}-${i + 1}`,
        name: `${kind} ${i + 1}`,
        hidden: false,
        locked: true,
        plane: { kind: 'sheet', offset: 0 },
        outline: { points: closed ? points.slice(0, -1) : points, closed },
        depth: 0,
        paint: { fill: null, line },
      };
    };
  const group = (kind: 'cut' | 'fold', children: readonly ShapeNode[]): DocumentNode => ({
    kind: 'group',
    id: `net-${kind}-lines`,
    name: `${kind} lines`,
    hidden: false,
    locked: true,
    children,
  });
  return [group('fold', folds.map(shape('fold', FOLD))), group('cut', cuts.map(shape('cut', CUT)))];
}

/** What lies on a net besides its lines and the artwork: its size in mm and its lines. */
function sheetOfNet(net: Net, cell: number): Pick<Artwork, 'width' | 'height' | 'unitMm'> {
  return { width: net.width * cell, height: net.height * cell, unitMm: 1 };
}

/** The placements that let each surface of a solid wear its part of its net. */
function worn(host: ShapeNode, net: Net, artwork: string, name: string, newId: () => string): readonly PlacementNode[] {
  return net.faces.flatMap((face): readonly PlacementNode[] => {
    const placed = anchorOfNetFace(face);
    if (!placed) return [];
    const { box, anchor } = placed;
    const share = (n: number, whole: number): number => Math.max(0, Math.min(1, n / whole));
    return [
      {
        kind: 'placement',
        id: newId(),
        name: `${name}, ${surfaceWord(face.surface)}`,
        hidden: false,
        locked: true,
        artwork,
        target: { kind: 'face', node: host.id, face: face.surface.name },
        anchor,
        part: { minX: share(box.minX, net.width), minY: share(box.minY, net.height), maxX: share(box.maxX, net.width), maxY: share(box.maxY, net.height) },
        lit: 1,
      },
    ];
  });
}

/** A solid's surfaces laid out flat as one artwork in true size, and its placements on them. @param id of the artwork */
export function netArtwork(document: CheminDocument, host: ShapeNode, tabs: boolean, newId: () => string, id = newId()): NetArtwork | null {
  const body = bodyOf(host);
  if (!body || body.surfaces.length === 0) return null;
  const net = unfolded(body, { tabs });
  const { cell } = document.grid;
  const name = `${host.name}, net`;
  const artwork: Artwork = { id, name, svg: '', ...sheetOfNet(net, cell), cell, net: { of: host.id, tabs, lines: linesOf(net) } };
  return { artwork, placements: worn(host, net, id, name, newId) };
}
