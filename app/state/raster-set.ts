import {
  affineOf,
  litBy,
  mappedPx,
  pxBoxOf,
  type Affine,
  type CanvasImage,
  type CanvasImages,
  type ImageMark,
  type LitBy,
  type PathBox,
  type PxBox,
} from '@core';
import { canvasOf } from '../platform/px-canvas';
import type { SmallBitmap } from '../platform/imaging.service';

/** How a view looks at its sheet: px of the screen to the mm, where the sheet's corner lies in px, its size in px, and device px to one of them. */
export interface RasterLook {
  readonly zoom: number;
  readonly panX: number;
  readonly panY: number;
  readonly width: number;
  readonly height: number;
  readonly ratio: number;
}

/** Where a view finds bitmaps. */
export interface RasterSource {
  /** A bitmap in small, or null where it is not decoded yet. */
  small(bitmap: string): SmallBitmap | null;
  /** A bitmap as it is seen in a box of the sheet. */
  sharp(mark: ImageMark, box: PxBox): Promise<ImageBitmap>;
}

interface Made {
  readonly image: ImageBitmap;
  readonly box: PxBox;
}

/** Px of all rough looks of a frame together, and of one at least. */
const ROUGH_PX = 50_000;
const LEAST_PX = 2_500;
/** Ms without another look after which sharp ones are made. */
const REST_MS = 90;
/** Part of a view's size by which sharp looks go on beyond it, so that panning finds them there. */
const ROUND = 0.25;
/** Most px of one sharp look. */
const MOST_PX = 12_000_000;

/**
 * The bitmaps of one view: rough ones at once, made from small copies, and sharp ones in the px of the screen when the
 * hand rests. What was made sharp is shown, moved and scaled, until the next is there.
 */
export class RasterSet {
  private readonly sharp = new WeakMap<ImageMark, Made>();
  private readonly rough = new WeakMap<ImageMark, { readonly image: OffscreenCanvas; readonly box: PxBox; readonly lit: number; readonly of: SmallBitmap }>();
  private wishes = new Map<ImageMark, PxBox>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private busy = false;
  private count = 1;

  /** @param again asks for another painting */
  constructor(
    private readonly source: RasterSource,
    private readonly again: () => void,
  ) {}

  /** What painters are given while they paint a frame. */
  images(look: RasterLook): CanvasImages {
    this.wishes = new Map();
    let asked = 0;
    const share = Math.max(LEAST_PX, ROUGH_PX / this.count);
    return (mark) => {
      this.count = Math.max(1, ++asked);
      const wanted = wantedBox(mark, look);
      const made = this.sharp.get(mark);
      if (made && wanted && isRight(made.box, wanted, look)) return shown(made, true);
      if (wanted) this.wish(mark, wanted);
      // What is sharp and covers all that is seen is nearer to the truth than what is rough.
      if (made && wanted && covers(made.box, wanted)) return shown(made, false);
      return this.roughOf(mark, share);
    };
  }

  /** Whether everything that was last asked for is sharp. */
  get isSharp(): boolean {
    return this.wishes.size === 0 && !this.busy;
  }

  private roughOf(mark: ImageMark, share: number): CanvasImage | null {
    const small = this.source.small(mark.bitmap);
    if (!small) return null;
    const known = this.rough.get(mark);
    const lights = this.lightsOf(mark);
    if (known?.of === small && known.lit === lights.length) return shown(known, false);
    const made = roughLook(mark, small, share, lights);
    if (!made) return null;
    this.rough.set(mark, { ...made, lit: lights.length, of: small });
    return shown(made, false);
  }

  private lightsOf(mark: ImageMark): readonly LitBy[] {
    return litBy(mark, (bitmap) => this.source.small(bitmap)?.pyramid ?? null);
  }

  private wish(mark: ImageMark, box: PxBox): void {
    this.wishes.set(mark, box);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.work(), REST_MS);
  }

  /** One after the other; a frame painted meanwhile says anew what is wanted. */
  private async work(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (let next = this.next(); next; next = this.next()) {
      const [mark, box] = next;
      this.wishes.delete(mark);
      try {
        const image = await this.source.sharp(mark, box);
        this.sharp.get(mark)?.image.close();
        this.sharp.set(mark, { image, box });
        this.again();
      } catch {
        // Its rough look stays; the reason was said when it was added.
      }
    }
    this.busy = false;
  }

  private next(): [ImageMark, PxBox] | null {
    return this.wishes.entries().next().value ?? null;
  }
}

const shown = ({ image, box }: { readonly image: unknown; readonly box: PxBox }, sharp: boolean): CanvasImage => {
  const map: Affine = [box.perPx, 0, 0, box.perPx, box.x, box.y];
  return { image, map, ...(sharp && { sharp: true as const }) };
};

/** The px of the screen that a bitmap takes, and some beyond the view; null where it is not seen. */
function wantedBox(mark: ImageMark, { zoom, panX, panY, width, height, ratio }: RasterLook): PxBox | null {
  const k = zoom * ratio;
  const [left, top] = [-panX / zoom, -panY / zoom];
  const [wide, high] = [width / zoom, height / zoom];
  const bounds: PathBox = { minX: left - ROUND * wide, minY: top - ROUND * high, maxX: left + (1 + ROUND) * wide, maxY: top + (1 + ROUND) * high };
  if (!pxBoxOf(mark, { minX: left, minY: top, maxX: left + wide, maxY: top + high }, k)) return null;
  // On the px of the screen, wherever the sheet's corner lies among them.
  const [offX, offY] = [fraction(panX * ratio) / k, fraction(panY * ratio) / k];
  const moved = { minX: bounds.minX + offX, minY: bounds.minY + offY, maxX: bounds.maxX + offX, maxY: bounds.maxY + offY };
  const box = pxBoxOf({ ...mark, path: shifted(mark, offX, offY) }, moved, k, MOST_PX);
  return box && { ...box, x: box.x - offX, y: box.y - offY };
}

const fraction = (n: number): number => n - Math.floor(n);

function shifted({ path }: ImageMark, x: number, y: number): ImageMark['path'] {
  return { verbs: path.verbs, coords: path.coords.map((value, i) => value + (i % 2 === 0 ? x : y)) };
}

/** Whether a look is the one that is wanted: as fine, on the same px, and of all that is seen now. */
function isRight(made: PxBox, wanted: PxBox, look: RasterLook): boolean {
  const off = (p: number, q: number): number => Math.abs((p - q) / made.perPx - Math.round((p - q) / made.perPx));
  return Math.abs(made.perPx / wanted.perPx - 1) < 1e-9 && off(made.x, wanted.x) < 1e-3 && off(made.y, wanted.y) < 1e-3 && coversSeen(made, wanted, look);
}

const endX = (box: PxBox): number => box.x + box.width * box.perPx;
const endY = (box: PxBox): number => box.y + box.height * box.perPx;

/** Whether a look holds what another does. */
function covers(made: PxBox, wanted: PxBox): boolean {
  const room = 2 * Math.max(made.perPx, wanted.perPx);
  return made.x <= wanted.x + room && made.y <= wanted.y + room && endX(made) >= endX(wanted) - room && endY(made) >= endY(wanted) - room;
}

/** Whether a look holds all of what is wanted that lies in the view. */
function coversSeen(made: PxBox, wanted: PxBox, { zoom, panX, panY, width, height }: RasterLook): boolean {
  const [left, top] = [Math.max(wanted.x, -panX / zoom), Math.max(wanted.y, -panY / zoom)];
  const [right, below] = [Math.min(endX(wanted), (width - panX) / zoom), Math.min(endY(wanted), (height - panY) / zoom)];
  const room = 2 * made.perPx;
  return made.x <= left + room && made.y <= top + room && endX(made) >= right - room && endY(made) >= below - room;
}

/** Farthest that rough looks go on beyond the middle of what is drawn, in mm: sheets of any use lie within. */
const FAR = 20_000;

/** A bitmap as it is seen, in few px, from its small copy. */
export function roughLook(
  mark: ImageMark,
  { pyramid }: SmallBitmap,
  mostPx: number,
  lights: readonly LitBy[] = [],
): { readonly image: OffscreenCanvas; readonly box: PxBox } | null {
  const box = pxBoxOf(mark, { minX: -FAR, minY: -FAR, maxX: FAR, maxY: FAR }, 16, mostPx);
  return box && { image: canvasOf(mappedPx(pyramid, mark, box, 'quick', lights), box.width, box.height), box };
}

/** Bitmaps that lie flat, painted from their small copies: for thumbnails. */
export function smallImages(small: (bitmap: string) => SmallBitmap | null): CanvasImages {
  return (mark) => {
    const found = small(mark.bitmap);
    const map = mark.place.kind === 'flat' && !mark.tones ? affineOf(mark.place.map) : null;
    if (!found || !map)
      return (
        found &&
        shownRough(
          mark,
          found,
          litBy(mark, (bitmap) => small(bitmap)?.pyramid ?? null),
        )
      );
    const { width, height } = found.image;
    return { image: found.image, map: [map[0] / width, map[1] / width, map[2] / height, map[3] / height, map[4], map[5]] };
  };
}

function shownRough(mark: ImageMark, small: SmallBitmap, lights: readonly LitBy[]): CanvasImage | null {
  const made = roughLook(mark, small, ROUGH_PX, lights);
  return made && shown(made, false);
}
