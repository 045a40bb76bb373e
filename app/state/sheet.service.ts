import { inject, Injectable, computed } from '@angular/core';
import { figure, mmPer, type Sheet, type Unit } from '@core';
import { resizedSheet } from '@later';
import { DocumentStore } from './document.store';
import { ViewStore } from './view.store';

/** Changes the sheet: what is drawn keeps its place in the middle, and the whole sheet is shown after a change of size. */
@Injectable({ providedIn: 'root' })
export class SheetService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);

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
    this.set(typed === 'px' ? { ...part, unit: 'px' } : part);
  }
}
