import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RadioButtonModule } from 'primeng/radiobutton';
import { SelectModule } from 'primeng/select';
import { drawnAxes, figure, orthographicRatios, type AxonometricSetup, type ByAxis, type ParallelSetup } from '@core';
import { lengthExample } from '@later';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { SteeringService } from '../../state/steering.service';

/** The values of a parallel projection: angles, ratios, and what lengths become. */
@Component({
  selector: 'chemin-parallel-values',
  imports: [FormsModule, MeasureFieldComponent, RadioButtonModule, SelectModule],
  templateUrl: './parallel-values.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ParallelValuesComponent {
  protected readonly steering = inject(SteeringService);
  protected readonly setup = computed((): ParallelSetup | null => {
    const setup = this.steering.setup();
    return setup.kind === 'perspective' ? null : setup;
  });
  protected readonly measures: { label: string; value: AxonometricSetup['measure'] }[] = [
    { label: 'full length', value: 'drawing' },
    { label: 'true projection', value: 'true' },
  ];
  protected readonly ratios = [
    { label: '1', value: 1 },
    { label: '3/4', value: 0.75 },
    { label: '2/3', value: 2 / 3 },
    { label: '1/2', value: 0.5 },
  ];
  protected readonly turns = [
    { label: '45/45', value: 45 },
    { label: '30/60', value: 30 },
    { label: '60/30', value: 60 },
  ];

  /** What being seen square on gives for the present angles, or why it cannot be. */
  protected readonly squareOn = computed(() => {
    const setup = this.setup();
    return setup?.kind === 'axonometric' ? orthographicRatios(setup.aDeg, 180 - setup.bDeg, 90) : null;
  });
  /** How the axes are shortened, as far as that can be. */
  protected readonly method = computed(() => {
    const setup = this.setup();
    return setup?.kind === 'axonometric' && setup.method === 'orthographic' && this.squareOn()?.ok ? 'orthographic' : 'parallel';
  });
  protected readonly example = computed(() => {
    const setup = this.setup();
    if (!setup) return '';
    const axes = drawnAxes(setup);
    const same = axes.a.ratio === axes.b.ratio && axes.b.ratio === axes.h.ratio;
    return same ? lengthExample(axes, 'a') : `${lengthExample(axes, 'a')}, along b ${figure(100 * axes.b.ratio, 1)}, along h ${figure(100 * axes.h.ratio, 1)}`;
  });

  protected words({ a, b, h }: ByAxis<number>): string {
    return `a ${figure(a, 3)}, b ${figure(b, 3)}, h ${figure(h, 3)}`;
  }

  protected change(part: Partial<AxonometricSetup> | Record<string, number>): void {
    const setup = this.setup();
    if (setup) this.steering.set({ ...setup, ...part } as ParallelSetup);
  }
}
