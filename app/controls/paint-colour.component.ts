import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { followSwatch, readColour, swatchOf } from '@core';
import { PaintingService } from '../state/painting.service';
import { ViewStore, type ColourSlot } from '../state/view.store';
import { IconComponent } from './icon.component';
import { TextFieldDirective } from './text-field.directive';

let count = 0;

interface EyeDropperLike {
  open(): Promise<{ readonly sRGBHex: string }>;
}

/** A colour of a paint: chosen, typed as CSS, picked from the drawing or the screen, or followed from a swatch. */
@Component({
  selector: 'chemin-paint-colour',
  imports: [TextFieldDirective, IconComponent],
  template: `
    <label [attr.for]="id">{{ label() }}</label>
    <span class="entry">
      <input
        type="color"
        [attr.aria-label]="label() + ', chooser'"
        [value]="plain()"
        (input)="painting.setColour(slot(), $any($event.target).value, false)"
        (change)="painting.setColour(slot(), $any($event.target).value)"
      />
      <input
        class="text"
        autocomplete="off"
        [id]="id"
        [value]="words()"
        [attr.aria-invalid]="fault() || null"
        (change)="take($any($event.target))"
        cheminText
      />
      <button type="button" class="plain" [attr.aria-label]="'Pick ' + label() + ' from the drawing'" [attr.aria-pressed]="picking()" (click)="pick()">
        <chemin-icon name="colour" />
      </button>
      @if (screen) {
        <button type="button" class="plain" [attr.aria-label]="'Pick ' + label() + ' from the screen'" (click)="pickFromScreen()">
          <chemin-icon name="screen" />
        </button>
      }
    </span>
    @if (swatch(); as following) {
      <span class="shift">
        <button type="button" class="plain" [attr.aria-label]="label() + ' darker than its swatch'" (click)="shift(following.id, following.shift - 6)">
          darker
        </button>
        <button type="button" class="plain" [attr.aria-label]="label() + ' lighter than its swatch'" (click)="shift(following.id, following.shift + 6)">
          lighter
        </button>
      </span>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr auto;
      align-items: center;
      gap: 2px 6px;
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
      width: 70px;
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
    .plain {
      min-width: 24px;
      padding: 0 2px;
      justify-content: center;
    }
    .shift {
      grid-column: 2;
      display: flex;
      gap: 4px;
    }
    .shift .plain {
      padding: 0 8px;
      border: 1px solid var(--stone-3);
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PaintColourComponent {
  protected readonly painting = inject(PaintingService);
  private readonly view = inject(ViewStore);
  readonly label = input.required<string>();
  readonly slot = input.required<ColourSlot>();
  protected readonly id = `paint-colour-${++count}`;
  protected readonly fault = signal(false);
  /** Whether the browser can read colours anywhere on the screen. */
  protected readonly screen = 'EyeDropper' in window;

  private readonly colour = computed(() => this.painting.colourOf(this.slot()) ?? '#c98a4b');
  protected readonly plain = computed(() => this.painting.plain(this.colour()));
  protected readonly swatch = computed(() => swatchOf(this.colour()));
  /** A swatch's name with its shift, or the colour's value. */
  protected readonly words = computed(() => {
    const following = this.swatch();
    const named = following && this.painting.swatches().find((s) => s.id === following.id);
    if (!following || !named) return this.plain();
    return `${named.name}${following.shift ? ` ${following.shift > 0 ? '+' : '\u2212'}${Math.abs(following.shift)}` : ''}`;
  });
  protected readonly picking = computed(() => this.view.tool() === 'colour' && sameSlot(this.view.colourSlot(), this.slot()));

  protected take(field: HTMLInputElement): void {
    const named = this.painting.swatches().find((s) => s.name.toLowerCase() === field.value.trim().toLowerCase());
    const colour = named ? followSwatch(named.id) : readColour(field.value);
    this.fault.set(colour === null);
    if (colour !== null) this.painting.setColour(this.slot(), colour);
    else if (field.value === this.words()) this.fault.set(false);
  }

  protected shift(id: string, by: number): void {
    this.painting.setColour(this.slot(), followSwatch(id, by));
  }

  protected pick(): void {
    this.view.patch({ colourSlot: this.slot() });
    this.view.setTool('colour');
  }

  protected async pickFromScreen(): Promise<void> {
    const dropper = new (window as unknown as { EyeDropper: new () => EyeDropperLike }).EyeDropper();
    try {
      const colour = readColour((await dropper.open()).sRGBHex);
      if (colour) this.painting.setColour(this.slot(), colour);
    } catch {
      // The person has changed their mind.
    }
  }
}

function sameSlot(p: ColourSlot, q: ColourSlot): boolean {
  return p.kind === q.kind && (p.kind !== 'stop' || (q.kind === 'stop' && p.index === q.index));
}
