import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { svgFromPicture } from '@core';
import { IconComponent } from '../../controls/icon.component';
import { DocumentStore } from '../../state/document.store';
import { CommandsService } from '../../state/commands.service';
import { PictureService } from '../../state/picture.service';

/** Handing over: the sheet as SVG, the project as a file. */
@Component({
  selector: 'chemin-output-bench',
  imports: [ButtonModule, IconComponent],
  template: `
    <section aria-label="Sheet as SVG">
      <h3 class="panel-title">Sheet as SVG</h3>
      <p class="note">{{ sheet().width }} × {{ sheet().height }}&#8201;mm, real paths in groups named after the contents, no bitmap. {{ size() }}.</p>
      <button pButton type="button" (click)="commands.run('output.svg')"><chemin-icon name="export" />Export SVG</button>
    </section>
    <section aria-label="Project file">
      <h3 class="panel-title">Project file</h3>
      <p class="note">Everything of this drawing in one documented file, to keep or to hand on.</p>
      <button pButton type="button" severity="secondary" [outlined]="true" (click)="commands.run('document.save-file')">
        <chemin-icon name="export" />Save project
      </button>
      <button pButton type="button" severity="secondary" [outlined]="true" (click)="commands.run('document.open-file')">
        <chemin-icon name="open" />Open project
      </button>
    </section>
  `,
  styleUrl: '../bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutputBenchComponent {
  protected readonly commands = inject(CommandsService);
  private readonly store = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  protected readonly sheet = computed(() => this.store.shown().sheet);
  protected readonly size = computed(() => {
    const bytes = svgFromPicture(this.pictures.picture(), this.store.shown().name).length;
    return `${Math.max(1, Math.round(bytes / 1024))}\u2009kB`;
  });
}
