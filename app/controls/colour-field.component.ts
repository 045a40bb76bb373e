import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { readColour } from '@core';
import { TextFieldDirective } from './text-field.directive';

let count = 0;

/**
 * A colour: a well that opens the system's chooser, and its value as text. The chooser is the system's own because the
 * library's cannot be used by keyboard.
 */
@Component({
  selector: 'chemin-colour',
  imports: [TextFieldDirective],
  template: `
    @if (!wellOnly()) {
      <label [attr.for]="id">{{ label() }}</label>
    }
    <span class="entry">
      <input
        type="color"
        [attr.aria-label]="wellOnly() ? label() : label() + ', chooser'"
        [value]="value()"
        (input)="shown.emit($any($event.target).value)"
        (change)="taken.emit($any($event.target).value)"
      />
      @if (!wellOnly()) {
        <input
          class="text"
          autocomplete="off"
          [id]="id"
          [value]="words() ?? value()"
          [attr.aria-invalid]="fault() || null"
          (change)="take($any($event.target))"
          cheminText
        />
      }
      <ng-content />
    </span>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr auto;
      align-items: center;
      gap: 2px 6px;
    }
    :host(.bare) {
      display: inline-grid;
      grid-template-columns: auto;
    }
    label {
      font-size: 13px;
    }
    .entry {
      display: flex;
      align-items: center;
      gap: 2px;
    }
    input[type='color'] {
      width: 30px;
      height: 26px;
      padding: 0;
      border: 1px solid var(--stone-3);
      border-radius: 3px;
      background: none;
      cursor: pointer;
    }
    input::-webkit-color-swatch-wrapper {
      padding: 2px;
    }
    input::-webkit-color-swatch {
      border: 0;
      border-radius: 2px;
    }
    .text {
      width: 66px;
      flex: none;
      height: 26px;
      padding: 2px 5px;
      border: 1px solid var(--stone-3);
      border-radius: 3px;
      background: var(--field);
      font-size: 12.5px;
    }
    .text[aria-invalid] {
      border-color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColourFieldComponent {
  readonly label = input.required<string>();
  /** The colour, as #rrggbb. */
  readonly value = input.required<string>();
  /** What stands in the text field where that is not the value, such as a swatch's name. */
  readonly words = input<string>();
  /** What a typed text means; a CSS colour where nothing else is said. Null for what is none. */
  readonly read = input<(text: string) => string | null>(readColour);
  readonly wellOnly = input(false);
  /** While choosing; then once when chosen. */
  readonly shown = output<string>();
  readonly taken = output<string>();
  protected readonly id = `colour-${++count}`;
  protected readonly fault = signal(false);

  protected take(field: HTMLInputElement): void {
    const before = this.words() ?? this.value();
    const colour = this.read()(field.value);
    this.fault.set(colour === null && field.value !== before);
    if (colour !== null) this.taken.emit(colour);
  }
}
