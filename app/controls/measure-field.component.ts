import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { InputTextModule } from 'primeng/inputtext';
import { figure, parseLength, parseSum } from '@core';

let count = 0;

/** A number with its unit that takes sums; Enter or leaving takes the value, Escape puts the old one back. */
@Component({
  selector: 'chemin-measure',
  imports: [InputTextModule],
  template: `
    <label [attr.for]="id">{{ label() }}</label>
    <span class="entry">
      <input
        pInputText
        autocomplete="off"
        inputmode="text"
        [id]="id"
        [value]="shown()"
        [class.ng-dirty]="fault() !== ''"
        [class.ng-invalid]="fault() !== ''"
        [attr.aria-invalid]="fault() !== '' || null"
        [attr.aria-describedby]="fault() ? id + '-fault' : null"
        [disabled]="disabled()"
        (input)="text.set($any($event.target).value)"
        (keydown.enter)="take($any($event.target))"
        (keydown.escape)="reset($any($event.target)); $event.stopPropagation()"
        (blur)="take($any($event.target))"
      />
      <span class="unit">{{ unit() }}</span>
    </span>
    @if (fault()) {
      <span class="fault" [id]="id + '-fault'" role="alert">{{ fault() }}</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr 106px;
      align-items: center;
      gap: 2px 6px;
    }
    label {
      font-size: 13px;
    }
    .entry {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    input {
      width: 64px;
      text-align: right;
    }
    .unit {
      font-size: 12.5px;
      color: var(--ink-2);
      white-space: nowrap;
    }
    .fault {
      grid-column: 1 / -1;
      font-size: 12.5px;
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MeasureFieldComponent {
  readonly label = input.required<string>();
  readonly unit = input('cells');
  readonly value = input.required<number>();
  /** Edge of a cell in the sheet's unit; lengths may then be typed in either. */
  readonly cell = input<number | null>(null);
  readonly least = input(-Infinity);
  readonly most = input(Infinity);
  readonly disabled = input(false);
  readonly taken = output<number>();

  protected readonly id = `measure-${++count}`;
  protected readonly text = signal<string | null>(null);
  protected readonly fault = signal('');
  protected readonly shown = computed(() => this.text() ?? figure(this.value(), 3));

  protected take(field: HTMLInputElement): void {
    const text = this.text();
    if (text === null) return;
    const cell = this.cell();
    const sum = cell === null ? parseSum(text) : parseLength(text, 'mm', cell);
    if (!sum.ok) return this.fault.set(sum.message);
    if (sum.value < this.least() || sum.value > this.most()) return this.fault.set(this.range());
    this.fault.set('');
    this.text.set(null);
    field.value = figure(sum.value, 3);
    if (sum.value !== this.value()) this.taken.emit(sum.value);
  }

  protected reset(field: HTMLInputElement): void {
    this.text.set(null);
    this.fault.set('');
    field.value = this.shown();
  }

  private range(): string {
    if (this.most() === Infinity) return `At least ${figure(this.least())}.`;
    return `From ${figure(this.least())} to ${figure(this.most())}.`;
  }
}
