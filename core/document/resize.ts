import { exactCells } from '../math/exact';
import type { SheetPoint } from '../math/points';
import type { ProjectionSetup } from '../projection/setup';
import type { Edit } from './edits';
import { flattenTree } from './tree';
import type { CheminDocument, DocumentNode, Sheet } from './types';

/**
 * The edit that makes a sheet larger or smaller about its middle: the projection, what lies on the sheet itself, its
 * references and traced edges keep their distance from the middle.
 * @param sheet the sheet from then on, its sides in mm
 */
export function resizedSheet(document: CheminDocument, sheet: Sheet): Edit {
  const by = { x: (sheet.width - document.sheet.width) / 2, y: (sheet.height - document.sheet.height) / 2 };
  const set = { kind: 'sheet', sheet } as const;
  if (by.x === 0 && by.y === 0) return set;
  const ids = flattenTree(document.nodes).flatMap(({ node }) => (liesOnSheet(node) ? [node.id] : []));
  const { cell } = document.grid;
  const cells = { a: exactCells(by.x / cell), b: exactCells(by.y / cell), h: 0 };
  const moved = (p: SheetPoint): SheetPoint => ({ x: p.x + by.x, y: p.y + by.y });
  const guides = document.guides?.map((guide) =>
    guide.plane.kind === 'sheet' ? { ...guide, at: { u: exactCells(guide.at.u + cells.a), v: exactCells(guide.at.v + cells.b) } } : guide,
  );
  return {
    kind: 'all',
    edits: [
      set,
      { kind: 'projection', projection: shifted(document.projection, moved) },
      ...(ids.length > 0 ? [{ kind: 'move', ids, by: cells } as const] : []),
      ...document.references.map((reference) => ({ kind: 'reference', reference: { ...reference, ...moved(reference) } }) as const),
      ...(document.photos ? [{ kind: 'photos', photos: document.photos.map((photo) => ({ ...photo, ...moved(photo) })) } as const] : []),
      ...(guides ? [{ kind: 'guides', guides } as const] : []),
      ...(document.strokes.length > 0
        ? [{ kind: 'strokes', strokes: document.strokes.map((stroke) => ({ ...stroke, from: moved(stroke.from), to: moved(stroke.to) })) } as const]
        : []),
    ],
  };
}

function shifted(setup: ProjectionSetup, moved: (p: SheetPoint) => SheetPoint): ProjectionSetup {
  return setup.kind === 'perspective' ? { ...setup, principal: moved(setup.principal) } : { ...setup, origin: moved(setup.origin) };
}

function liesOnSheet(node: DocumentNode): boolean {
  if (node.kind === 'shape' || node.kind === 'dimension') return node.plane.kind === 'sheet';
  return node.kind === 'placement' && node.target.kind === 'plane' && node.target.plane.kind === 'sheet' && node.target.photographed === undefined;
}
