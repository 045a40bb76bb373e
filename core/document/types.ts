import type { FixedTones, Ramp, Sun, Tint } from '../light/tones';
import type { PlanePoint, SheetPoint } from '../math/points';
import type { Unit } from '../math/units';
import { gridOf, usualPlanes, type GridSettings } from '../grid/settings';
import { isometricSetup, type ProjectionSetup } from '../projection/setup';
import type { TracedStroke } from '../projection/stroke-lines';
import type { Guide } from '../projection/guides';
import type { Plane } from '../projection/planes';
import type { TrialBox } from '../projection/trial-box';
import type { Extruded } from '../geometry/depth-recipe';
import type { LaidLetter } from '../lettering/laid-text';
import type { Lettering } from '../lettering/lettering';
import type { JoinKind } from '../geometry/joined-recipe';
import type { SolidKind } from '../solids/kinds';
import type { MeasuredForm } from '../shape/measured-forms';
import type { Blend, Colour, LinePaint, Paint, Swatch } from '../paint/paint';
import type { Pattern, PatternBox } from '../artwork/pattern';
import type { Photo } from '../photo/photo';
import type { ArtworkAnchor } from '../geometry/anchor';
import type { SurfaceName } from '../geometry/names';
import type { CellMove, RigidMove } from '../geometry/rigid';

export type { CellMove } from '../geometry/rigid';

/** The version that this code writes. Older ones are brought up by migrations; later ones are refused. */
export const DOCUMENT_VERSION = 4;

/** Deepest nesting of groups that a document may have. */
export const MAX_GROUP_DEPTH = 32;

/** Most letters of a name. */
export const MAX_NAME = 200;
/** Most guides of a drawing, or of an artwork's sheet. */
export const MOST_GUIDES = 500;

/** The sheet: its size in mm, the unit, resolution and drawing scale that it is read in, and its background. */
export interface Sheet {
  /** Size in mm, whatever the unit. */
  readonly width: number;
  readonly height: number;
  /** The unit in which lengths are shown and typed; changing it changes no size. */
  readonly unit: Unit;
  /** Px to the inch: what a px is, and the size of bitmaps. */
  readonly resolution: number;
  /** The drawing scale 1 : n. A mm of the sheet's true lengths stands for n mm of the real thing. */
  readonly scale: number;
  readonly background: string;
}

/** A bitmap that a drawing names. Its bytes are an asset: kept once, apart from the drawings that name it. */
export interface Bitmap {
  readonly id: string;
  readonly type: 'image/png' | 'image/jpeg' | 'image/webp';
  /** Size in px as it is seen, its orientation applied. */
  readonly width: number;
  readonly height: number;
  /** The SHA-256 of its bytes in hexadecimal digits, or its first half. */
  readonly asset: string;
}

/** A picture that is only looked at: under or over the drawing, never handed over. */
export interface Reference {
  readonly id: string;
  readonly name: string;
  readonly bitmap: string;
  /** Its place on the sheet in mm. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** Opacity from 0 to 1. */
  readonly strength: number;
  readonly over: boolean;
  readonly hidden: boolean;
  readonly locked: boolean;
}

/** An edge traced over a reference, in mm of the sheet, and the axis that it runs along. */
export type Stroke = TracedStroke;

interface NodeBase {
  readonly id: string;
  readonly name: string;
  readonly hidden: boolean;
  readonly locked: boolean;
  /** It, and what it holds, throws no shadows. */
  readonly casts?: false;
  /** No shadows are seen on it, and on what it holds. */
  readonly receives?: false;
  /** No lines are drawn of it, and of what it holds. */
  readonly lined?: false;
  /** A line round it, or round all that it holds together, in place of the one that the light's lines give. */
  readonly contour?: LinePaint;
  /** Tones of its own, and of what it holds, in place of the light's. */
  readonly ramp?: Ramp;
  /** A colour over all its colours, and over those of what it holds. */
  readonly tint?: Tint;
}

/** Things that are hidden, locked, moved and named together. */
export interface GroupNode extends NodeBase {
  readonly kind: 'group';
  readonly children: readonly DocumentNode[];
  /** Its solids are one: joined, the first without the others, or what they have in common. They stay, and can be changed. */
  readonly joined?: JoinKind;
  /** It is text: its letters are drawn by this, and again whenever it changes. */
  readonly lettering?: Lettering & { readonly marks?: LetterMarks };
}

/** Where the letters of a lettering were drawn in the text's own directions, so that they are found again wherever they are moved to. */
export interface LetterMarks {
  /** What each letter stands for, and where its first point was, in cells. */
  readonly signs: readonly string[];
  readonly at: readonly PlanePoint[];
  /** Another point of the first letter, by its place and id. */
  readonly to: PlanePoint;
  readonly point: number;
  /** Which way the first letter's outline turned. */
  readonly turn: 1 | -1;
  /** Of text around a round side: where each letter stands. */
  readonly seats?: readonly NonNullable<LaidLetter['seat']>[];
}

/** A group whose solids are one. */
export type JoinedNode = GroupNode & { readonly joined: JoinKind };

/** A shape on a plane; a depth other than 0 makes it a solid and keeps the outline editable. */
export interface ShapeNode extends NodeBase, Extruded {
  readonly kind: 'shape';
  readonly paint: Paint;
  /** The form that it was drawn as: its measures are read off it as long as it has that form. */
  readonly solid?: SolidKind;
  /** What its outline was made by, a star or a spiral; it counts as long as the outline is what it makes. */
  readonly form?: MeasuredForm;
  /** Of a circle: the face that it is inscribed in, and stays so until it is let go. */
  readonly inscribed?: { readonly node: string; readonly face: SurfaceName };
  /** Paints of single surfaces in place of the whole thing's; those of surfaces that are gone wait for them. */
  readonly surfaces?: Readonly<Record<SurfaceName, Paint>>;
}

/**
 * Where a placement lies: a plane, or a surface of a solid (or of a flat shape) by name. One on the sheet may lie on the
 * sheet of a photographed surface in its place, by the surface's id: in true size, from its lattice's upper left crossing.
 * One `inside` is read from within the solid: on the walls of what is taken away.
 */
export type PlacementTarget =
  | { readonly kind: 'plane'; readonly plane: Plane; readonly photographed?: string }
  | { readonly kind: 'face'; readonly node: string; readonly face: SurfaceName; readonly inside?: true };

/** One appearance of an artwork. */
export interface PlacementNode extends NodeBase {
  readonly kind: 'placement';
  readonly artwork: string;
  readonly target: PlacementTarget;
  readonly anchor: ArtworkAnchor;
  /** It is seen beyond its face's boundary too. */
  readonly overhangs?: true;
  /** It is repeated over all of what it lies on. */
  readonly pattern?: Pattern;
  /** The part of the artwork that is seen, in parts of its width and height; all of it without. */
  readonly part?: PatternBox;
  /** How far it takes the tone of what it lies on, from 0 to 1: as printed there with 1; as it is without. */
  readonly lit?: number;
  /** No shadows are seen on it: it shines, or lies over them. */
  readonly shaded?: false;
  /** How much it covers, from 0 to 1, and how it mixes with what lies under it. */
  readonly strength?: number;
  readonly blend?: Exclude<Blend, 'normal'>;
}

/** Another appearance of something: it looks as its original does, carried by a rigid move. */
export interface CopyNode extends NodeBase, RigidMove {
  readonly kind: 'copy';
  /** The original: anything, copies and groups with copies in them too. A copy inside its own original is not drawn again. */
  readonly of: string;
}

/** A place that is measured: a corner of a shape, as long as it is there, else the place itself in cells of the plane. */
export interface Anchor extends PlanePoint {
  readonly node?: string;
  readonly point?: number;
}

/** A length drawn in projection between two places of a plane, with its figure. */
export interface DimensionNode extends NodeBase {
  readonly kind: 'dimension';
  readonly plane: Plane;
  readonly from: Anchor;
  readonly to: Anchor;
  /** What is measured: the distance itself, or its part along u or v. */
  readonly along: 'line' | 'u' | 'v';
  /** How far the dimension line stands from what it measures, in cells, to the left of its direction. */
  readonly apart: number;
  readonly colour: Colour;
}

/** Anything of the contents. */
export type DocumentNode = GroupNode | ShapeNode | PlacementNode | CopyNode | DimensionNode;

/**
 * Flat artwork: a small sheet of its own. What came from a file lies under everything on it and fills it, what is drawn
 * on it lies above, and of that what lies beyond its edges is not seen.
 */
export interface Artwork {
  readonly id: string;
  readonly name: string;
  /** Cleaned SVG text of groups, paths, gradients, clips and named bitmaps; empty where nothing came from an SVG. */
  readonly svg: string;
  /** The bitmap that fills it, by its id. */
  readonly bitmap?: string;
  /** Size in units of its own. */
  readonly width: number;
  readonly height: number;
  /** Mm of one such unit; without, those of SVG (96 to the inch). */
  readonly unitMm?: number;
  /** What is drawn on it: shapes, text, and other artworks, all on its sheet, in cells of its own. */
  readonly nodes?: readonly DocumentNode[];
  /** Edge of such a cell in mm; 5 without. */
  readonly cell?: number;
  /** The colour that it is painted on; nothing without. */
  readonly background?: string;
  /** It is one of several versions of one thing, such as in several languages: what they have in common, and what this one is called. */
  readonly version?: { readonly of: string; readonly name: string };
  /** It is the net of a solid: whose, whether it has tabs for gluing, and its lines, which are seen on its sheet alone. */
  readonly net?: { readonly of: string; readonly tabs: boolean; readonly lines: readonly DocumentNode[] };
  /** Lines to draw by on its sheet. */
  readonly guides?: readonly Guide[];
}

/** What tones faces: the sun, a lamp where there is one, and the ramp or fixed tones. */
export interface Light {
  readonly sun: Sun;
  /** The sun keeps its place in the picture when the view changes: its direction is then counted from the viewer's. */
  readonly keep?: 'picture';
  /** A lamp that shines in place of the sun: its place in cells of the world, and how far it reaches, in cells. */
  readonly lamp?: { readonly at: CellMove; readonly reach: number };
  readonly ramp: Ramp;
  /** Light from all around, from 0 to 1: how far every tone is brought towards that of what faces the light. */
  readonly fill?: number;
  /** Tones of the sides that face along the axes, in place of the ramp's; slopes lie in between. */
  readonly fixed?: FixedTones;
  readonly shadows?: Shadows;
  readonly lines?: DrawnLines;
}

/** Lines drawn by themselves, as far as they are seen, over what is painted in space. */
export interface DrawnLines {
  /** Round each thing, each group of the top level, or everything together. */
  readonly contour?: { readonly of: 'thing' | 'group' | 'all'; readonly line: LinePaint };
  /** Where faces meet: in an edge, or also where they go over into each other smoothly. */
  readonly inner?: { readonly smooth: boolean; readonly line: LinePaint };
  /** Along outer edges both faces of which are turned to the light: a line that fades over a width to both sides, in mm. */
  readonly highlight?: { readonly line: LinePaint; readonly soft: number; readonly strength: number };
  /** Every edge, what hides it or not, under the others. */
  readonly hidden?: { readonly line: LinePaint };
}

/** The shadows that things throw. */
export interface Shadows {
  readonly on: boolean;
  /** The height in cells of an endless floor that they fall on; without, they fall on things alone. */
  readonly floor?: number;
  /** A colour laid over what is covered, in place of the ramp's tone. */
  readonly ink?: { readonly colour: string; readonly strength: number };
  /** How wide their edges fade on the sheet, in mm; sharp without. */
  readonly soft?: number;
  /** How far from what throws them they are gone, in cells along the light; without, they do not fade. */
  readonly fade?: number;
  /** How far round what stands on something it is darkened, in cells, most right beside it; not without. */
  readonly contact?: number;
}

/** A drawing as data: recipes, never results. Valid by its schema at every door. */
export interface CheminDocument {
  readonly format: 'chemin';
  readonly version: typeof DOCUMENT_VERSION;
  readonly id: string;
  readonly name: string;
  readonly sheet: Sheet;
  readonly projection: ProjectionSetup;
  readonly grid: GridSettings;
  readonly light: Light;
  readonly artworks: readonly Artwork[];
  readonly bitmaps: readonly Bitmap[];
  readonly references: readonly Reference[];
  readonly strokes: readonly Stroke[];
  /** The palette: colours by name that paint may follow. */
  readonly swatches: readonly Swatch[];
  /** Things in document order: of things in one plane, later ones lie on top. */
  readonly nodes: readonly DocumentNode[];
  /** Photographs on the sheet, under everything that is drawn. */
  readonly photos?: readonly Photo[];
  /** Lines to draw by, which are caught and never handed over unless that is asked for. */
  readonly guides?: readonly Guide[];
  /** A box that is shown and not drawn, to judge the view by. */
  readonly trial?: TrialBox;
}

/** An empty sheet with its origin: the point of the sheet where the world's axes meet. */
export function emptyDocument(id: string, name: string, origin: SheetPoint = { x: 150, y: 150 }): CheminDocument {
  return {
    format: 'chemin',
    version: DOCUMENT_VERSION,
    id,
    name,
    sheet: { width: 300, height: 200, unit: 'mm', resolution: 300, scale: 1, background: '#ffffff' },
    projection: isometricSetup(origin),
    grid: { ...gridOf(8), planes: usualPlanes('isometric') },
    light: {
      sun: { azimuthDeg: 245, elevationDeg: 50 },
      ramp: {
        lit: { lightness: 0.1, chroma: 0.94 },
        grazed: { lightness: -0.13, chroma: 1 },
        turned: { lightness: -0.34, chroma: 0.9 },
      },
    },
    artworks: [],
    bitmaps: [],
    references: [],
    strokes: [],
    swatches: [],
    nodes: [],
  };
}
