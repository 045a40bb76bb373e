import { Injectable, signal } from '@angular/core';
import type { CellMove, MovingEnd } from '@core';

/** What is set on benches besides the view's own: it is found again where it was left, as long as the page is open. */
@Injectable({ providedIn: 'root' })
export class BenchSettings {
  /** Rows of copies: how many, and how far apart. */
  readonly count = signal(3);
  /** Null until it is set: then it runs along the plane of what is selected. */
  readonly step = signal<CellMove | null>(null);
  readonly rows = signal(0);
  readonly rowStep = signal<CellMove>({ a: 0, b: 0, h: 2 });
  /** Cells from one to the next of a row along one axis. */
  readonly apart = signal(2);
  /** Whether steps are lengths of the whole row, to be shared by its copies. */
  readonly whole = signal(false);
  readonly linked = signal(false);

  /** How a rectangle is divided: counts or sizes as they were typed, gap and margin in cells. */
  readonly columns = signal('3');
  readonly lines = signal('1');
  readonly gap = signal(0);
  readonly margin = signal(0);
  /** Which end of an edge moves when its length is typed. */
  readonly moving = signal<MovingEnd>('end');

  /** Whether sizes rather than counts stay when the cell changes. */
  readonly keepSizes = signal(false);

  /** Exports: a width in px typed for a sheet of so many mm; PDF's aids; the calibration lattice. */
  readonly pngWidth = signal<{ readonly px: number; readonly sheet: number } | null>(null);
  readonly testBar = signal(false);
  readonly cutMarks = signal(false);
  readonly lattice = signal({ columns: 9, rows: 6, box: 12 });
}
