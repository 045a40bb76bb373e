/** How the drawing is looked at. */
export interface Look {
  readonly zoom: number;
  readonly panX: number;
  readonly panY: number;
}

/** Ms without another change of look after which a picture is painted sharp again. */
const SHARPEN_MS = 260;

/**
 * The last painting of a large picture, moved and scaled while the sheet is panned and zoomed, and painted sharp again
 * when there is time. What is painted stays the same thing: anything but the look being another paints at once.
 */
export class MovedPicture {
  private kept: { readonly canvas: OffscreenCanvas; readonly look: Look; readonly of: readonly unknown[] } | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sharp = true;

  /** @param again asks for another painting */
  constructor(private readonly again: () => void) {}

  /**
   * Paints what was kept at another look, where that will do for the moment.
   * @param of everything that the picture depends on besides the look
   * @returns whether it was painted
   */
  paint(context: CanvasRenderingContext2D, look: Look, of: readonly unknown[]): boolean {
    const { kept } = this;
    const moved = kept !== null && (kept.look.zoom !== look.zoom || kept.look.panX !== look.panX || kept.look.panY !== look.panY);
    if (!kept || !moved || this.sharp || !same(kept.of, of)) return false;
    const k = look.zoom / kept.look.zoom;
    const ratio = context.canvas.width / Math.max(1, context.canvas.clientWidth || context.canvas.width);
    const [x, y] = [look.panX - kept.look.panX * k, look.panY - kept.look.panY * k];
    context.save();
    // Smoothing costs more than the whole rest, and is seen for a moment only.
    context.imageSmoothingEnabled = false;
    context.drawImage(kept.canvas, x, y, (kept.canvas.width / ratio) * k, (kept.canvas.height / ratio) * k);
    context.restore();
    this.sharpenSoon();
    return true;
  }

  /** Keeps what was just painted sharp; the next change of look may move it. */
  keep({ canvas }: CanvasRenderingContext2D, look: Look, of: readonly unknown[]): void {
    const copy = this.kept?.canvas ?? new OffscreenCanvas(canvas.width, canvas.height);
    [copy.width, copy.height] = [canvas.width, canvas.height];
    copy.getContext('2d')?.drawImage(canvas, 0, 0);
    this.kept = { canvas: copy, look, of };
    this.sharp = false;
  }

  forget(): void {
    this.kept = null;
    clearTimeout(this.timer);
  }

  private sharpenSoon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.sharp = true;
      this.again();
    }, SHARPEN_MS);
  }
}

function same(p: readonly unknown[], q: readonly unknown[]): boolean {
  return p.length === q.length && p.every((part, i) => part === q[i]);
}
