import { patchState, signalStore, withMethods, withState } from '@ngrx/signals';
import type { AxisPlaneKind, CatchGroup, ColourVision, FrameTakes, Paint, Plane, SheetPoint, SurfaceName } from '@core';

export type Theme = 'light' | 'dark';

interface ViewState {
  readonly stage: string;
  readonly tool: string;
  readonly plane: Plane;
  /** Where each plane along the axes was drawn on last, in cells. */
  readonly offsets: Readonly<Record<AxisPlaneKind, number>>;
  readonly grid: boolean;
  readonly snapping: boolean;
  readonly seeThrough: boolean;
  /** What a frame pulled over empty ground chooses. */
  readonly frameTakes: FrameTakes;
  /** Screen px per sheet unit, and the screen place of the sheet's top left corner in px. */
  readonly zoom: number;
  readonly panX: number;
  readonly panY: number;
  /** Size of the drawing area in px. */
  readonly width: number;
  readonly height: number;
  /** Grows when the sheet is to be shown whole as soon as its room is known. */
  readonly refit: number;
  readonly selection: readonly string[];
  /** The face that was pressed last, of the first selected thing. */
  readonly face: SurfaceName | null;
  readonly paint: Paint;
  /** Chosen points of selected shapes, each as the shape's id and the point's, parted by a space. */
  readonly points: readonly string[];
  /** The edge whose figures are shown, by its shape and the point at which it starts. */
  readonly edge: { readonly node: string; readonly point: number } | null;
  /** What is shown while everything else is hidden; null shows all. Belongs to the view, not to the document. */
  readonly alone: readonly string[] | null;
  /** Kinds of things that the pointer does not catch. */
  readonly catchOff: readonly CatchGroup[];
  /** Parts of a cell that count as crossings: 1, 2, 3 or 10. */
  readonly parts: number;
  /** What a picked colour goes to. */
  readonly colourSlot: ColourSlot;
  /** The tool that was in hand before a colour was picked, which is in hand again afterwards. */
  readonly toolBefore: string;
  readonly recentColours: readonly string[];
  readonly artwork: string | null;
  /** Artworks that were just dropped and come to lie where they were. */
  readonly dropped: readonly string[] | null;
  readonly theme: Theme;
  /** The drawing as it is seen with one kind of cones missing; null as it is. */
  readonly vision: ColourVision | null;
  /** The page of the projection stage that was open last. */
  readonly page: string;
  readonly panel: 'none' | 'find' | 'keys' | 'drawings' | 'steps' | 'catching' | 'printer' | 'unsaved';
  /** In a small window, the panel that is shown over the drawing. */
  readonly unfolded: 'none' | 'bench' | 'side';
  /** Rulers along the drawing. */
  readonly rulers: boolean;
  /** The look before something far off the sheet was brought into view. */
  readonly lookBefore: { readonly zoom: number; readonly panX: number; readonly panY: number } | null;
}

/** A colour of a paint: the fill, the line, or a stop of the fill's gradient. */
export type ColourSlot = { readonly kind: 'fill' | 'line' } | { readonly kind: 'stop'; readonly index: number };

const ON_THE_AXES: Readonly<Record<AxisPlaneKind, number>> = { floor: 0, left: 0, right: 0 };

/** Most colours that are remembered. */
const MOST_COLOURS = 12;

function storedColours(): readonly string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem('chemin-colours') ?? '[]');
    return Array.isArray(kept) ? kept.filter((c): c is string => typeof c === 'string' && /^#[0-9a-f]{6}$/.test(c)).slice(0, MOST_COLOURS) : [];
  } catch {
    return [];
  }
}

/** Screen px of one sheet unit (mm) at 100 %: CSS has 96 px to the inch. */
export const PX_PER_MM = 96 / 25.4;

const MIN_ZOOM = 0.05 * PX_PER_MM;
const MAX_ZOOM = 64 * PX_PER_MM;

function storedTheme(): Theme {
  try {
    return localStorage.getItem('chemin-theme') === 'dark' ? 'dark' : 'light';
  } catch {
    return 'light';
  }
}

/** How the drawing is looked at and worked on; none of this belongs to the document. */
export const ViewStore = signalStore(
  { providedIn: 'root' },
  withState<ViewState>({
    stage: 'draw',
    tool: 'pick',
    plane: { kind: 'floor', offset: 0 },
    offsets: ON_THE_AXES,
    grid: true,
    snapping: true,
    seeThrough: false,
    frameTakes: 'within',
    zoom: PX_PER_MM,
    panX: 0,
    panY: 0,
    width: 0,
    height: 0,
    refit: 0,
    selection: [],
    face: null,
    paint: { fill: '#c98a4b', line: null },
    points: [],
    edge: null,
    alone: null,
    catchOff: ['grid line'],
    parts: 1,
    colourSlot: { kind: 'fill' },
    toolBefore: 'pick',
    recentColours: storedColours(),
    artwork: null,
    dropped: null,
    theme: storedTheme(),
    vision: null,
    page: 'projection',
    panel: 'none',
    unfolded: 'none',
    rulers: false,
    lookBefore: null,
  }),
  withMethods((store) => {
    let told: (tool: string) => void = () => undefined;
    let leaving = false;
    /** What a tool wishes while it ends does not count: the wish for another stands. */
    const leave = (tool: string): void => {
      leaving = true;
      try {
        told(tool);
      } finally {
        leaving = false;
      }
    };
    return {
      patch(part: Partial<Omit<ViewState, 'stage' | 'tool' | 'plane' | 'zoom' | 'panX' | 'panY' | 'theme'>>): void {
        patchState(store, part);
      },
      /** Goes to a stage with these tools; the one in use stays where the stage has it. */
      setStage(stage: string, tools: readonly string[]): void {
        const usual = stage === 'projection' ? store.page() : 'pick';
        const tool = store.tool() !== 'pick' && tools.includes(store.tool()) ? store.tool() : usual;
        if (tool !== store.tool()) leave(store.tool());
        patchState(store, { stage, tool });
      },
      /** Takes a tool, after the one in use has ended what it had begun. */
      setTool(tool: string): void {
        if (leaving) return;
        if (tool !== store.tool()) leave(store.tool());
        const before = tool === 'colour' && store.tool() !== 'colour' ? { toolBefore: store.tool() } : {};
        patchState(store, { tool, ...before, ...(store.stage() === 'projection' && tool !== 'pick' && { page: tool }) });
      },
      /** Who drives the tools is told before another is taken. */
      beforeLeaving(tell: (tool: string) => void): void {
        told = tell;
      },
      setPlane(kind: AxisPlaneKind | 'sheet'): void {
        patchState(store, { plane: { kind, offset: kind === 'sheet' ? 0 : store.offsets()[kind] } });
      },
      putPlane(plane: Plane): void {
        const { kind, offset } = plane;
        patchState(store, { plane, ...(kind in ON_THE_AXES && { offsets: { ...store.offsets(), [kind]: offset } }) });
      },
      /** Planes are drawn on where the axes are; the one that is drawn on stays. */
      forgetOffsets(): void {
        const { kind, offset } = store.plane();
        patchState(store, { offsets: kind in ON_THE_AXES ? { ...ON_THE_AXES, [kind]: offset } : ON_THE_AXES });
      },
      select(selection: readonly string[], face: SurfaceName | null = null): void {
        const kept = store.points().filter((point) => selection.includes(point.split(' ')[0] ?? ''));
        const edge = store.edge();
        patchState(store, { selection, face, points: kept, edge: edge && selection.includes(edge.node) ? edge : null });
      },
      /** Remembers a colour as the one used last. */
      noteColour(colour: string): void {
        if (!/^#[0-9a-f]{6}$/.test(colour)) return;
        const recentColours = [colour, ...store.recentColours().filter((c) => c !== colour)].slice(0, MOST_COLOURS);
        try {
          localStorage.setItem('chemin-colours', JSON.stringify(recentColours));
        } catch {
          // Without storage they last as long as the page.
        }
        patchState(store, { recentColours });
      },
      /** Shows a part of the sheet as large as fits. */
      showBox(minX: number, minY: number, maxX: number, maxY: number): void {
        const margin = 60;
        const fit = Math.min((store.width() - 2 * margin) / Math.max(1e-6, maxX - minX), (store.height() - 2 * margin) / Math.max(1e-6, maxY - minY));
        const zoom = Math.max(MIN_ZOOM, Math.min(MAX_ZOOM / 4, fit));
        const panX = Math.round((store.width() - (minX + maxX) * zoom) / 2);
        const panY = Math.round((store.height() - (minY + maxY) * zoom) / 2);
        patchState(store, { zoom, panX, panY, lookBefore: null });
      },
      /** Puts the sheet at a place and size; zoom is kept within its limits. */
      look(zoom: number, panX: number, panY: number): void {
        patchState(store, { zoom: Math.max(MIN_ZOOM, Math.min(MAX_ZOOM, zoom)), panX: Math.round(panX), panY: Math.round(panY) });
      },
      /** Zooms about a point of the screen, which stays where it is. */
      zoomAt(factor: number, x: number, y: number): void {
        const zoom = Math.max(MIN_ZOOM, Math.min(MAX_ZOOM, store.zoom() * factor));
        const k = zoom / store.zoom();
        patchState(store, { zoom, panX: Math.round(x - (x - store.panX()) * k), panY: Math.round(y - (y - store.panY()) * k) });
      },
      panBy(dx: number, dy: number): void {
        patchState(store, { panX: store.panX() + dx, panY: store.panY() + dy });
      },
      /** Zooms out until the sheet and a place far off it are both seen; `lookBack` undoes it. */
      bringIntoView(at: SheetPoint, width: number, height: number): void {
        const before = store.lookBefore() ?? { zoom: store.zoom(), panX: store.panX(), panY: store.panY() };
        const [minX, minY, maxX, maxY] = [Math.min(0, at.x), Math.min(0, at.y), Math.max(width, at.x), Math.max(height, at.y)];
        const margin = 60;
        // Points may lie kilometres away: here the limit of zooming out does not count.
        const zoom = Math.min((store.width() - 2 * margin) / (maxX - minX), (store.height() - 2 * margin) / (maxY - minY), MAX_ZOOM);
        const panX = Math.round((store.width() - (minX + maxX) * zoom) / 2);
        const panY = Math.round((store.height() - (minY + maxY) * zoom) / 2);
        patchState(store, { lookBefore: before, zoom, panX, panY });
      },
      lookBack(): void {
        const before = store.lookBefore();
        if (before) patchState(store, { ...before, lookBefore: null });
      },
      /** Shows a whole sheet of this size with a margin. */
      fit(width: number, height: number): void {
        const margin = 36;
        const zoom = Math.max(MIN_ZOOM, Math.min((store.width() - 2 * margin) / width, (store.height() - 2 * margin) / height, MAX_ZOOM));
        patchState(store, {
          lookBefore: null,
          zoom,
          panX: Math.round((store.width() - width * zoom) / 2),
          panY: Math.round((store.height() - height * zoom) / 2),
        });
      },
      setTheme(theme: Theme): void {
        try {
          localStorage.setItem('chemin-theme', theme);
        } catch {
          // Without storage the choice lasts as long as the page.
        }
        patchState(store, { theme });
      },
    };
  }),
);
