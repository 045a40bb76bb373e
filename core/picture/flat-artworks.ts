import { mapMarks } from '../artwork/artwork';
import { flatInk, type GroupMark, type Mark } from '../artwork/marks';
import { readResolvedSvg, type FlatArtwork } from '../artwork/read-svg';
import { flatSheet, sizeMm } from '../document/flat-sheet';
import { placedIn } from '../document/held-artworks';
import { idsWithin } from '../document/tree';
import type { Artwork, CheminDocument, Sheet } from '../document/types';
import { keptBy, keptByName } from '../math/keep';
import { sunOf } from '../light/sun';
import type { Swatch } from '../paint/paint';
import { boxPath, pathBox } from '../shape/path';
import { drawnNodes } from './drawn-nodes';
import { paintFlat } from './paint-surface';
import { groupByNode } from './painted';
import { stageOf } from './stage';
import { Tones } from './tones';

/** Artworks by their ids, as they are painted; null for those that cannot be. */
export type FlatArtworks = ReadonlyMap<string, FlatArtwork | null>;

/** SVGs as they were read, the last of them: what is drawn over one does not have it read again. */
const MOST_READ = 32;
const readSvg = keptByName(MOST_READ, (svg: string): FlatArtwork | null => {
  const found = readResolvedSvg(svg);
  return found.ok ? found.value : null;
});

/** What came from an artwork's file; null where nothing did, or its SVG cannot be read, which the schema has refused before. */
const fromFile = keptBy(readFile);

function readFile({ svg, bitmap, width, height }: Artwork): FlatArtwork | null {
  if (svg === '') {
    if (bitmap === undefined) return null;
    const map = [width, 0, 0, 0, height, 0, 0, 0, 1] as const;
    return { width, height, marks: [{ kind: 'image', bitmap, path: boxPath({ minX: 0, minY: 0, maxX: width, maxY: height }), place: { kind: 'flat', map } }] };
  }
  return readSvg(svg);
}

/** How lengths are read on the drawing, and so on all sheets of its artworks. */
type Reading = readonly [unit: Sheet['unit'], resolution: number];

/**
 * The artworks of a document as they are painted, made again only where they, the palette or what is placed on them is
 * another: a change of one costs that one.
 */
export function flatArtworks({ artworks, swatches, sheet }: Pick<CheminDocument, 'artworks' | 'swatches' | 'sheet'>): FlatArtworks {
  return allFlat(artworks, swatches, [sheet.unit, sheet.resolution]);
}

const allFlat = keptBy((artworks: readonly Artwork[], swatches: readonly Swatch[], reading: Reading): FlatArtworks => {
  const byId = new Map(artworks.map((artwork) => [artwork.id, artwork]));
  const flats = new Map<string, FlatArtwork | null>();
  const busy = new Set<string>();
  const make = (artwork: Artwork): FlatArtwork | null => {
    const done = flats.get(artwork.id);
    if (done !== undefined) return done;
    // One that holds itself is refused where documents are read; here it only must not go on for ever.
    if (busy.has(artwork.id)) return null;
    busy.add(artwork.id);
    const flat = flatArtwork(artwork);
    flats.set(artwork.id, flat);
    return flat;
  };
  const flatArtwork = (artwork: Artwork): FlatArtwork | null => {
    if (!artwork.nodes && artwork.background === undefined) return fromFile(artwork) ?? emptyFlat(artwork);
    const on = [...new Set(placedIn(artwork.nodes ?? []))].map((id): Placeable => {
      const other = byId.get(id);
      return [id, other ? make(other) : null];
    });
    return drawnFlat(artwork, on, swatches, reading);
  };
  artworks.forEach(make);
  return flats;
});

/** An artwork that is placed on another, by its id, as it is painted. */
type Placeable = readonly [id: string, flat: FlatArtwork | null];

const emptyFlat = (artwork: Artwork): FlatArtwork => ({ ...sizeMm(artwork), marks: [] });

/** An artwork with what is drawn on it, in mm: its background, what came from its file, and the rest, cut off at its edges. */
const drawnFlat = keptBy((artwork: Artwork, on: readonly Placeable[], swatches: readonly Swatch[], [unit, resolution]: Reading): FlatArtwork => {
  const sheet = flatSheet(artwork, { swatches, unit, resolution });
  const { width, height } = sheet.sheet;
  const whole = boxPath({ minX: 0, minY: 0, maxX: width, maxY: height });
  const marks: Mark[] = [];
  if (artwork.background !== undefined) marks.push({ kind: 'path', path: whole, fill: flatInk(artwork.background), rule: 'nonzero', line: null });
  const stage = stageOf(sheet);
  const tones = new Tones(sheet.light, sunOf(sheet), sheet.swatches);
  const artworks = new Map<string, FlatArtwork | null>([...on, [`${artwork.id}-file`, fromFile(artwork)]]);
  // A net's lines are seen on its sheet, not on what wears it.
  const lines = new Set((artwork.net?.lines ?? []).flatMap(idsWithin));
  const painted = drawnNodes(sheet).flatMap((drawn) => {
    const { node, hidden } = drawn;
    return hidden || node.kind === 'group' || lines.has(node.id) ? [] : [paintFlat(stage, tones, drawn, node, artworks)];
  });
  marks.push(...groupByNode(painted).map((group): GroupMark => ({ ...group, node: null })));
  const beyond = !lieWithin(marks, width, height);
  return { width, height, marks: beyond ? [{ kind: 'group', node: null, name: '', clip: { path: whole, rule: 'nonzero' }, strength: 1, marks }] : marks };
});

/** Whether marks lie within a sheet, lines with their widths too. */
function lieWithin(marks: readonly Mark[], width: number, height: number): boolean {
  return marks.every((mark) => {
    if (mark.kind === 'group') return mark.clip ? withinBox(pathBox(mark.clip.path), 0, width, height) : lieWithin(mark.marks, width, height);
    const room = mark.kind === 'path' && mark.line ? mark.line.width * Math.hypot(...mark.line.pen.slice(0, 4)) : 0;
    return withinBox(pathBox(mark.path), room, width, height);
  });
}

const EDGE = 1e-9;
const withinBox = (box: ReturnType<typeof pathBox>, room: number, width: number, height: number): boolean =>
  !box || (box.minX - room >= -EDGE && box.minY - room >= -EDGE && box.maxX + room <= width + EDGE && box.maxY + room <= height + EDGE);

/** An artwork as it is painted, moved and scaled into a box. */
export function flatInBox(flat: FlatArtwork, x: number, y: number, width: number, height: number): readonly Mark[] {
  return mapMarks(flat.marks, [width / flat.width, 0, 0, height / flat.height, x, y]);
}
