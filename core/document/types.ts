import type { Ramp, Sun } from '../light/tones';
import type { SheetPoint } from '../math/points';
import type { ProjectionSetup } from '../projection/families';
import type { Plane } from '../projection/planes';
import type { Outline } from '../shape/outline';
import type { FaceName } from '../solid/faces';

/** The version that this code writes. Older ones are brought up by migrations; later ones are refused. */
export const DOCUMENT_VERSION = 1;

/** Deepest nesting of groups that a document may have. */
export const MAX_GROUP_DEPTH = 32;

export interface Sheet {
  /** Size in the sheet's unit. */
  readonly width: number;
  readonly height: number;
  readonly unit: 'mm';
  readonly background: string;
}

/** A line drawn along a boundary: width in sheet units. */
export interface LinePaint {
  readonly colour: string;
  readonly width: number;
}

/** Paint of a shape. On planes, `fill` is the base colour that the light's ramp tones; on the sheet it is kept. */
export interface Paint {
  readonly fill: string | null;
  readonly line: LinePaint | null;
}

interface NodeBase {
  readonly id: string;
  readonly name: string;
  readonly hidden: boolean;
  readonly locked: boolean;
}

export interface GroupNode extends NodeBase {
  readonly kind: 'group';
  readonly children: readonly DocumentNode[];
}

/** A shape on a plane; a depth other than 0 makes it a solid and keeps the outline editable. */
export interface ShapeNode extends NodeBase {
  readonly kind: 'shape';
  readonly plane: Plane;
  readonly outline: Outline;
  /** Depth in cells along the plane's normal: positive towards the viewer. */
  readonly depth: number;
  readonly paint: Paint;
}

/** Where a placement lies: a plane, or a face of a solid (or of a flat shape) by name. */
export type PlacementTarget = { readonly kind: 'plane'; readonly plane: Plane } | { readonly kind: 'face'; readonly node: string; readonly face: FaceName };

/**
 * One appearance of an artwork. The box is in cells of the reading frame: x right and y down as text stands there,
 * from the top left of the face's box, or from the world's origin on a plane.
 */
export interface PlacementNode extends NodeBase {
  readonly kind: 'placement';
  readonly artwork: string;
  readonly target: PlacementTarget;
  readonly box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}

export type DocumentNode = GroupNode | ShapeNode | PlacementNode;

/** Flat artwork, kept as cleaned SVG text of groups, paths, gradients and clips. */
export interface Artwork {
  readonly id: string;
  readonly name: string;
  readonly svg: string;
  /** Size in the artwork's own units, for its proportions. */
  readonly width: number;
  readonly height: number;
}

export interface Light {
  readonly sun: Sun;
  readonly ramp: Ramp;
}

export interface CheminDocument {
  readonly format: 'chemin';
  readonly version: typeof DOCUMENT_VERSION;
  readonly id: string;
  readonly name: string;
  readonly sheet: Sheet;
  readonly projection: ProjectionSetup;
  /** `cell`: the edge of a grid cell in sheet units; `bold`: every how many lines one is bold. */
  readonly grid: { readonly cell: number; readonly bold: number };
  readonly light: Light;
  readonly artworks: readonly Artwork[];
  /** Things in document order: of things in one plane, later ones lie on top. */
  readonly nodes: readonly DocumentNode[];
}

/** An empty sheet with its origin: the point of the sheet where the world's axes meet. */
export function emptyDocument(id: string, name: string, origin: SheetPoint = { x: 150, y: 150 }): CheminDocument {
  return {
    format: 'chemin',
    version: DOCUMENT_VERSION,
    id,
    name,
    sheet: { width: 300, height: 200, unit: 'mm', background: '#ffffff' },
    projection: { family: 'isometric', measure: 'drawing', origin },
    grid: { cell: 8, bold: 5 },
    light: {
      sun: { azimuthDeg: 245, elevationDeg: 50 },
      ramp: {
        lit: { lightness: 0.1, chroma: 0.94 },
        grazed: { lightness: -0.13, chroma: 1 },
        turned: { lightness: -0.34, chroma: 0.9 },
      },
    },
    artworks: [],
    nodes: [],
  };
}
