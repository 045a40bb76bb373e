import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { followSwatch, readColour, swatchOf, type Colour } from '@core';
import { PaintingService } from '../state/painting.service';
import { ViewStore, type ColourSlot } from '../state/view.store';
import { ColourFieldComponent } from './colour-field.component';
import { IconComponent } from './icon.component';

interface EyeDropperLike {
  open(): Promise<{ readonly sRGBHex: string }>;
}

/** A colour of a paint: chosen, typed as CSS, picked from the drawing or the screen, or followed from a swatch. */
@Component({
  selector: 'chemin-paint-colour',
  imports: [ColourFieldComponent, IconComponent],
  template: `
    <chemin-colour
      [label]="label()"
      [value]="plain()"
      [words]="words()"
      [read]="read"
      (shown)="painting.setColour(slot(), $event, false)"
      (taken)="painting.setColour(slot(), $event)"
    >
      <button type="button" class="plain" [attr.aria-label]="'Pick ' + label() + ' from the drawing'" [attr.aria-pressed]="picking()" (click)="pick()">
        <chemin-icon name="colour" />
      </button>
      @if (screen) {
        <button type="button" class="plain" [attr.aria-label]="'Pick ' + label() + ' from the screen'" (click)="pickFromScreen()">
          <chemin-icon name="screen" />
        </button>
      }
    </chemin-colour>
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
      gap: 2px;
    }
    .plain {
      min-width: 24px;
      padding: 0 2px;
      justify-content: center;
    }
    .shift {
      display: flex;
      justify-content: end;
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

  /** A typed text is a swatch's name, or a colour. */
  protected readonly read = (text: string): Colour | null => {
    const named = this.painting.swatches().find((s) => s.name.toLowerCase() === text.trim().toLowerCase());
    return named ? followSwatch(named.id) : readColour(text);
  };

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
