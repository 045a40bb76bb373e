import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { InputTextModule } from 'primeng/inputtext';
import { figure, isCells, measure, mmPer, parseLength, parseMillimetres, parseSum, realLength, typedUnit, type SumResult, type Unit } from '@core';
import { DocumentStore } from '../state/document.store';
import { MessageStore } from '../platform/messages.store';

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
        [class.ng-dirty]="shownFault() !== ''"
        [class.ng-invalid]="shownFault() !== ''"
        [attr.aria-invalid]="shownFault() !== '' || null"
        [attr.aria-describedby]="shownFault() ? id + '-fault' : null"
        [attr.data-settled]="text() === null ? '' : null"
        (input)="text.set($any($event.target).value)"
        (keydown.enter)="take($any($event.target))"
        (keydown.escape)="reset($any($event.target))"
        (blur)="take($any($event.target))"
      />
      <span class="unit">{{ unitWord() }}</span>
    </span>
    @if (meaning()) {
      <span class="meaning" role="status">{{ meaning() }}</span>
    }
    @if (shownFault()) {
      <span class="fault" [id]="id + '-fault'" role="alert">{{ shownFault() }}</span>
      @if (offer(); as other) {
        <button type="button" class="plain bordered offer" (click)="takeOffer(other)">{{ other.label }}</button>
      }
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
    .meaning {
      grid-column: 1 / -1;
      font-size: 12.5px;
      color: var(--ink-2);
    }
    .fault {
      grid-column: 1 / -1;
      font-size: 12.5px;
      color: var(--bad);
    }
    .offer {
      grid-column: 1 / -1;
      justify-self: start;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MeasureFieldComponent {
  readonly label = input.required<string>();
  /** Words that are shown instead of the label where room is short. */
  readonly short = input('');
  /** The unit of a number that is no length. */
  readonly unit = input('');
  readonly value = input.required<number>();
  /**
   * What the value is: a length in cells, one in mm of the sheet, or a number of another kind. Lengths are shown in
   * cells or in the sheet's unit, and may be typed in any unit, at the sheet's resolution and drawing scale.
   */
  readonly in = input.required<'cells' | 'mm' | 'number'>();
  /** The unit in which a length is shown and read, in place of cells or the sheet's: the one in which it was typed. */
  readonly as = input<Unit | null>(null);
  readonly digits = input(3);
  readonly least = input(-Infinity);
  readonly most = input(Infinity);
  /** Says why a value cannot be taken together with what else is set; null where it can. */
  readonly refuses = input<(value: number) => string | null>(() => null);
  readonly taken = output<number>();
  /** The unit that was typed with the value, told before it. */
  readonly unitTyped = output<Unit>();

  private readonly documents = inject(DocumentStore);
  private readonly messages = inject(MessageStore);

  protected readonly id = `measure-${++count}`;
  protected readonly text = signal<string | null>(null);
  protected readonly fault = signal('');
  /** The refusal that the fault comes from. */
  private readonly refused = signal<number | null>(null);
  protected readonly shownFault = computed(() => (this.refused() === null || this.refused() === this.documents.refusal().serial ? this.fault() : ''));
  /** What can be had in place of what was typed. */
  protected readonly offer = computed(() => (this.refused() !== null && this.shownFault() !== '' ? this.documents.refusal().offer : null));
  private readonly sheet = computed(() => this.documents.shown().sheet);
  private readonly factor = computed(() => {
    const [as, kind, { unit, resolution }] = [this.as(), this.in(), this.sheet()];
    if (kind === 'number') return 1;
    if (kind === 'cells') return as ? mmPer(as, resolution) / this.documents.shown().grid.cell : 1;
    return mmPer(as ?? unit, resolution);
  });
  protected readonly unitWord = computed(() => (this.in() === 'number' ? this.unit() : (this.as() ?? (this.in() === 'mm' ? this.sheet().unit : 'cells'))));
  protected readonly shown = computed(() => this.text() ?? this.written(this.value()));

  /** At a drawing scale, what is being typed comes to on the sheet and of the real thing. */
  protected readonly meaning = computed(() => {
    const [text, { unit, resolution, scale }] = [this.text(), this.sheet()];
    const read = text === null || scale === 1 || this.in() === 'number' ? null : this.read(text);
    if (!read?.ok) return '';
    const mm = read.value * (this.in() === 'cells' ? this.documents.shown().grid.cell : 1);
    return `${measure(mm / mmPer(unit, resolution), unit)} on the sheet, ${realLength(mm, scale)}`;
  });

  protected take(field: HTMLInputElement): void {
    const text = this.text();
    if (text === null) return;
    this.refused.set(null);
    const sum = this.read(text);
    if (!sum.ok) return this.fault.set(sum.message);
    if (sum.value < this.least() || sum.value > this.most()) return this.fault.set(this.range());
    if (this.in() === 'cells' && !isCells(sum.value)) return this.fault.set('Nothing is longer than a million cells.');
    const refused = this.refuses()(sum.value);
    if (refused !== null) return this.fault.set(refused);
    const before = this.documents.refusal().serial;
    const unit = this.in() === 'number' ? null : typedUnit(text);
    if (unit) this.unitTyped.emit(unit);
    if (sum.value !== this.value() || (unit && this.as() && unit !== this.as())) this.taken.emit(sum.value);
    const refusal = this.documents.refusal();
    if (refusal.serial !== before && refusal.reason !== '') {
      // What is wrong is said where it was typed, for as long as it is wrong.
      this.messages.close(refusal.message);
      this.fault.set(refusal.reason);
      return this.refused.set(refusal.serial);
    }
    this.fault.set('');
    this.text.set(null);
    field.value = this.written(sum.value);
  }

  protected takeOffer({ run }: { readonly run: () => void }): void {
    this.text.set(null);
    this.fault.set('');
    run();
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
    if (this.in() === 'number') return parseSum(text);
    const [as, { cell }] = [this.as(), this.documents.shown().grid];
    if (this.in() === 'mm') return parseMillimetres(text, as ? { ...this.sheet(), unit: as } : this.sheet());
    if (!as || /\bcells?\b/i.test(text)) return parseLength(text.replace(/\bcells?\b/i, ''), this.sheet(), cell);
    const mm = parseMillimetres(text, { ...this.sheet(), unit: as });
    return mm.ok ? { ok: true, value: mm.value / cell } : mm;
  }

  private range(): string {
    if (this.most() === Infinity) return `At least ${this.written(this.least())}.`;
    return `From ${this.written(this.least())} to ${this.written(this.most())}.`;
  }
}
