import type { WorldPoint } from '../math/points';
import type { GroupMark, Ink, Mark } from '../artwork/marks';
import type { FlatArtwork } from '../artwork/read-svg';
import type { PlacementNode, ShapeNode } from '../document/types';
import type { Surface } from '../geometry/body';
import { FACET } from '../geometry/facets';
import { isDrawnEnd } from '../geometry/names';
import { surfaceWord } from '../geometry/words';
import type { Shade } from '../shadow/shade';
import type { Mat33 } from '../math/matrix';
import type { Fill, Paint } from '../paint/paint';
import { sheetFromFrame } from '../projection/planes';
import { drawRings } from '../shape/draw-segments';
import { ringsOf } from '../shape/outline';
import { joinPaths, polygonPath, polylinePath, type Path } from '../shape/path';
import { flattenOutline, isCurved } from '../shape/segments';
import { cutPath } from '../visibility/cut';
import type { Area, DrawnSurface } from '../visibility/drawn-body';
import { thingOf, type DrawnNode } from './drawn-nodes';
import { inkOf } from './inks';
import { lineMark } from './lines';
import { groupByNode, lookOf, PaintedSurface, seam, sideLine, withLines, type Painted, type Visible } from './painted';
import { paintPlacement } from './painted-placement';
import { roundFill } from './round-tones';
import { overlay, shadowLayers, tintsOf } from './shadow-marks';
import type { Layer } from './soft-edges';
import { sideFill, sphereFill } from './sphere-tones';
import type { Toned } from '../light/tones';
import { inShade, whollyShaded } from './wholly-shaded';
import type { Stage } from './stage';
import type { Tones } from './tones';

/** A part of a thing that is painted. */
export interface PaintedPart {
  readonly drawn: DrawnNode;
  readonly surface: DrawnSurface;
  /** What of it is seen: all of it, or what is left where something was cut out, with its corners. */
  readonly path: Path;
  readonly areas: readonly Area[] | null;
  readonly cuts: readonly Area[] | null;
  readonly shades: readonly Shade[];
  /** It is painted for a frame of a gesture. */
  readonly quick: boolean;
}

/** Artwork on a surface. */
export interface OnFace {
  readonly drawn: DrawnNode;
  readonly node: PlacementNode;
  readonly artwork: FlatArtwork | null | undefined;
  readonly tones: Tones;
}

/** What artwork on a plane of space is painted with. */
export function paintArtwork(stage: Stage, tones: Tones, part: PaintedPart, node: PlacementNode, artwork: FlatArtwork | null | undefined): Painted {
  const { drawn, areas, path, surface } = part;
  const painted = paintPlacement(stage, tones, drawn, node, artwork, null, areas && { path, areas }, surface, part.quick);
  const shadow = node.shaded === false ? [] : shadowLayers(surface, part.shades, tones.light.shadows);
  return shadow.length > 0 ? { ...painted, marks: [...painted.marks, overlay(tones, surface, null, shadow, areas && path)] } : painted;
}

/**
 * What a part of a shape is painted with: its fill, the shadows on it, its lines, and the artwork on it with the shadows on that.
 */
export function paintSurface(stage: Stage, tones: Tones, part: PaintedPart, node: ShapeNode, on: readonly OnFace[]): Painted {
  const { drawn, path, areas } = part;
  const { surface } = part.surface;
  if (!surface) return paintWire(stage, tones, part, node);
  const { name } = drawn.node;
  const paint = paintOf(node, surface);
  // Of solids that are one, a surface is that of the part which it came from.
  const joined = surface.from !== undefined;
  const map = surface.form.kind === 'flat' ? sheetFromFrame(stage.view.sight.projection, surface.form.frame) : null;
  const { line } = paint;
  const colour = line ? tones.plain(line.colour) : '';
  const plane = map && { map, cell: stage.cell, near: stage.sight.projection.near, seen: stage.seen };
  const solid = node.depth !== 0;
  // A line in the plane, or of varying width, is drawn along ends only, where it has a boundary to follow.
  const follows = line !== null && plane !== null && (!solid || (isDrawnEnd(surface.name) && !joined));
  const lines: Mark[] = follows ? [lineMark(line, path, node.outline, plane, colour)] : line ? [sideLine(line, path, colour)] : [];
  // Where something was cut out of it, a seam would run over what is in front there.
  const seamed = solid && !line && areas === null;
  const shadow = shadowLayers(part.surface, part.shades, tones.light.shadows);
  const lit = filled(tones, stage, paint, part, map, seamed);
  const dark = paint.fill !== null && !tones.light.shadows?.ink ? whollyShaded(shadow, part.surface) : null;
  const base = dark && inShade(lit, filled(tones.covered, stage, paint, part, map, seamed), dark.strength);
  const own: Mark[] = base ? [shadowGroup(base, null)] : lit;
  const face = surface.from?.name ?? surface.name;
  const onIt = on.flatMap(({ node: placement, artwork, drawn: there, tones: own }): readonly { readonly painted: Painted; readonly shaded: boolean }[] => {
    const named = placement.target.kind === 'face' && (placement.target.face === face || surface.also.includes(placement.target.face));
    return named
      ? [
          {
            shaded: placement.shaded !== false,
            painted: paintPlacement(
              stage,
              own,
              there,
              placement,
              artwork,
              node,
              placement.overhangs && !placement.pattern && surface.form.kind === 'flat' ? null : { path, areas: areas ?? part.surface.outline },
              part.surface,
              part.quick,
            ),
          },
        ]
      : [];
  });
  // What shadows do not fall on lies over them.
  const [placed, over] = [true, false].map((shaded) => onIt.flatMap((one) => (one.shaded === shaded ? [one.painted] : []))) as [Painted[], Painted[]];
  if (paint.fill !== null) own.push(...shadowed(tones, stage, paint, part, map, base ? dark!.rest : shadow, seamed));
  own.push(...(shadow.length > 0 ? lines : withLines(own, lines)), ...groupByNode(placed));
  if (shadow.length > 0 && placed.length > 0) own.push(overlay(tones, part.surface, paint.fill, shadow, areas && path));
  own.push(...groupByNode(over));
  const group: GroupMark = { kind: 'group', node: null, name: `${name}, ${surfaceWord(surface)}`, clip: null, strength: 1, marks: own };
  return new PaintedSurface(drawn, lookOf(node.paint), own.length > 0 && solid ? [group] : own, part.surface, areas, [...placed, ...over]);
}

function paintWire(stage: Stage, tones: Tones, { drawn, surface: part, path, areas, cuts }: PaintedPart, node: ShapeNode): Painted {
  const { line } = node.paint;
  const frame = part.wire?.frame;
  const map = frame && sheetFromFrame(stage.view.sight.projection, frame);
  const plane = map && { map, cell: stage.cell, near: stage.sight.projection.near, seen: stage.seen };
  const drawnLine = line && plane ? lineMark(line, path, node.outline, plane, tones.plain(line.colour)) : null;
  // Where a line is an area of its plane, what is cut out of it is cut out of that.
  const marks = drawnLine ? [cuts && drawnLine.fill ? { ...drawnLine, path: cutPath(drawnLine.path, cuts).path } : drawnLine] : [];
  const visible = (areas ?? part.outline).map(({ polygon }): Visible => ({ node: drawn.owner, face: null, drawn: thingOf(drawn), polygon, open: true }));
  return { node: drawn.owner, name: drawn.node.name, look: lookOf(node.paint), marks, visible };
}

/** The paint of a surface: its own, or that of the whole thing. */
function paintOf(node: ShapeNode, surface: Surface): Paint {
  return node.surfaces?.[surface.from?.name ?? surface.name] ?? node.paint;
}

const shadowGroup = (marks: readonly Mark[], clip: GroupMark['clip'], strength = 1): GroupMark => ({
  kind: 'group',
  node: null,
  name: 'shadow',
  clip,
  strength,
  marks,
});

/** What of a part lies in shadow, painted again in the tones of what is covered. */
function shadowed(tones: Tones, stage: Stage, paint: Paint, part: PaintedPart, map: Mat33 | null, layers: readonly Layer[], seamed: boolean): readonly Mark[] {
  if (layers.length === 0) return [];
  const { ink } = tones.light.shadows ?? {};
  const rough = layers[0]?.rough ?? false;
  const clip = part.areas || rough ? { path: part.path, rule: 'evenodd' as const } : null;
  if (ink) return [overlay(tones, part.surface, paint.fill, layers, part.areas && part.path)];
  const all = filled(tones.covered, stage, paint, part, map, false);
  const [only] = all;
  // A face of one colour has its shadow as paths; the tones of others are clipped to it.
  if (all.length !== 1 || only?.kind !== 'path' || only.fill?.kind !== 'flat')
    return [...layers.map(({ path, strength }) => shadowGroup(all, { path, rule: rough ? 'nonzero' : 'evenodd' }, strength)), ...tintsOf(layers, clip)];
  const { fill } = only;
  const marks = layers.map(({ path, strength }): Mark => ({ ...only, path, rule: rough ? 'nonzero' : 'evenodd', fill: { ...fill, strength: fill.strength * strength }, line: seamed && strength === 1 && layers.length === 1 ? seam(fill) : null })); // prettier-ignore
  return [shadowGroup(marks, clip), ...tintsOf(layers, clip)];
}

/** The fill of a part: one path, or for round parts whose generators meet on the sheet several. @param seamed closes hair lines */
function filled(tones: Tones, stage: Stage, { fill, unlit }: Paint, { surface: part, path }: PaintedPart, map: Mat33 | null, seamed: boolean): Mark[] {
  if (fill === null) return [];
  const { surface } = part;
  if (unlit && tones.isLit) return unlitFill(tones, fill, path, map, seamed);
  if (surface && surface.form.kind !== 'flat') {
    const marks = roundMarks(tones, stage, surface, part, tones.mean(fill));
    const [first] = marks;
    // Strips and bands lie on each other; balls turn away from their neighbours.
    const seams = seamed && first?.kind === 'path' && first.fill && surface.form.kind !== 'sphere';
    const inks = seams ? [{ ...first, line: seam(first.fill!) }, ...marks.slice(1)] : marks;
    if (path === part.path) return [...inks];
    // What is left of a cut surface is filled as the whole is.
    const [only] = inks;
    if (inks.length === 1 && only?.kind === 'path') return [{ ...only, path }];
    return [{ kind: 'group', node: null, name: '', clip: { path, rule: 'evenodd' }, strength: 1, marks: inks }];
  }
  const ink = fillOf(tones, fill, part, map);
  return ink ? [{ kind: 'path', path, fill: ink, rule: 'evenodd', line: seamed ? seam(ink) : null }] : [];
}

/** A fill as it is without any light. */
function unlitFill(tones: Tones, fill: Fill, path: Path, map: Mat33 | null, seamed: boolean): Mark[] {
  const gradient = typeof fill !== 'string' && map ? inkOf(fill, map, (colour) => tones.plain(colour)) : null;
  const ink = gradient ?? tones.ink(tones.mean(fill));
  return [{ kind: 'path', path, fill: ink, rule: 'evenodd', line: seamed ? seam(ink) : null }];
}

/** What a shape's fill looks like on a surface: toned, its gradient on the surface that carries it and one colour on the others. */
function fillOf(tones: Tones, fill: Fill, { surface, normal }: DrawnSurface, map: Mat33 | null): Ink | null {
  const there = tones.lightOn(surface);
  const tone = (base: string): string => tones.face(base, normal, there);
  const carries = typeof fill !== 'string' && surface && isDrawnEnd(surface.from?.name ?? surface.name) && map;
  const ink = carries ? inkOf(fill, map, (colour) => tone(tones.plain(colour))) : null;
  return ink ?? tones.ink(tone(typeof fill === 'string' ? tones.plain(fill) : tones.mean(fill)));
}

function roundMarks(tones: Tones, { view }: Stage, surface: Surface, part: DrawnSurface, base: string): readonly Mark[] {
  const { projection } = view.sight;
  const { form } = surface;
  const { stretch } = part;
  const there = tones.lightOn(surface);
  const tone = (normal: WorldPoint): Toned => tones.round(base, normal, there);
  if (form.kind === 'sphere') {
    const sphere = { form, path: part.path, isBounded: part.isBounded };
    return tones.isBySide ? sideFill(projection, sphere, tone) : sphereFill(projection, sphere, there.towards, (cosine) => tones.around(base, cosine, there));
  }
  if (!stretch || form.kind === 'flat') return [];
  return roundFill(projection, { form, stretch, path: part.path, isBounded: part.isBounded }, tone);
}

/** What a thing that lies flat on the sheet is painted with. */
export function paintFlat(
  stage: Stage,
  tones: Tones,
  drawn: DrawnNode,
  node: ShapeNode | PlacementNode,
  artworks: ReadonlyMap<string, FlatArtwork | null>,
): Painted {
  const { owner } = drawn;
  if (node.kind === 'placement') return paintPlacement(stage, tones, drawn, node, artworks.get(node.artwork), null, null);
  const { outline, paint } = node;
  const { cell } = stage;
  const by = drawn.map?.by ?? { a: 0, b: 0 };
  const scale: Mat33 = [cell, 0, by.a * cell, 0, cell, by.b * cell, 0, 0, 1];
  const rings = ringsOf(outline).map((ring) => flattenOutline(ring, FACET).flatMap((p) => [(p.u + by.a) * cell, (p.v + by.b) * cell]));
  const coords = rings[0]!;
  const { closed } = outline;
  const exact = isCurved(outline) ? drawRings(outline, scale, 0) : null;
  const path = exact ?? (closed ? joinPaths(rings.map(polygonPath)) : polylinePath(coords));
  const fill = closed && paint.fill !== null ? inkOf(paint.fill, scale, (colour) => tones.plain(colour)) : null;
  const marks: Mark[] = fill ? [{ kind: 'path', path, fill, rule: 'evenodd', line: null }] : [];
  const plane = { map: scale, cell, near: 0, seen: stage.seen };
  if (paint.line) marks.push(...withLines(marks, [lineMark(paint.line, path, outline, plane, tones.plain(paint.line.colour))]));
  const holes = rings.slice(1);
  const visible: Visible = {
    node: owner,
    face: closed ? 'end' : null,
    drawn: thingOf(drawn),
    polygon: coords,
    open: !closed,
    ...(holes.length > 0 && { holes }),
  };
  return { node: owner, name: node.name, marks, look: lookOf(paint), visible: [visible] };
}
