import type { SheetPoint } from '@core';

/** What two fingers have done since their last report: moved, and spread or closed about a point, in px. */
export interface Pinch {
  readonly dx: number;
  readonly dy: number;
  readonly factor: number;
  readonly about: SheetPoint;
}

/** Follows the fingers on a surface: one draws, two move and zoom, and what is left of two does nothing. */
export class TouchTracker {
  private readonly fingers = new Map<number, SheetPoint>();
  /** Two fingers have been down since the last time that none was. */
  private pinched = false;

  /** Whether a finger that is down draws: it came alone, and is still alone. */
  get draws(): boolean {
    return this.fingers.size === 1 && !this.pinched;
  }

  /** A finger comes down. @returns whether it is the one that ends what the first has begun */
  down(id: number, at: SheetPoint): boolean {
    this.fingers.set(id, at);
    const second = this.fingers.size === 2 && !this.pinched;
    if (this.fingers.size > 1) this.pinched = true;
    return second;
  }

  /** A finger moves. @returns what two fingers have done, or null where there are not two */
  move(id: number, at: SheetPoint): Pinch | null {
    if (!this.fingers.has(id)) return null;
    const before = this.pair();
    this.fingers.set(id, at);
    const after = this.pair();
    if (!before || !after) return null;
    const factor = before.apart > 0 && after.apart > 0 ? after.apart / before.apart : 1;
    return { dx: after.middle.x - before.middle.x, dy: after.middle.y - before.middle.y, factor, about: after.middle };
  }

  /** A finger is lifted, or lost. */
  up(id: number): void {
    this.fingers.delete(id);
    if (this.fingers.size === 0) this.pinched = false;
  }

  private pair(): { readonly middle: SheetPoint; readonly apart: number } | null {
    const [p, q] = [...this.fingers.values()];
    if (!p || !q) return null;
    return { middle: { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 }, apart: Math.hypot(p.x - q.x, p.y - q.y) };
  }
}
