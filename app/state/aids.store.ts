import { patchState, signalStore, withMethods, withState } from '@ngrx/signals';
import type { Affine, PlanePoint, SheetPoint } from '@core';
import type { SolveAs } from '@later';

/** What of a projection can be taken hold of, and locked. */
export type SteeredName = 'a' | 'b' | 'h' | 'horizon' | 'roll' | 'corner';

/** A line over the drawing as flat coordinates in mm of the sheet, `[x0, y0, x1, y1, ...]`. */
export interface AidTrail {
  readonly points: readonly number[];
  readonly tone: 'soft' | 'plain' | 'strong' | 'warn';
}

/** A picture over the drawing, and the map from its px to mm of the sheet. */
export interface AidPicture {
  readonly image: CanvasImageSource;
  readonly map: Affine;
}

interface AidsState {
  /** Lines that the stage that is gone to shows, such as the lattice on a photograph. */
  readonly trails: readonly AidTrail[];
  /** A picture that the stage lays over the drawing, such as the photograph whose crossings are set. */
  readonly over: AidPicture | null;
  /** References are seen over the drawing, wherever they lie. */
  readonly onTop: boolean;
  /** Aids of perspective: the cone of vision, and a standing figure at a place of the floor in cells. */
  readonly cone: boolean;
  readonly figure: boolean;
  readonly figureAt: PlanePoint;
  /** Handles of the projection that stay where they are. */
  readonly locks: readonly SteeredName[];
  /** The reference that is chosen, and the reference that is hidden for comparison while another moment shows it. */
  readonly reference: string | null;
  /** The guide that is chosen. */
  readonly guide: string | null;
  readonly blink: 'off' | 'shown' | 'hidden';
  readonly comparing: boolean;
  /** What strokes are taken for. */
  readonly traceAs: SolveAs;
  /** The principal point of the traced picture in mm of the sheet; its middle where none is given. */
  readonly principal: SheetPoint | null;
}

const NONE = {
  trails: [],
  over: null,
  onTop: false,
  cone: false,
  figure: false,
  locks: [],
  reference: null,
  guide: null,
  blink: 'off',
  comparing: false,
  principal: null,
} as const;

/** What helps in setting up a projection; none of it belongs to the document, and another drawing starts without it. */
export const AidsStore = signalStore(
  { providedIn: 'root' },
  withState<AidsState>({ ...NONE, figureAt: { u: -3, v: 0 }, traceAs: 'auto' }),
  withMethods((store) => ({
    patch(part: Partial<AidsState>): void {
      patchState(store, part);
    },
    /** Puts everything away that was for the drawing before. */
    forget(): void {
      patchState(store, NONE);
    },
  })),
);
