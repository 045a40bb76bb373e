import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { InputTextModule } from 'primeng/inputtext';
import { figure, mmPer, parseLength, parseMillimetres, parseSum, type LengthScale, type SumResult } from '@core';

let count = 0;

/** A number with its unit that takes sums; Enter or leaving takes the value, Escape puts the old one back. */
@Component({
  selector: 'chemin-measure',
  imports: [InputTextModule],
  template: `
    <label [attr.for]="id">{{ short() || label() }}</label>
    <span class="entry">
      <input
        pInputText
        autocomplete="off"
        inputmode="text"
        [id]="id"
        [attr.aria-label]="short() ? label() : null"
        [value]="shown()"
        [class.ng-dirty]="fault() !== ''"
        [class.ng-invalid]="fault() !== ''"
        [attr.aria-invalid]="fault() !== '' || null"
        [attr.aria-describedby]="fault() ? id + '-fault' : null"
        [attr.data-settled]="text() === null ? '' : null"
        [disabled]="disabled()"
        (input)="text.set($any($event.target).value)"
        (keydown.enter)="take($any($event.target))"
        (keydown.escape)="reset($any($event.target)); $event.stopPropagation()"
        (blur)="take($any($event.target))"
      />
      <span class="unit">{{ inMm() ? sheet()!.unit : unit() }}</span>
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
      width: var(--field-width, 64px);
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
  /** Words that are shown instead of the label where room is short. */
  readonly short = input('');
  readonly unit = input('cells');
  readonly value = input.required<number>();
  /** Edge of a cell in mm; lengths may then be typed in cells and in any unit. */
  readonly cell = input<number | null>(null);
  /** What lengths are shown in. Without a cell the value is a length in mm, shown and typed in the sheet's unit. */
  readonly sheet = input<LengthScale | null>(null);
  readonly digits = input(3);
  readonly least = input(-Infinity);
  readonly most = input(Infinity);
  readonly disabled = input(false);
  readonly taken = output<number>();

  protected readonly id = `measure-${++count}`;
  protected readonly text = signal<string | null>(null);
  protected readonly fault = signal('');
  protected readonly inMm = computed(() => this.sheet() !== null && this.cell() === null);
  private readonly factor = computed(() => (this.inMm() ? mmPer(this.sheet()!.unit, this.sheet()!.resolution) : 1));
  protected readonly shown = computed(() => this.text() ?? this.written(this.value()));

  protected take(field: HTMLInputElement): void {
    const text = this.text();
    if (text === null) return;
    const sum = this.read(text);
    if (!sum.ok) return this.fault.set(sum.message);
    if (sum.value < this.least() || sum.value > this.most()) return this.fault.set(this.range());
    this.fault.set('');
    this.text.set(null);
    field.value = this.written(sum.value);
    if (sum.value !== this.value()) this.taken.emit(sum.value);
  }

  protected reset(field: HTMLInputElement): void {
    this.text.set(null);
    this.fault.set('');
    field.value = this.shown();
  }

  private written(value: number): string {
    return figure(value / this.factor(), this.digits());
  }

  private read(text: string): SumResult {
    const [sheet, cell] = [this.sheet(), this.cell()];
    if (cell !== null) return parseLength(text, sheet ?? { unit: 'mm', resolution: 300, scale: 1 }, cell);
    return sheet === null ? parseSum(text) : parseMillimetres(text, sheet);
  }

  private range(): string {
    if (this.most() === Infinity) return `At least ${this.written(this.least())}.`;
    return `From ${this.written(this.least())} to ${this.written(this.most())}.`;
  }
}
