import { BLENDS, type Paint } from '../paint/paint';
import { UNITS } from '../math/units';
import type { Plane } from '../projection/planes';
import { FAMILIES, parallelSetup } from '../projection/families';
import type { ProjectionSetup } from '../projection/setup';
import type { Outline } from '../shape/outline';
import { SOLID_KINDS } from '../solids/kinds';
import type { Edit } from '../document/edits';
import { flatSheetOf } from '../document/flat-sheet';
import { flattenTree } from '../document/tree';
import type { CheminDocument, DocumentNode } from '../document/types';
import { randomFrom } from './random';

const SVG = '<svg viewBox="0 0 4 2"><path fill="#ff0000" stroke="#00ff00" stroke-width="0.2" stroke-dasharray="0.3 0.1" d="M0 0L4 0L4 2Z"/></svg>';

/** Numbers at and beyond what anything in a document may be. */
const ODD = [0, -0, 1e-9, 0.001, 0.01, 0.5, 1, 89.99, 90, 360, 1e3, 999_999, 1e6, 1_000_001, 1e8, 1e9, 1e12, 6e14, 1e300, NaN, Infinity];

/** Makes edits of every kind, many of them with values that nobody means, the same ones for the same seed. */
export class RandomEdits {
  private serial = 0;
  private readonly random: () => number;

  constructor(seed: number) {
    this.random = randomFrom(seed);
  }

  whole(below: number): number {
    return Math.floor(this.random() * below);
  }

  one<T>(of: readonly T[]): T {
    return of[this.whole(of.length)]!;
  }

  chance(share: number): boolean {
    return this.random() < share;
  }

  /** Mostly a sensible number, at times an odd one. */
  number(sensible: number, oddity = 0.06): number {
    if (!this.chance(oddity)) return (this.random() * 2 - 1) * sensible;
    return this.one(ODD) * (this.chance(0.5) ? -1 : 1);
  }

  share(): number {
    return this.chance(0.03) ? this.one(ODD) : this.random();
  }

  id(known: readonly string[] = []): string {
    return known.length > 0 && this.chance(0.97) ? this.one(known) : this.chance(0.05) ? 'x'.repeat(79 + this.whole(3)) : `n${++this.serial}`;
  }

  name(): string {
    return this.chance(0.05) ? 'n'.repeat(198 + this.whole(5)) : `name ${this.whole(9)}`;
  }

  point(size = 8): { u: number; v: number } {
    return { u: this.number(size), v: this.number(size) };
  }

  plane(): Plane {
    const kind = this.one(['floor', 'left', 'right', 'sheet', 'free'] as const);
    const offset = this.number(4);
    if (kind !== 'free') return { kind, offset };
    const turn = this.random() * 6;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    return { kind, offset, stance: { at: { a: this.number(5), b: this.number(5), h: this.number(5) }, u: { a: c, b: s, h: 0 }, v: this.chance(0.5) ? { a: -s, b: c, h: 0 } : { a: 0, b: 0, h: 1 } } }; // prettier-ignore
  }

  outline(): Outline {
    const ring = (from: number): Outline['points'] =>
      Array.from({ length: 2 + this.whole(5) }, (_, i) => ({
        id: this.chance(0.01) ? 1 : from + i,
        ...this.point(),
        ...(this.chance(0.1) && { out: this.point(), into: this.point() }),
        ...(this.chance(0.1) && { arc: { ...this.point(), weight: this.chance(0.1) ? this.one(ODD) : this.random() + 0.1 } }),
        ...(this.chance(0.1) && { corner: { kind: this.one(['round', 'bevel'] as const), size: Math.abs(this.number(2)) } }),
        ...(this.chance(0.05) && { press: this.share() }),
      }));
    const closed = this.chance(0.7);
    return { points: ring(1), closed, ...(closed && this.chance(0.1) && { holes: [ring(20)] }) };
  }

  paint(): Paint {
    const colour = this.one(['#c98a4b', '#102030', 'swatch:s1', 'swatch:gone+12']);
    const stops = [0, 1].map((at) => ({ at: this.chance(0.9) ? at : this.share(), colour, strength: this.share() }));
    const fill = this.one([null, colour, { kind: 'linear', from: this.point(), to: this.point(), stops } as const, { kind: 'radial', centre: this.point(), edge: this.point(), stops } as const, { kind: 'conic', centre: this.point(), edge: this.point(), stops } as const]); // prettier-ignore
    const line = this.chance(0.5)
      ? {
          colour,
          width: Math.abs(this.number(2)),
          ...(this.chance(0.4) && { on: 'plane' as const }),
          ...(this.chance(0.3) && { dashes: Array.from({ length: 1 + this.whole(4) }, () => Math.abs(this.number(4, 0.2))) }),
          ...(this.chance(0.3) && { join: 'miter' as const, cap: 'butt' as const }),
        }
      : null;
    return { fill, line, ...(this.chance(0.2) && { strength: this.share() }), ...(this.chance(0.1) && { blend: this.one(BLENDS.slice(1)) as 'multiply' }) };
  }

  node(document: CheminDocument, ids: readonly string[]): DocumentNode {
    const base = { id: this.chance(0.03) ? this.id(ids) : this.id(), name: this.name(), hidden: this.chance(0.1), locked: this.chance(0.1) };
    const kind = this.whole(10);
    const anchor = { at: { a: this.number(5), b: this.number(5), h: this.number(5) }, width: Math.abs(this.number(5)) + 0.1, height: Math.abs(this.number(5)) + 0.1, ...(this.chance(0.3) && { turn: this.number(180) }), ...(this.chance(0.2) && { mirrored: true as const }) }; // prettier-ignore
    if (kind === 0 && document.artworks[0]) {
      const target = this.chance(0.5) ? ({ kind: 'plane', plane: this.plane() } as const) : ({ kind: 'face', node: this.id(ids), face: this.one(['end', 'base', 'side:1', 'side:99'] as const) } as const); // prettier-ignore
      return { ...base, kind: 'placement', artwork: document.artworks[0].id, target, anchor, ...(this.chance(0.3) && { overhangs: true as const }) };
    }
    const by = { a: this.number(9), b: this.number(9), h: this.number(9) };
    const axes = this.one([['a', 'b', 'h'], ['-b', 'a', 'h'], ['a', '-b', 'h'], ['h', '-a', 'b']] as const); // prettier-ignore
    if (kind === 1) return { ...base, kind: 'copy', of: this.id(ids), by, ...(this.chance(0.4) && { axes }), ...(this.chance(0.2) && { turn: { axis: 'h' as const, deg: this.number(180) } }) }; // prettier-ignore
    if (kind === 2) {
      const joined = this.one(['join', 'take away', 'overlap'] as const);
      const lettering = { kind: 'cells', text: this.one(['QUAY 9', '', 'Ä\n9', 'x'.repeat(300)] as const), stem: Math.abs(this.number(2)) + 0.01, width: Math.abs(this.number(9)) + 0.01, height: Math.abs(this.number(9)) + 0.01, corner: 'cut', letter: this.number(2), line: this.number(9), align: 'centre' } as const; // prettier-ignore
      return { ...base, kind: 'group', children: this.chance(0.5) ? [] : [this.node(document, ids), this.node(document, ids)], ...(this.chance(0.3) && { joined }), ...(this.chance(0.2) && { lettering }) }; // prettier-ignore
    }
    if (kind === 3) {
      return { ...base, kind: 'dimension', plane: this.plane(), from: { ...this.point(), node: this.id(ids), point: 1 }, to: this.point(), along: this.one(['line', 'u', 'v'] as const), apart: this.number(3), colour: '#102030' }; // prettier-ignore
    }
    return {
      ...base,
      kind: 'shape',
      plane: this.plane(),
      outline: this.outline(),
      depth: this.chance(0.5) ? 0 : this.number(5),
      ...(this.chance(0.1) && { start: this.number(5) }),
      ...(this.chance(0.1) && { lean: this.point() }),
      ...(this.chance(0.1) && { taper: this.one([0, 0.001, 0.5, 3] as const) }),
      ...(this.chance(0.1) && { round: this.one(['ball', 'dome'] as const) }),
      ...(this.chance(0.1) && { solid: this.one(SOLID_KINDS) }),
      ...(this.chance(0.1) && { form: this.form() as never }),
      paint: this.paint(),
      ...(this.chance(0.1) && { surfaces: { 'side:1': this.paint() } }),
    };
  }

  /** A guide of any plane, of length 1 or nearly. */
  private guide(): unknown {
    const turn = this.random() * 7;
    const along = this.chance(0.3) ? 'out' : { u: Math.cos(turn), v: this.chance(0.9) ? Math.sin(turn) : this.number(1) };
    return { id: this.id(), name: this.name(), plane: this.plane(), at: this.point(), along, hidden: this.chance(0.2), locked: this.chance(0.2) };
  }

  /** What an outline may say that it was made by, right or not. */
  private form(): unknown {
    if (this.chance(0.5)) return { kind: 'star', points: 3 + this.whole(9), outer: Math.abs(this.number(9)), inner: Math.abs(this.number(5)), turnedDeg: this.number(40) }; // prettier-ignore
    return { kind: 'spiral', turns: Math.abs(this.number(9)), inner: Math.abs(this.number(2)), outer: Math.abs(this.number(9)), steps: this.one(['even', 'growing'] as const), band: this.chance(0.5) ? 0 : Math.abs(this.number(1)) }; // prettier-ignore
  }

  projection(): ProjectionSetup {
    const { key } = this.one(FAMILIES);
    const origin = { x: 150 + this.number(50), y: 100 + this.number(50) };
    const parallel = this.chance(0.7) ? parallelSetup(key, origin) : null;
    if (parallel?.kind === 'axonometric' && this.chance(0.4)) return { ...parallel, aDeg: this.number(89), bDeg: this.number(89), method: this.one(['parallel', 'orthographic'] as const) }; // prettier-ignore
    if (parallel) return parallel;
    const far = (size: number): number => this.number(size, 0.15);
    return { kind: 'perspective', chosen: 'two-point', focal: Math.abs(far(400)), principal: { x: far(200), y: far(200) }, turnDeg: far(90), tiltDeg: far(60), rollDeg: far(30), eye: { a: far(300), b: far(300), h: far(200) } }; // prettier-ignore
  }

  artworkLook(document: CheminDocument): unknown {
    const { id, width, height } = document.artworks[0] ?? { id: 'none', width: 4, height: 2 };
    return { id, name: this.name(), width: Math.abs(this.number(width)), height, ...(this.chance(0.3) && { unitMm: Math.abs(this.number(2)) }), ...(this.chance(0.3) && { background: '#fbf9f4' }), ...(this.chance(0.2) && { version: { of: 'sign', name: this.name() } }) }; // prettier-ignore
  }

  /** An edit of an artwork's sheet; of those on other planes most are refused. */
  flatEdit(document: CheminDocument): unknown {
    const artwork = this.id(document.artworks.map(({ id }) => id));
    const flat = flatSheetOf(document, artwork);
    if (!flat) return { kind: 'flat', artwork, edit: { kind: 'title', name: this.name() } };
    const edit = this.edit(flat) as { kind: string; nodes?: readonly object[] };
    if (edit.kind === 'flat') return { kind: 'flat', artwork, edit: { kind: 'title', name: this.name() } };
    const nodes = edit.nodes?.map((node) => ('plane' in node ? { ...node, plane: { kind: 'sheet', offset: 0 } } : node));
    return { kind: 'flat', artwork, edit: nodes ? { ...edit, nodes } : edit };
  }

  /** A photograph with a fitted surface, its numbers at their limits now and then. */
  private photos(): unknown {
    const crossing = { column: 0, row: 1, x: this.number(300), y: 20, error: Math.abs(this.number(1)) };
    const shape = this.chance(0.5)
      ? { kind: 'cylinder', parameters: [6, 0, 0.1, 0.2, 0, 0.1, 0, 6, this.number(2), 0], covariance: null }
      : {
          kind: 'patch',
          across: 1,
          down: 1,
          minU: -10,
          minV: -10,
          maxU: 10,
          maxV: 10,
          control: Array.from({ length: 32 }, () => this.number(300)),
          inverse: Array(256).fill(0),
          freedom: 9,
        };
    const fit = { kind: shape.kind, shape, lattice: { columns: 2, rows: 2, box: 10 }, width: 640, height: 480, wrong: [] };
    const light = { shade: this.part(), shadeStrength: this.share(), gloss: this.part(), glossStrength: 0.5 };
    const surface = { id: this.chance(0.8) ? 'band' : this.id(), name: this.name(), lattice: { columns: 2, rows: 2, box: 10 }, crossings: [crossing], fit, light }; // prettier-ignore
    return [{ id: this.id(), name: this.name(), bitmap: 'bare', x: this.number(90), y: 0, width: Math.abs(this.number(200)), height: 90, surfaces: [surface] }];
  }

  private part(): unknown {
    return { bitmap: 'bare', x: this.number(90), y: 3, width: Math.abs(this.number(90)), height: 9 };
  }

  edit(document: CheminDocument): Edit {
    const entries = flattenTree(document.nodes);
    const ids = entries.map(({ node }) => node.id);
    const some = (): string[] => Array.from({ length: 1 + this.whole(3) }, () => this.id(ids));
    const shape = entries.find(({ node }) => node.kind === 'shape')?.node.id ?? 'none';
    const add = (): unknown => ({ kind: 'add', nodes: [this.node(document, ids), this.node(document, ids)], artworks: [] });
    const kinds: readonly (() => unknown)[] = [
      ...Array.from({ length: 8 }, () => add),
      () => ({ kind: 'add', nodes: [this.node(document, ids)], artworks: [] }),
      () => ({ kind: 'add', nodes: [this.node(document, ids), this.node(document, ids)], artworks: document.artworks.length < 3 ? [{ id: this.id(), name: this.name(), svg: SVG, width: this.chance(0.1) ? this.one(ODD) : 4, height: 2 }] : [], ...(this.chance(0.3) && { before: this.id(ids) }) }), // prettier-ignore
      () => ({ kind: 'delete', ids: some() }),
      () => ({ kind: 'move', ids: some(), by: { a: this.number(9), b: this.number(9), h: this.number(9) } }),
      () => ({ kind: 'outline', id: shape, outline: this.outline() }),
      () => ({ kind: 'lay', items: [{ id: shape, plane: this.plane(), outline: this.outline(), ...(this.chance(0.5) && { paint: this.paint() }) }] }),
      () => ({ kind: 'replace', ids: some(), nodes: [this.node(document, ids)] }),
      () => ({ kind: 'change', nodes: [{ ...this.node(document, ids), id: this.id(ids) }] }),
      () => ({ kind: 'arrange', ids: some(), parent: this.chance(0.5) ? this.id(ids) : null, before: this.chance(0.5) ? this.id(ids) : null }),
      () => ({ kind: 'paints', items: [{ id: this.id(ids), paint: this.paint() }] }),
      () => ({ kind: 'swatches', swatches: [{ id: this.chance(0.9) ? 's1' : this.id(), name: this.name(), colour: '#1b6c8c' }] }),
      () => ({ kind: 'dimension', id: entries.find(({ node }) => node.kind === 'dimension')?.node.id ?? 'none', plane: this.plane(), from: this.point(), to: this.point(), along: 'u', apart: this.number(3), colour: '#102030' }), // prettier-ignore
      () => ({ kind: 'reference', reference: { ...document.references[0], x: this.number(100) } }),
      () => ({ kind: 'depth', id: shape, depth: this.number(9) }),
      () => ({ kind: 'plane', id: shape, plane: this.plane() }),
      () => ({ kind: 'paint', ids: some(), paint: this.paint() }),
      () => ({ kind: 'name', id: this.id(ids), name: this.name() }),
      () => ({ kind: 'hide', ids: some(), hidden: this.chance(0.3) }),
      () => ({ kind: 'lock', ids: some(), locked: this.chance(0.3) }),
      () => ({ kind: 'group', ids: some(), id: this.id(), name: this.name() }),
      () => ({ kind: 'ungroup', id: entries.find(({ node }) => node.kind === 'group')?.node.id ?? 'none' }),
      () => ({ kind: 'place', id: entries.find(({ node }) => node.kind === 'placement')?.node.id ?? 'none', target: { kind: 'plane', plane: this.plane() }, anchor: { at: { a: this.number(9), b: this.number(9), h: this.number(9) }, width: Math.abs(this.number(9)), height: Math.abs(this.number(9)), turn: this.number(400) } }), // prettier-ignore
      () => ({ kind: 'light', light: { ...document.light, sun: { azimuthDeg: this.number(360), elevationDeg: this.number(90) } } }),
      () => ({ kind: 'projection', projection: this.projection() }),
      () => ({ kind: 'grid', grid: { ...document.grid, cell: Math.abs(this.number(20)), bold: 1 + this.whole(1200), planes: this.chance(0.5) ? ['floor', 'left', 'right'] : 'active' } }), // prettier-ignore
      () => ({ kind: 'recount', cell: Math.abs(this.number(20)) }),
      () => ({ kind: 'setup', projection: this.projection(), grid: document.grid }),
      () => ({ kind: 'sheet', sheet: { ...document.sheet, width: Math.abs(this.number(600)), height: Math.abs(this.number(600)), unit: this.one(UNITS), resolution: Math.abs(this.number(600)), scale: Math.abs(this.number(100)) } }), // prettier-ignore
      () => ({ kind: 'add-reference', reference: { id: this.id(), name: this.name(), bitmap: 'hash', x: this.number(100), y: this.number(100), width: Math.abs(this.number(100)), height: 9, strength: this.share(), over: false, hidden: false, locked: false }, bitmap: { id: this.chance(0.9) ? 'hash' : 'other', type: 'image/png', width: 2, height: 2, asset: 'a'.repeat(64) } }), // prettier-ignore
      () => ({ kind: 'delete-reference', id: this.id(document.references.map((r) => r.id)) }),
      () => ({ kind: 'guides', guides: Array.from({ length: this.whole(4) }, () => this.guide()) }),
      () => ({ kind: 'trial', trial: this.chance(0.3) ? null : { at: { a: this.number(9), b: this.number(9), h: this.number(9) }, size: { a: Math.abs(this.number(9)), b: Math.abs(this.number(9)), h: Math.abs(this.number(9)) } } }), // prettier-ignore
      () => ({ kind: 'strokes', strokes: [{ id: this.id(), from: { x: this.number(200), y: this.number(200) }, to: { x: this.number(200), y: 3 }, axis: 'a' }] }), // prettier-ignore
      () => ({ kind: 'photos', photos: this.photos(), bitmaps: [{ id: this.chance(0.9) ? 'bare' : 'other', type: 'image/png', width: 2, height: 2, asset: 'a'.repeat(64) }] }), // prettier-ignore
      () => ({ kind: 'title', name: this.name() }),
      () => ({ kind: 'artworks', items: [this.artworkLook(document)] }),
      () => (this.chance(0.3) ? { kind: 'delete-artworks', ids: [this.id(document.artworks.map((artwork) => artwork.id))] } : add()),
      () => this.flatEdit(document),
      () => this.flatEdit(document),
      () => ({
        kind: 'net',
        artwork: {
          id: this.id(document.artworks.map(({ id }) => id)),
          name: this.name(),
          svg: '',
          width: Math.abs(this.number(90)),
          height: 40,
          unitMm: 1,
          net: { of: this.id(ids), tabs: true, lines: [] },
        },
        nodes: [],
      }),
    ];
    if (this.chance(0.05)) return { kind: 'all', edits: [this.one(kinds)(), this.one(kinds)()] } as Edit;
    return this.one(kinds)() as Edit;
  }
}
