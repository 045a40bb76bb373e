import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { TooltipModule } from 'primeng/tooltip';
import { axesOf, exactCells, figure, finestStep, lengthInUnit, planeName, slopeOf, type Plane } from '@core';
import { MeasureFieldComponent } from '../controls/measure-field.component';
import { ToolRunnerService } from '../drawing/tool-runner.service';
import { AidsStore } from '../state/aids.store';
import { CommandsService } from '../state/commands.service';
import { DocumentStore } from '../state/document.store';
import { PictureService } from '../state/picture.service';
import { PX_PER_MM, ViewStore } from '../state/view.store';
import { placeWords } from '../tools/catching';
import { RosetteComponent } from './rosette.component';

/** The ground bar: the plane and its offset, showing and snapping, the live read-out, the zoom. */
@Component({
  selector: 'chemin-ground-bar',
  imports: [MeasureFieldComponent, RosetteComponent, TooltipModule],
  template: `
    <footer>
      <chemin-rosette />
      <div class="plane" [class]="'plane ' + view.plane().kind">
        <strong>{{ planeName() }}</strong>
        <span>{{ axes() }}</span>
      </div>
      @if (view.plane().kind !== 'sheet') {
        <chemin-measure in="cells" class="offset" label="Offset" [value]="view.plane().offset" (taken)="view.putPlane(at($event))" />
      }
      <span class="rule"></span>
      <button type="button" class="plain" [attr.aria-pressed]="view.grid()" pTooltip="G" tooltipPosition="top" (click)="commands.run('view.grid')">
        Grid {{ view.grid() ? 'shown' : 'hidden' }}
      </button>
      <button type="button" class="plain" [attr.aria-pressed]="view.snapping()" pTooltip="K" tooltipPosition="top" (click)="commands.run('view.snap')">
        Snap {{ view.snapping() ? 'on' : 'off' }}
      </button>
      <button type="button" class="plain" aria-haspopup="dialog" (click)="commands.run('view.catching')">Snap to…</button>
      <button type="button" class="plain" [attr.aria-pressed]="view.seeThrough()" pTooltip="E" tooltipPosition="top" (click)="commands.run('view.see-through')">
        See-through
      </button>
      @if (store.shown().references.length > 0 && !tools.busy()) {
        <button type="button" class="plain" [attr.aria-pressed]="aids.onTop()" pTooltip="B" tooltipPosition="top" (click)="commands.run('view.references')">
          References on top
        </button>
      }
      <span class="rule"></span>
      <output class="place" aria-label="Place of the pointer in cells">{{ place() }}</output>
      <output class="size" aria-label="Measures of what is being drawn">{{ size() }}</output>
      @if (tools.busy()) {
        <button type="button" class="plain" (click)="tools.typing.set('')">Type lengths</button>
      }
      <span class="gap"></span>
      <span class="cell">{{ cell() }}</span>
      <span class="rule"></span>
      <button type="button" class="plain" aria-label="Zoom out" (click)="commands.run('view.out')">−</button>
      <output class="zoom" aria-label="Zoom">{{ zoom() }}&#8201;%</output>
      <button type="button" class="plain" aria-label="Zoom in" (click)="commands.run('view.in')">+</button>
      <button type="button" class="plain" (click)="commands.run('view.fit')">Fit</button>
    </footer>
  `,
  styleUrl: './ground-bar.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GroundBarComponent {
  protected readonly view = inject(ViewStore);
  protected readonly store = inject(DocumentStore);
  protected readonly aids = inject(AidsStore);
  protected readonly commands = inject(CommandsService);
  protected readonly tools = inject(ToolRunnerService);
  private readonly pictures = inject(PictureService);

  /** The plane at another offset. */
  protected at(offset: number): Plane {
    return { ...this.view.plane(), offset: exactCells(offset) };
  }

  protected readonly planeName = computed(() => planeName(this.view.plane().kind, this.store.shown().projection));
  protected readonly axes = computed(() => {
    const plane = this.view.plane();
    if (plane.stance) return `slope ${figure(slopeOf(plane.stance), 1)}°`;
    const axes = axesOf(plane);
    return axes ? `${axes.u} · ${axes.v}` : 'flat, x · y';
  });
  protected readonly place = computed(() => {
    const ghost = this.tools.ghost();
    return ghost?.caught ? placeWords(ghost.plane, ghost.caught) : '';
  });
  protected readonly size = computed(() => (this.tools.busy() ? (this.tools.ghost()?.words[0] ?? '') : ''));
  /** What one counted cell is, and how many the finest lines shown are apart, where that is not one. */
  protected readonly cell = computed(() => {
    const { grid, sheet } = this.store.shown();
    const words = `1 cell = ${lengthInUnit(grid.cell, sheet)}`;
    if (!this.view.grid()) return words;
    const { zoom, panX, panY, width, height } = this.look();
    const seen = { minX: -panX / zoom, minY: -panY / zoom, maxX: (width - panX) / zoom, maxY: (height - panY) / zoom };
    const step = finestStep(this.pictures.geometry().sight.projection, grid, this.view.plane(), seen, zoom);
    return step === null || step === 1 ? words : `${words}, a line every ${step}`;
  });
  private readonly look = computed(() => ({
    zoom: this.view.zoom(),
    panX: this.view.panX(),
    panY: this.view.panY(),
    width: Math.max(1, this.view.width()),
    height: Math.max(1, this.view.height()),
  }));
  protected readonly zoom = computed(() => figure((this.view.zoom() / PX_PER_MM) * 100, 0));
}
