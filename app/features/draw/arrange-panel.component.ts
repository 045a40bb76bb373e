import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { planeName, type PlaneKind } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';

const KINDS: readonly PlaneKind[] = ['floor', 'left', 'right', 'sheet'];

/** What can be done to the selection as a whole: another plane, turning, mirroring, scaling, repeating. */
@Component({
  selector: 'chemin-arrange-panel',
  imports: [MeasureFieldComponent],
  template: `
    @if (arranging.nodes().length > 0) {
      <section aria-label="Change the selection">
        <h3 class="panel-title">Change the selection</h3>
        <div class="chips" role="group" aria-label="To another plane">
          @for (plane of planes(); track plane.kind) {
            <button type="button" class="plain" [attr.aria-pressed]="plane.here" (click)="arranging.toPlane(plane.kind)">to the {{ plane.name }}</button>
          }
        </div>
        <div class="chips">
          <button type="button" class="plain" (click)="commands.run('turn.left')">Turn left</button>
          <button type="button" class="plain" (click)="commands.run('turn.right')">Turn right</button>
          <button type="button" class="plain" (click)="commands.run('mirror.across')">Mirror across</button>
          <button type="button" class="plain" (click)="commands.run('mirror.up')">Mirror upright</button>
        </div>
        <chemin-measure label="Turn by" unit="°" [least]="-360" [most]="360" [value]="0" (taken)="arranging.turn($event)" />
        <chemin-measure label="Scale by" unit="" [least]="0.01" [most]="100" [value]="1" (taken)="arranging.scale($event)" />
      </section>
      <section aria-label="Repeat the selection">
        <h3 class="panel-title">Repeat</h3>
        <chemin-measure label="Copies" unit="" [least]="1" [most]="500" [value]="count()" (taken)="setCount($event)" />
        <chemin-measure label="Step along a" [cell]="cell()" [sheet]="sheet()" [value]="step().a" (taken)="setStep({ a: $event })" />
        <chemin-measure label="Step along b" [cell]="cell()" [sheet]="sheet()" [value]="step().b" (taken)="setStep({ b: $event })" />
        <chemin-measure label="Step along h" [cell]="cell()" [sheet]="sheet()" [value]="step().h" (taken)="setStep({ h: $event })" />
        <div class="chips"><button type="button" class="plain" (click)="arranging.repeat(count(), step())">Make the row</button></div>
        <p class="note">Steps are true lengths, so that in perspective they recede rightly.</p>
      </section>
    }
  `,
  styleUrl: '../bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangePanelComponent {
  protected readonly arranging = inject(ArrangingService);
  protected readonly commands = inject(CommandsService);
  private readonly store = inject(DocumentStore);
  protected readonly cell = computed(() => this.store.shown().grid.cell);
  protected readonly sheet = computed(() => this.store.shown().sheet);
  protected readonly count = signal(3);
  protected readonly step = signal({ a: 2, b: 0, h: 0 });
  protected readonly planes = computed(() => {
    const here = new Set(this.arranging.shapes().map((shape) => shape.plane.kind));
    return KINDS.map((kind) => ({ kind, name: planeName(kind, this.store.shown().projection), here: here.has(kind) }));
  });

  protected setCount(count: number): void {
    this.count.set(Math.round(count));
  }

  protected setStep(part: { readonly a?: number; readonly b?: number; readonly h?: number }): void {
    this.step.set({ ...this.step(), ...part });
  }
}
