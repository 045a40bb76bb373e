import type { Mark } from '../artwork/marks';
import { nodesById, shapesIn } from '../document/tree';
import type { CheminDocument, Shadows } from '../document/types';
import type { Body, Surface } from '../geometry/body';
import { depthBody } from '../geometry/depth-recipe';
import { lampShades, SunShades, type LitBody, type Shade, type Shades } from '../shadow/shade';
import { sunOf } from '../light/sun';
import { coveredTone, exposure, filledUp, sunDirection, toneAt, tonedColour, type Sun } from '../light/tones';
import { invert33 } from '../math/matrix';
import { exactCells } from '../math/exact';
import { MAX_CELLS } from '../math/tolerances';
import { planeFrame, sheetFromFrame, type Plane } from '../projection/planes';
import { facing } from '../projection/projection';
import { outlineThrough } from '../shape/outline';
import { drawBody, type DrawnSurface } from '../visibility/drawn-body';
import type { DrawnNode } from './drawn-nodes';
import { PLAIN, type Painted } from './painted';
import { refusedBy } from './parents';
import { shadowLayers } from './shadow-marks';
import type { Stage } from './stage';

/** A thing of space as it takes part in the light. */
interface InSpace {
  readonly node: DrawnNode;
  readonly drawn: { readonly body: Body };
}

/** The shadows on surfaces, and what is painted of those on the floor. */
interface ShadowsThere {
  readonly shades: Shades;
  readonly floor: Painted | null;
}

const NO_SHADES: ShadowsThere = { shades: new Map(), floor: null };

/** Keeps the shadows of a document from one picture to the next. */
export class ShadowKeeper {
  private sun: { readonly of: Sun; readonly fade: number | null; readonly shades: SunShades } | null = null;
  /** What things that let light through throw, by how much they keep back, in the light of the same sun. */
  private readonly glass = new Map<number, SunShades>();
  private glassOfSun: ShadowKeeper['sun'] = null;
  private lamp: {
    readonly of: CheminDocument['light']['lamp'];
    readonly fade: number | null;
    readonly bodies: readonly LitBody[];
    readonly shades: Shades;
  } | null = null;
  private floor: { readonly key: readonly unknown[]; readonly body: Body | null; readonly part: DrawnSurface | null } | null = null;

  update(document: CheminDocument, stage: Stage, space: readonly InSpace[], quick: boolean): ShadowsThere {
    const { light } = document;
    if (!light.shadows?.on) return NO_SHADES;
    const bodies = litBodies(document, stage, space);
    const floor = this.floorOf(document, stage, light.shadows);
    if (floor?.body) bodies.push({ body: floor.body, casts: false, receives: true, half: 0 });
    const fade = light.shadows.fade ?? null;
    const shades = light.lamp ? this.lampOf(light.lamp, bodies, fade) : this.sunOf(sunOf(document), fade).update(bodies.map(opaque), quick);
    for (const strength of strengthsOf(bodies)) {
      const only = bodies.map((lit): LitBody => ({ ...lit, casts: lit.casts && lit.strength === strength }));
      addWeaker(shades, light.lamp ? lampShades(light.lamp, only, fade) : this.glassOf(strength, sunOf(document), fade).update(only, quick), strength);
    }
    const surface = floor?.part?.surface;
    return { shades, floor: surface ? floorShadow(document, floor.part!, shades.get(surface) ?? []) : null };
  }

  private sunOf(sun: Sun, fade: number | null): SunShades {
    const known = this.sun;
    const same = known?.fade === fade && known.of.azimuthDeg === sun.azimuthDeg && known.of.elevationDeg === sun.elevationDeg;
    if (!same) this.sun = { of: sun, fade, shades: new SunShades(sunDirection(sun), fade) };
    return this.sun!.shades;
  }

  private glassOf(strength: number, sun: Sun, fade: number | null): SunShades {
    if (this.glassOfSun !== this.sun) this.glass.clear();
    this.glassOfSun = this.sun;
    let shades = this.glass.get(strength);
    if (!shades) this.glass.set(strength, (shades = new SunShades(sunDirection(sun), fade)));
    return shades;
  }

  private lampOf(of: NonNullable<CheminDocument['light']['lamp']>, bodies: readonly LitBody[], fade: number | null): Map<Surface, readonly Shade[]> {
    const known = this.lamp;
    const same = known?.of === of && known.fade === fade && known.bodies.length === bodies.length && bodies.every((lit, i) => sameLit(lit, known.bodies[i]!));
    if (!same) this.lamp = { of, fade, bodies, shades: lampShades(of, bodies.map(opaque), fade) };
    return new Map(this.lamp!.shades);
  }

  private floorOf({ sheet }: CheminDocument, stage: Stage, { floor }: Shadows): NonNullable<ShadowKeeper['floor']> {
    const key = [stage, sheet.width, sheet.height, floor];
    if (!this.floor || key.some((part, i) => part !== this.floor!.key[i])) {
      const body = floor === undefined ? null : floorBody(stage, sheet, floor);
      this.floor = { key, body, part: body && (drawBody(stage.view, body).surfaces[0] ?? null) };
    }
    return this.floor;
  }
}

/** A body as it throws a full shadow: what lets light through throws none. */
const opaque = (lit: LitBody): LitBody => (lit.strength === undefined ? lit : { ...lit, casts: false });

const strengthsOf = (bodies: readonly LitBody[]): readonly number[] => [...new Set(bodies.flatMap(({ casts, strength }) => (casts && strength !== undefined ? [strength] : [])))]; // prettier-ignore

/** Puts the shadows of what lets light through to the full ones. */
function addWeaker(shades: Map<Surface, readonly Shade[]>, weaker: Shades, strength: number): void {
  for (const [surface, list] of weaker) shades.set(surface, [...(shades.get(surface) ?? []), ...list.map((shade) => weakerOf(shade, strength))]);
}

const weak = new WeakMap<Shade, Shade>();

/** A shade with its strength: the same object for the same one. */
function weakerOf(shade: Shade, strength: number): Shade {
  let there = weak.get(shade);
  if (there?.strength !== strength) weak.set(shade, (there = { ...shade, strength }));
  return there;
}

const sameLit = (p: LitBody, q: LitBody): boolean =>
  p.body === q.body && p.casts === q.casts && p.receives === q.receives && p.half === q.half && p.strength === q.strength;

/** Everything of space in the light: artwork and dimensions throw no shadows, and what is said not to. */
function litBodies(document: CheminDocument, { cell }: Stage, space: readonly InSpace[]): LitBody[] {
  const byId = nodesById(document.nodes);
  return space.map(({ node: { node, owner }, drawn: { body } }) => {
    const drawnAs = byId.get(owner)?.kind;
    const line = node.kind === 'shape' && body.wires.length > 0 ? node.paint.line : null;
    const figure = drawnAs === 'dimension';
    const strength = (node.kind === 'shape' ? node.paint : node.kind === 'group' ? shapesIn(node.children)[0]?.paint : undefined)?.strength ?? 1;
    return {
      body,
      casts: !figure && node.kind !== 'placement' && node.casts !== false && !refusedBy(document, owner, 'casts'),
      receives: !figure && node.receives !== false && !refusedBy(document, owner, 'receives'),
      half: line ? line.width / 2 / cell : 0,
      ...(strength < 1 && { strength }),
    };
  });
}

/** Corners of the floor that lie farther away than this many times the nearest are not looked at: the horizon is there. */
const FARTHEST = 1e4;

/** The floor as far as it is seen on the sheet, at a height in cells; null where it is seen edge-on or from below. */
function floorBody({ view }: Stage, { width, height }: CheminDocument['sheet'], level: number): Body | null {
  const plane: Plane = { kind: 'floor', offset: exactCells(level) };
  const frame = planeFrame(plane, 1)!;
  const { projection } = view.sight;
  if (facing(projection, frame.normal, frame.origin) <= 0) return null;
  const back = invert33(sheetFromFrame(projection, frame));
  if (!back) return null;
  const depth = (x: number, y: number): number => back[6] * x + back[7] * y + back[8];
  const corners = [[0, 0], [width, 0], [width, height], [0, height]] as const; // prettier-ignore
  const least = Math.max(...corners.map(([x, y]) => depth(x, y))) / FARTHEST;
  if (!(least > 0)) return null;
  const seen = corners.flatMap(([x, y], i) => {
    const [p, q] = corners[(i + 3) % 4]!;
    const [d, e] = [depth(p, q) - least, depth(x, y) - least];
    const t = d / (d - e);
    return [...(d >= 0 !== e >= 0 ? [[p + (x - p) * t, q + (y - q) * t] as const] : []), ...(e >= 0 ? [[x, y] as const] : [])];
  });
  const within = (n: number): number => exactCells(Math.max(-MAX_CELLS, Math.min(MAX_CELLS, n)));
  const points = seen.map(([x, y]) => {
    const w = depth(x, y);
    return { u: within((back[0] * x + back[1] * y + back[2]) / w), v: within((back[3] * x + back[4] * y + back[5]) / w) };
  });
  return points.length < 3 ? null : depthBody({ plane, outline: outlineThrough(points, true), depth: 0 });
}

/** The shadows on the floor: as much darker than the sheet as a covered face is than a lit one. */
function floorShadow(document: CheminDocument, part: DrawnSurface, shades: readonly Shade[]): Painted | null {
  const { light, sheet } = document;
  const layers = shadowLayers(part, shades, light.shadows);
  if (layers.length === 0) return null;
  const { ink } = light.shadows!;
  const lit = filledUp(toneAt(light.ramp, exposure(part.normal, sunOf(document))), light.ramp, light.fill);
  const covered = filledUp(coveredTone(light.ramp), light.ramp, light.fill);
  const colour = ink?.colour ?? tonedColour(sheet.background, { lightness: Math.min(0, covered.lightness - lit.lightness), chroma: 1 });
  const marks = layers.map(({ path, strength, rough }): Mark => ({ kind: 'path', path, fill: { kind: 'flat', colour, strength: strength * (ink?.strength ?? 1) }, rule: rough ? 'nonzero' : 'evenodd', line: null })); // prettier-ignore
  return { node: 'floor shadow', name: 'shadow on the floor', look: PLAIN, marks, visible: [] };
}
