import { mapMarks } from '../artwork/artwork';
import { flatInk, type GroupMark, type Mark } from '../artwork/marks';
import { readResolvedSvg, type FlatArtwork } from '../artwork/read-svg';
import { flatSheetOf, sizeMm } from '../document/flat-sheet';
import { placedIn } from '../document/held-artworks';
import { idsWithin } from '../document/tree';
import type { Artwork, CheminDocument } from '../document/types';
import { sunOf } from '../light/sun';
import type { Swatch } from '../paint/paint';
import { boxPath, pathBox } from '../shape/path';
import { drawnNodes } from './drawn-nodes';
import { paintFlat } from './paint-surface';
import { groupByNode } from './painted';
import { stageFrom } from './stage';
import { Tones } from './tones';

/** Artworks by their ids, as they are painted; null for those that cannot be. */
export type FlatArtworks = ReadonlyMap<string, FlatArtwork | null>;

const fromFiles = new WeakMap<Artwork, FlatArtwork | null>();

/** What came from an artwork's file; null where nothing did, or its SVG cannot be read, which the schema has refused before. */
function fromFile(artwork: Artwork): FlatArtwork | null {
  let flat = fromFiles.get(artwork);
  if (flat === undefined) fromFiles.set(artwork, (flat = readFile(artwork)));
  return flat;
}

/** SVGs as they were read, the last of them: what is drawn over one does not have it read again. */
const read = new Map<string, FlatArtwork | null>();
const MOST_READ = 32;

function readFile({ svg, bitmap, width, height }: Artwork): FlatArtwork | null {
  if (svg === '') {
    if (bitmap === undefined) return null;
    const map = [width, 0, 0, 0, height, 0, 0, 0, 1] as const;
    return { width, height, marks: [{ kind: 'image', bitmap, path: boxPath({ minX: 0, minY: 0, maxX: width, maxY: height }), place: { kind: 'flat', map } }] };
  }
  let flat = read.get(svg);
  if (flat !== undefined) return flat;
  const found = readResolvedSvg(svg);
  read.set(svg, (flat = found.ok ? found.value : null));
  if (read.size > MOST_READ) read.delete(read.keys().next().value!);
  return flat;
}

interface Kept {
  readonly swatches: readonly Swatch[];
  /** What is placed on it, as it was painted. */
  readonly on: readonly (FlatArtwork | null)[];
  readonly unit: CheminDocument['sheet']['unit'];
  readonly flat: FlatArtwork | null;
}

const kept = new WeakMap<Artwork, Kept>();
const lists = new WeakMap<readonly Artwork[], { readonly swatches: readonly Swatch[]; readonly flats: FlatArtworks }>();

/**
 * The artworks of a document as they are painted, made again only where they, the palette or what is placed on them is
 * another: a change of one costs that one.
 */
export function flatArtworks(document: CheminDocument): FlatArtworks {
  const known = lists.get(document.artworks);
  if (known?.swatches === document.swatches) return known.flats;
  const flats = new Map<string, FlatArtwork | null>();
  const busy = new Set<string>();
  const make = (artwork: Artwork): FlatArtwork | null => {
    const done = flats.get(artwork.id);
    if (done !== undefined) return done;
    // One that holds itself is refused where documents are read; here it only must not go on for ever.
    if (busy.has(artwork.id)) return null;
    busy.add(artwork.id);
    const flat = flatArtwork(document, artwork, make);
    flats.set(artwork.id, flat);
    return flat;
  };
  document.artworks.forEach(make);
  lists.set(document.artworks, { swatches: document.swatches, flats });
  return flats;
}

function flatArtwork(document: CheminDocument, artwork: Artwork, make: (artwork: Artwork) => FlatArtwork | null): FlatArtwork | null {
  if (!artwork.nodes && artwork.background === undefined) return fromFile(artwork) ?? emptyFlat(artwork);
  const on = placedIn(artwork.nodes ?? []).map((id) => {
    const other = document.artworks.find((one) => one.id === id);
    return other ? make(other) : null;
  });
  const { swatches, sheet } = document;
  const known = kept.get(artwork);
  if (known && known.swatches === swatches && known.unit === sheet.unit && same(known.on, on)) return known.flat;
  const flat = drawnFlat(document, artwork, make);
  kept.set(artwork, { swatches, on, unit: sheet.unit, flat });
  return flat;
}

const same = (p: readonly unknown[], q: readonly unknown[]): boolean => p.length === q.length && p.every((one, i) => one === q[i]);

const emptyFlat = (artwork: Artwork): FlatArtwork => ({ ...sizeMm(artwork), marks: [] });

/** An artwork with what is drawn on it, in mm: its background, what came from its file, and the rest, cut off at its edges. */
function drawnFlat(document: CheminDocument, artwork: Artwork, make: (artwork: Artwork) => FlatArtwork | null): FlatArtwork | null {
  const sheet = flatSheetOf(document, artwork.id);
  if (!sheet) return null;
  const { width, height } = sheet.sheet;
  const whole = boxPath({ minX: 0, minY: 0, maxX: width, maxY: height });
  const marks: Mark[] = [];
  if (artwork.background !== undefined) marks.push({ kind: 'path', path: whole, fill: flatInk(artwork.background), rule: 'nonzero', line: null });
  const stage = stageFrom(sheet);
  const tones = new Tones(sheet.light, sunOf(sheet), sheet.swatches);
  const artworks = new Map(sheet.artworks.map((one) => [one.id, one.id === `${artwork.id}-file` ? fromFile(artwork) : make(one)]));
  // A net's lines are seen on its sheet, not on what wears it.
  const lines = new Set((artwork.net?.lines ?? []).flatMap(idsWithin));
  const painted = drawnNodes(sheet).flatMap((drawn) => {
    const { node, hidden } = drawn;
    return hidden || node.kind === 'group' || lines.has(node.id) ? [] : [paintFlat(stage, tones, drawn, node, artworks)];
  });
  marks.push(...groupByNode(painted).map((group): GroupMark => ({ ...group, node: null })));
  const beyond = !lieWithin(marks, width, height);
  return { width, height, marks: beyond ? [{ kind: 'group', node: null, name: '', clip: { path: whole, rule: 'nonzero' }, strength: 1, marks }] : marks };
}

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
