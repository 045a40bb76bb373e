import { computed, inject, Injectable, signal } from '@angular/core';
import { PAPERS, printedPage, svgFromSheet, type HandedSheet, type PdfOptions } from '@later';
import { RastersService } from './rasters.service';
import { ViewStore } from './view.store';

/** What lies on the practice printer. */
interface Printed {
  readonly title: string;
  readonly sheet: HandedSheet;
  /** The sheet as it is printed: a whole SVG. */
  readonly svg: string;
  /** Hands the same over for a real printer. */
  readonly pdf: (options: Partial<PdfOptions>) => void;
}

/** mm that a screen may show 100 mm as: pocket screens to walls. */
export const LEAST_SHOWN = 20;
export const MOST_SHOWN = 500;
const KEPT = 'chemin-screen-mm';

/** Stands in for a printer: shows a sheet on paper, on the screen in true size. */
@Injectable({ providedIn: 'root' })
export class PracticePrinterService {
  private readonly rasters = inject(RastersService);
  private readonly view = inject(ViewStore);
  readonly job = signal<Printed | null>(null);
  readonly paper = signal(PAPERS.find(({ name }) => name === 'A4')!);
  /** Whether sheets are fitted to the paper, as printers do who are not told otherwise. */
  readonly fitted = signal(false);
  /** mm that this screen shows 100 mm as, as a person has measured it; 100 until then. */
  readonly shown = signal(keptShown());
  /** mm of CSS to a mm of paper, so that what is seen has its true size. */
  readonly screen = computed(() => 100 / this.shown());
  readonly page = computed(() => {
    const job = this.job();
    return job && printedPage(job.sheet.sheet, this.paper(), this.fitted());
  });

  /** Lays a sheet on the paper and shows it. */
  async print(sheet: HandedSheet, title: string, pdf: Printed['pdf']): Promise<void> {
    const handed = await this.rasters.handed(sheet, sheet.sheet.resolution);
    // Sheets in px are printed in their size in mm.
    this.job.set({ title, sheet, pdf, svg: svgFromSheet({ ...handed, sheet: { ...handed.sheet, unit: 'mm' } }, title) });
    this.view.patch({ panel: 'printer' });
  }

  setShown(mm: number): void {
    this.shown.set(mm);
    try {
      localStorage.setItem(KEPT, String(mm));
    } catch {
      // Without a place to keep it, it holds as long as the page is open.
    }
  }
}

function keptShown(): number {
  try {
    const kept = Number(localStorage.getItem(KEPT));
    return kept >= LEAST_SHOWN && kept <= MOST_SHOWN ? kept : 100;
  } catch {
    return 100;
  }
}
