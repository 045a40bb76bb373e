import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { TrialService } from '../../state/trial.service';

/** A box to judge the view by before anything is drawn: set up, by number, drawn, put away. */
@Component({
  selector: 'chemin-trial-box',
  imports: [MeasureFieldComponent],
  template: `
    <section aria-label="Trial box">
      <h3 class="panel-title">Trial box</h3>
      @if (trials.trial(); as trial) {
        @for (axis of axes; track axis) {
          <chemin-measure in="cells" [label]="'Extent along ' + axis" [least]="0.1" [value]="trial.size[axis]" (taken)="trials.resize(axis, $event)" />
        }
        @for (axis of axes; track axis) {
          <chemin-measure in="cells" [label]="'From ' + axis" [value]="trial.at[axis]" (taken)="trials.moveTo(axis, $event)" />
        }
        <div class="chips">
          <button type="button" class="plain bordered" (click)="trials.draw()">Draw it</button>
          <button type="button" class="plain bordered" (click)="trials.away()">Put it away</button>
        </div>
        <p class="note">Drag a corner along an axis, or its foot over the floor. It is not handed over.</p>
      } @else {
        <button type="button" class="plain bordered" (click)="trials.set()">Set up a trial box</button>
        <p class="note">A box that is not drawn: to see what a view makes of it, or where something will stand.</p>
      }
    </section>
  `,
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrialBoxComponent {
  protected readonly trials = inject(TrialService);
  protected readonly axes = ['a', 'b', 'h'] as const;
}
