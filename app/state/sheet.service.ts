import { inject, Injectable, computed } from '@angular/core';
import { figure, mmPer, type Sheet, type Unit } from '@core';
import { resizedSheet } from '@later';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { ViewStore } from './view.store';

/** Px by which a cell may miss a whole number of them. */
const WHOLE_PX = 1e-3;

/** Changes the sheet: what is drawn keeps its place in the middle, and the whole sheet is shown after a change of size. */
@Injectable({ providedIn: 'root' })
export class SheetService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);

  readonly sheet = computed(() => this.documents.shown().sheet);
  /** Its size in px at its resolution, in words. */
  readonly px = computed(() => {
    const { width, height, resolution } = this.sheet();
    const mm = mmPer('px', resolution);
    return `${figure(width / mm, 0)} × ${figure(height / mm, 0)}\u2009px`;
  });

  set(part: Partial<Sheet>, label = 'set sheet'): void {
    const document = this.documents.kept();
    const sheet = { ...document.sheet, ...part };
    this.documents.commit(resizedSheet(document, sheet), label);
    if (part.width !== undefined || part.height !== undefined) this.view.fit(sheet.width, sheet.height);
  }

  /**
   * One side in mm.
   * @param typed the unit that it was typed in: a sheet of 800 px is one in px from then on, and is exported so
   */
  setSide(part: Partial<Pick<Sheet, 'width' | 'height'>>, typed: Unit | null): void {
    const before = this.documents.kept();
    this.set(typed === 'px' ? { ...part, unit: 'px' } : part);
    const { sheet, grid, nodes } = this.documents.kept();
    if (typed !== 'px' || before.sheet.unit === 'px') return;
    const px = grid.cell / mmPer('px', sheet.resolution);
    const whole = Math.max(1, Math.round(px));
    if (Math.abs(px - whole) < WHOLE_PX) return;
    const make = (): void =>
      void this.documents.commit({ kind: 'grid', grid: { ...grid, cell: whole * mmPer('px', sheet.resolution) } }, `make a cell ${whole} px`);
    // Before anything is drawn nothing can be meant by the old size; afterwards it is said what a cell is now.
    if (nodes.length === 0) {
      make();
      this.messages.say('info', `The sheet is in px, and a cell is ${whole}\u2009px`);
    } else
      this.messages.say('info', `The sheet is in px, and a cell is ${figure(px)}\u2009px`, ['Cells keep their size in mm.'], {
        label: `Make it ${whole}\u2009px`,
        run: make,
      });
  }
}
