import type {
  CatchOptions,
  CatchSource,
  Caught,
  CheminDocument,
  DocumentNode,
  Edit,
  FrameTakes,
  SurfaceName,
  Paint,
  Picture,
  Plane,
  PlanePoint,
  Regions,
  SheetPoint,
  Stage as Geometry,
  WorldPoint,
} from '@core';

/** What the pointer or the keyboard did, in sheet units. */
export type ToolEvent =
  | {
      readonly kind: 'move' | 'down' | 'up';
      readonly at: SheetPoint;
      readonly lock: boolean;
      readonly free: boolean;
      readonly carry?: boolean;
      readonly press?: number;
    }
  | { readonly kind: 'key'; readonly key: 'Backspace' | 'Enter' | 'Escape' }
  /** Lengths typed in cells, one for each of the tool's fields; null where a field was left alone. */
  | { readonly kind: 'typed'; readonly lengths: readonly (number | null)[] };

/** What can be caught on one plane. */
export interface PlaneContext {
  readonly plane: Plane;
  readonly options: CatchOptions;
  readonly source: CatchSource;
}

/** Everything that a tool may look at. @typeParam Settings what is set for it and its like */
export interface ToolContext<Settings = unknown> {
  /** What is set on the bench for tools of this kind. */
  readonly settings: Settings;
  readonly document: CheminDocument;
  readonly geometry: Geometry;
  readonly picture: Picture;
  readonly plane: Plane;
  readonly paint: Paint;
  readonly selection: readonly string[];
  /** What a frame pulled over empty ground chooses. */
  readonly frameTakes: FrameTakes;
  /** Sheet units within which a line counts as hit. */
  readonly reach: number;
  readonly pxPerUnit: number;
  /** The directions of a plane, or on the sheet those in which the axes are drawn, at a point of it. */
  readonly directions: (plane: Plane, at: PlanePoint) => readonly PlanePoint[];
  /** What is nearest to a place of the sheet among corners of solids and places of the plane, in space. */
  readonly spaceAt: (at: SheetPoint) => { readonly at: WorldPoint; readonly word: string } | null;
  /** The colour of the drawing or a reference at a place of the sheet. */
  readonly colourAt: (at: SheetPoint) => { readonly colour: string; readonly from: string } | null;
  /** The regions that the lines lying in a plane enclose; while they are found anew, those before. */
  readonly regions: (plane: Plane) => Regions & { readonly pending: boolean };
  readonly on: (plane: Plane) => PlaneContext;
  readonly newId: () => string;
}

/** What a tool shows before anything is in the document, on its plane. */
export interface Ghost {
  readonly plane: Plane;
  readonly caught: Caught | null;
  readonly points: readonly PlanePoint[];
  readonly closed: boolean;
  /** The next press closes the outline. */
  readonly closes: boolean;
  /** The words at the pointer, one line each. */
  readonly words: readonly string[];
  /** The face that a press would take, as flat sheet coordinates. */
  readonly part?: ArrayLike<number>;
  /** The points follow a curve: only what is caught is marked, not every one of them. */
  readonly smooth?: boolean;
  /** Points that are marked, such as loose ends. */
  readonly marks?: readonly PlanePoint[];
  /** Several outlines that are shown besides the points. */
  readonly more?: readonly (readonly PlanePoint[])[];
  /** A colour that is shown at the pointer. */
  readonly swatch?: string;
  /** A loose line on the sheet in mm, `[x0, y0, x1, y1, ...]`. */
  readonly line?: readonly number[];
}

export interface ToolStep<S, Settings = unknown> {
  readonly state: S;
  readonly commit?: { readonly edit: Edit; readonly label: string };
  /** An edit that is shown but not yet made; null takes the shown one back. */
  readonly preview?: Edit | null;
  readonly select?: readonly string[];
  /** The face of the selected thing that was pressed. */
  readonly face?: SurfaceName | null;
  /** A colour that was picked. */
  readonly colour?: string;
  /** A plane that was found, to draw on from now on. */
  readonly plane?: Plane;
  /** What has changed of what is set for tools of this kind. */
  readonly settings?: Partial<Settings>;
  /** The tool has done its work: go back to picking. */
  readonly done?: boolean;
}

/** A tool without any interface: events in, ghost and edits out. */
export interface Tool<S, Settings = unknown> {
  readonly start: () => S;
  readonly step: (state: S, event: ToolEvent, context: ToolContext<Settings>) => ToolStep<S, Settings>;
  readonly ghost: (state: S, context: ToolContext<Settings>) => Ghost | null;
  /** Whether something is begun and in hand, which undo takes back step by step; where it is not told, while lengths can be typed. */
  readonly begun?: (state: S) => boolean;
  /** While a height or a depth is drawn: where it begins and its direction for a cell, both in mm of the world, and how far it is, in cells. */
  readonly rising?: (state: S, context: ToolContext<Settings>) => { readonly foot: WorldPoint; readonly cell: WorldPoint; readonly cells: number } | null;
  /** The names of the lengths that can be typed now; none while nothing is being drawn. */
  readonly fields: (state: S) => readonly string[];
}

/** Whether a node or one of its groups is locked; such things are not pointed at. */
export function lockedIds(nodes: readonly DocumentNode[], into = new Set<string>(), inherited = false): Set<string> {
  for (const node of nodes) {
    const locked = inherited || node.locked;
    if (locked) into.add(node.id);
    if (node.kind === 'group') lockedIds(node.children, into, locked);
  }
  return into;
}
