import type {
  CameraAngles,
  CatchOptions,
  CatchSource,
  Caught,
  CheminDocument,
  DocumentNode,
  Edit,
  Paint,
  Picture,
  Plane,
  PlanePoint,
  SheetPoint,
  Stage as Geometry,
} from '@core';

/** What the pointer or the keyboard did, in sheet units. */
export type ToolEvent =
  | { readonly kind: 'move' | 'down' | 'up'; readonly at: SheetPoint; readonly lock: boolean; readonly free: boolean }
  | { readonly kind: 'key'; readonly key: 'Backspace' | 'Enter' | 'Escape' }
  /** Lengths typed in cells, one for each of the tool's fields; null where a field was left alone. */
  | { readonly kind: 'typed'; readonly lengths: readonly (number | null)[] };

/** What can be caught on one plane. */
export interface PlaneContext {
  readonly plane: Plane;
  readonly options: CatchOptions;
  readonly source: CatchSource;
}

/** Everything that a tool may look at. */
export interface ToolContext {
  readonly document: CheminDocument;
  readonly geometry: Geometry;
  readonly picture: Picture;
  readonly plane: Plane;
  readonly paint: Paint;
  /** Corners of regular polygons. */
  readonly sides: number;
  readonly selection: readonly string[];
  /** The artwork that the next press places, or null. */
  readonly artwork: string | null;
  /** Sheet units within which a line counts as hit. */
  readonly reach: number;
  readonly on: (plane: Plane) => PlaneContext;
  /** The camera that traced strokes tell so far, for guessing the axis of the next. */
  readonly traced: CameraAngles | null;
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
  /** A loose line on the sheet in mm, `[x0, y0, x1, y1]`. */
  readonly line?: readonly number[];
}

export interface ToolStep<S> {
  readonly state: S;
  readonly commit?: { readonly edit: Edit; readonly label: string };
  /** An edit that is shown but not yet made; null takes the shown one back. */
  readonly preview?: Edit | null;
  readonly select?: readonly string[];
  /** The tool has done its work: go back to picking. */
  readonly done?: boolean;
}

/** A tool without any interface: events in, ghost and edits out. */
export interface Tool<S> {
  readonly start: () => S;
  readonly step: (state: S, event: ToolEvent, context: ToolContext) => ToolStep<S>;
  readonly ghost: (state: S, context: ToolContext) => Ghost | null;
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
