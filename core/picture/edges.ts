import type { CheminDocument } from '../document/types';
import type { Body, Surface } from '../geometry/body';
import { sheetFromFrame, type PlaneFrame } from '../projection/planes';
import type { EyeMatrix } from '../projection/projection';
import { drawSegments } from '../shape/draw-segments';
import { polylinePath, type Path } from '../shape/path';
import type { Segment } from '../shape/segments';
import { surfaceRings, worldPoints } from '../geometry/body';
import { sheetFromWorld } from '../projection/projection';
import { spherePath } from '../visibility/sphere-view';
import { drawnBody, drawnNodes } from './drawn-nodes';
import type { Stage } from './stage';

/**
 * Every edge of what is drawn in space, hidden ones too, on the sheet: boundaries of flat surfaces, rims and cut edges of
 * round ones, outlines of balls, each once. What lies before the near plane is left out.
 */
export function everyEdge(document: CheminDocument, { view }: Stage): readonly Path[] {
  const { projection } = view.sight;
  return drawnNodes(document).flatMap((drawn) => {
    const body = drawn.hidden || drawn.node.kind === 'placement' ? null : drawnBody(drawn);
    return body?.closed ? onceEach(edgesOf(body, projection)) : [];
  });
}

/** Parts of a mm within which two edges are one. */
const SAME = 1e-3;

/** Edges without those that a neighbouring surface has given already: by their ends and their middle. */
function onceEach(paths: readonly Path[]): readonly Path[] {
  const seen = new Set<string>();
  return paths.filter(({ coords }) => {
    const n = coords.length;
    const place = (x: number, y: number): string => `${Math.round(x / SAME)} ${Math.round(y / SAME)}`;
    const ends = [place(coords[0]!, coords[1]!), place(coords[n - 2]!, coords[n - 1]!)].sort();
    const middle = n > 4 ? place((coords[2]! + coords[n - 4]!) / 2, (coords[3]! + coords[n - 3]!) / 2) : '';
    const key = [...ends, middle].join(' ');
    return !seen.has(key) && seen.add(key);
  });
}

function edgesOf({ surfaces }: Body, projection: EyeMatrix): readonly Path[] {
  const along = (segments: readonly Segment[], closed: boolean, frame: PlaneFrame): readonly Path[] => {
    const path = drawSegments(segments, closed, sheetFromFrame(projection, frame), projection.near);
    return path ? [path] : [];
  };
  return surfaces.flatMap((surface): readonly Path[] => {
    const { form, cut } = surface;
    if (form.kind === 'flat') return surfaceRings(surface).flatMap((ring) => ring.flatMap((segment) => along([segment], false, form.frame)));
    const outline = form.kind === 'sphere' ? spherePath(projection, form) : null;
    return [...(outline && outline.coords.length > 0 ? [outline] : []), ...(cut ? cutEdges(surface, projection, along) : [])];
  });
}

function cutEdges(
  { cut }: Surface,
  projection: EyeMatrix,
  along: (segments: readonly Segment[], closed: boolean, frame: PlaneFrame) => readonly Path[],
): readonly Path[] {
  return cut!.flat().flatMap((rim): readonly Path[] => {
    if (!('points' in rim)) return along(rim.segments, false, rim.frame);
    const flat = worldPoints(rim.points).flatMap((p) => {
      const on = sheetFromWorld(projection, p);
      return on ? [on.x, on.y] : [];
    });
    return [polylinePath(flat)];
  });
}
