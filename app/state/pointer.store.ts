import { Injectable, signal } from '@angular/core';
import type { SheetPoint } from '@core';

/** Where the pointer is, in px of the drawing area; null when it has left. Kept off the stores: it moves with every frame. */
@Injectable({ providedIn: 'root' })
export class PointerStore {
  readonly at = signal<SheetPoint | null>(null);
}
