import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, DestroyRef, effect, type ElementRef, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { BARE_EDGE, PAPERS } from '@later';
import { DialogComponent } from '../controls/dialog.component';
import { IconComponent } from '../controls/icon.component';
import { MeasureFieldComponent } from '../controls/measure-field.component';
import { LEAST_SHOWN, MOST_SHOWN, PracticePrinterService } from '../state/practice-printer.service';
import { ViewStore } from '../state/view.store';

/** A place of the rule in mm, long where it has a figure. */
interface Tick {
  readonly at: number;
  readonly long: number;
}

/** A sheet on paper in true size, with a rule along it: what a printer would make of it. */
@Component({
  selector: 'chemin-practice-printer',
  imports: [ButtonModule, DialogComponent, FormsModule, IconComponent, MeasureFieldComponent, SelectModule, ToggleSwitchModule],
  templateUrl: './practice-printer.component.html',
  styleUrls: ['../styles/bench.css', './practice-printer.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PracticePrinterComponent {
  protected readonly printer = inject(PracticePrinterService);
  protected readonly view = inject(ViewStore);
  protected readonly papers = PAPERS.map((paper) => ({ label: paper.name, value: paper }));
  protected readonly least = LEAST_SHOWN;
  protected readonly most = MOST_SHOWN;
  protected readonly bare = BARE_EDGE;
  private readonly table = viewChild<ElementRef<HTMLElement>>('table');
  private readonly sheet = viewChild<ElementRef<HTMLElement>>('sheet');
  /** The printed sheet as something that a browser can show. */
  protected readonly source = signal('');
  protected readonly ticks = computed(() => {
    const page = this.printer.page();
    return Array.from({ length: Math.floor(page?.width ?? 0) + 1 }, (_, at): Tick => ({ at, long: at % 10 === 0 ? 5 : at % 5 === 0 ? 3.4 : 2 }));
  });
  protected readonly figures = computed(() => this.ticks().filter(({ at }) => at % 10 === 0));
  protected readonly words = computed(() => {
    const page = this.printer.page();
    if (!page) return [];
    const { scale, over, needs } = page;
    const paper = this.printer.paper().name;
    if (Math.abs(scale - 1) > 5e-4) return [`Not in true size: 100\u2009mm of the sheet become ${(100 * scale).toFixed(1)}\u2009mm. Print it without fitting, or type the size that you measure.`]; // prettier-ignore
    if (over.width === 0 && over.height === 0) return ['In true size: a mm of the sheet is a mm on the paper.'];
    const lacks = `${plain(over.width)} × ${plain(over.height)}\u2009mm find no room on ${paper}, of which printers leave ${BARE_EDGE}\u2009mm bare: what lies beyond the dashed line is cut off.`;
    return [lacks, needs ? `${needs.name} takes all of it.` : 'No paper takes all of it.'];
  });

  constructor() {
    effect((onCleanup) => {
      const job = this.printer.job();
      if (!job) return;
      const url = URL.createObjectURL(new Blob([job.svg], { type: 'image/svg+xml' }));
      this.source.set(url);
      onCleanup(() => URL.revokeObjectURL(url));
    });
    // What is printed is looked at first, however much paper lies round it.
    afterRenderEffect(() => {
      this.printer.page();
      const [table, sheet] = [this.table()?.nativeElement, this.sheet()?.nativeElement];
      if (!table || !sheet) return;
      const [own, there] = [sheet.getBoundingClientRect(), table.getBoundingClientRect()];
      table.scrollTop += own.top + own.height / 2 - (there.top + there.height / 2);
      table.scrollLeft += own.left + own.width / 2 - (there.left + there.width / 2);
    });
    inject(DestroyRef).onDestroy(() => this.printer.job.set(null));
  }

  /** mm on the screen for so many mm of paper. */
  protected mm(length: number): string {
    return `${length * this.printer.screen()}mm`;
  }

  protected close(): void {
    this.view.patch({ panel: 'none' });
  }
}

const plain = (mm: number): string => String(Math.round(mm * 10) / 10);
