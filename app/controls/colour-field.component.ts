import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

let count = 0;

/** A colour: a swatch that opens the system's chooser, and its value as text. */
@Component({
  selector: 'chemin-colour',
  template: `
    <label [attr.for]="id">{{ label() }}</label>
    <span class="entry">
      <input type="color" [id]="id" [value]="value()" (input)="shown.emit($any($event.target).value)" (change)="taken.emit($any($event.target).value)" />
      <span class="unit">{{ value() }}</span>
    </span>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr 106px;
      align-items: center;
      gap: 6px;
    }
    label {
      font-size: 13px;
    }
    .entry {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    input {
      width: 36px;
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
    .unit {
      font-size: 12.5px;
      color: var(--ink-2);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColourFieldComponent {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  /** While choosing; then once when chosen. */
  readonly shown = output<string>();
  readonly taken = output<string>();
  protected readonly id = `colour-${++count}`;
}
