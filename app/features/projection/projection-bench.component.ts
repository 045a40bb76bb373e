import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ViewStore } from '../../state/view.store';
import { FactsPageComponent } from './facts-page.component';
import { FamilyPageComponent } from './family-page.component';
import { GridPageComponent } from './grid-page.component';
import { PicturePageComponent } from './picture-page.component';
import { SheetPageComponent } from './sheet-page.component';

/** The projection stage: one page of settings for each of its tools. */
@Component({
  selector: 'chemin-projection-bench',
  imports: [FactsPageComponent, FamilyPageComponent, GridPageComponent, PicturePageComponent, SheetPageComponent],
  template: `
    @switch (view.tool()) {
      @case ('grid') {
        <chemin-grid-page />
      }
      @case ('sheet') {
        <chemin-sheet-page />
      }
      @case ('trace') {
        <chemin-picture-page />
      }
      @case ('facts') {
        <chemin-facts-page />
      }
      @default {
        <chemin-family-page />
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProjectionBenchComponent {
  protected readonly view = inject(ViewStore);
}
