import type { ElementRef } from '@angular/core';
import { afterNextRender, afterRenderEffect, ChangeDetectionStrategy, Component, computed, inject, input, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { FAMILIES, gridMarks, nameProjection, PictureMaker, projectionFrom, type CheminDocument, type FamilyKey, type ProjectionSetup } from '@core';
import { returnFocusAtEnd } from '../controls/return-focus';
import { paintMarksOnCanvas } from '../drawing/canvas-paint';
import { DocumentStore } from '../state/document.store';
import { SteeringService } from '../state/steering.service';
import { ViewStore } from '../state/view.store';

/** One sheet in a projection of its own, with its grid. */
@Component({
  selector: 'chemin-compare-pane',
  template: '<canvas #canvas aria-hidden="true"></canvas>',
  styles: `
    :host {
      display: block;
      min-height: 0;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ComparePaneComponent {
  readonly document = input.required<CheminDocument>();
  readonly setup = input.required<ProjectionSetup>();
  private readonly view = inject(ViewStore);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    afterRenderEffect(() => {
      this.view.width();
      this.view.height();
      const document = { ...this.document(), projection: this.setup() };
      const canvas = this.canvas().nativeElement;
      const context = canvas.getContext('2d');
      if (!context) return;
      const [width, height] = [canvas.clientWidth * 2, canvas.clientHeight * 2];
      [canvas.width, canvas.height] = [width, height];
      const { sheet, grid } = document;
      const k = Math.min(width / sheet.width, height / sheet.height) * 0.96;
      context.setTransform(k, 0, 0, k, (width - sheet.width * k) / 2, (height - sheet.height * k) / 2);
      context.fillStyle = sheet.background;
      context.fillRect(0, 0, sheet.width, sheet.height);
      context.beginPath();
      context.rect(0, 0, sheet.width, sheet.height);
      context.clip();
      const seen = { minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height };
      const lines = gridMarks(projectionFrom(document.projection), grid, { kind: 'floor', offset: 0 }, seen, { pxPerMm: k / 2, leastWidth: 2 / k });
      paintMarksOnCanvas(context, lines);
      paintMarksOnCanvas(context, new PictureMaker().make(document).marks);
    });
  }
}

/** Up to four projections of the drawing side by side; each can be adopted, and no size changes. */
@Component({
  selector: 'chemin-compare',
  imports: [ComparePaneComponent, FormsModule, SelectModule],
  template: `
    <section aria-label="Compare projections">
      <header>
        <h2>Compare</h2>
        <p class="note">The same drawing in several projections. Adopting one changes no size.</p>
        <button #closer type="button" class="plain" (click)="close()">Close</button>
      </header>
      <div class="panes">
        @for (pane of panes(); track $index; let i = $index) {
          <div class="pane" role="group" [attr.aria-label]="pane.name">
            <chemin-compare-pane [document]="store.kept()" [setup]="pane.setup" />
            <div class="bar">
              @if (i === 0) {
                <strong>now: {{ pane.name }}</strong>
              } @else {
                <p-select
                  [options]="families"
                  optionLabel="name"
                  optionValue="key"
                  [ariaLabel]="'Projection of view ' + (i + 1)"
                  appendTo="body"
                  [ngModel]="chosen()[i - 1]"
                  (ngModelChange)="choose(i - 1, $event)"
                />
                <button type="button" class="plain adopt" (click)="adopt(pane.setup)">Adopt</button>
              }
            </div>
          </div>
        }
      </div>
    </section>
  `,
  styleUrl: './compare.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CompareComponent {
  protected readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly steering = inject(SteeringService);
  private readonly closer = viewChild.required<ElementRef<HTMLButtonElement>>('closer');
  protected readonly families = [...FAMILIES];
  protected readonly chosen = signal<readonly FamilyKey[]>(this.others());
  protected readonly panes = computed(() => {
    const now = this.store.kept().projection;
    const setups = [now, ...this.chosen().map((key) => this.steering.framed(key))];
    return setups.map((setup) => ({ setup, name: nameProjection(setup).name }));
  });

  constructor() {
    returnFocusAtEnd();
    afterNextRender(() => this.closer().nativeElement.focus());
  }

  private others(): readonly FamilyKey[] {
    const { key } = nameProjection(this.store.kept().projection);
    return (['isometric', 'planometric', 'two-point', 'three-point', 'dimetric'] as const).filter((family) => family !== key).slice(0, 3);
  }

  protected choose(view: number, key: FamilyKey): void {
    this.chosen.set(this.chosen().map((other, i) => (i === view ? key : other)));
  }

  protected adopt(setup: ProjectionSetup): void {
    this.steering.set(setup, `adopt ${nameProjection(setup).name}`);
    this.close();
  }

  protected close(): void {
    this.view.patch({ comparing: false });
  }
}
