import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { faceColour, meanColour, tonedColour, type Light, type Ramp, type Sun, type Tone } from '@core';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { PaintingService } from '../../state/painting.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { SunDialComponent } from './sun-dial.component';

const TONES = [
  { key: 'lit', label: 'Facing the sun', hint: 'the light falls straight on it' },
  { key: 'grazed', label: 'Edge-on', hint: 'the light runs along it' },
  { key: 'turned', label: 'Facing away', hint: 'its back to the sun' },
] as const satisfies readonly { key: keyof Ramp; label: string; hint: string }[];

const SIDES = [
  { label: 'top', normal: { a: 0, b: 0, h: 1 } },
  { label: 'left', normal: { a: -1, b: 0, h: 0 } },
  { label: 'right', normal: { a: 0, b: -1, h: 0 } },
] as const;

/** The sun and the ramp: where the light stands, and what it makes of a base colour. */
@Component({
  selector: 'chemin-light-bench',
  imports: [ColourFieldComponent, MeasureFieldComponent, SunDialComponent],
  templateUrl: './light-bench.component.html',
  styleUrls: ['../../styles/bench.css', './light-bench.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LightBenchComponent {
  protected readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly painting = inject(PaintingService);
  private readonly arranging = inject(ArrangingService);
  protected readonly tones = TONES;
  protected readonly light = computed(() => this.store.shown().light);
  protected readonly shape = computed(() => this.arranging.shown()[0] ?? null);
  protected readonly base = computed(() => meanColour(this.shape()?.paint.fill ?? this.view.paint().fill ?? '#c98a4b', this.store.shown().swatches));
  /** The mapping as a small key: what the base colour becomes on each side that is seen. */
  protected readonly key = computed(() =>
    SIDES.map(({ label, normal }) => ({ label, colour: faceColour(this.base(), normal, this.light().sun, this.light().ramp) })),
  );

  protected swatch(key: keyof Ramp): string {
    return tonedColour(this.base(), this.light().ramp[key]);
  }

  protected setSun(sun: Sun, keep: boolean): void {
    this.set({ ...this.store.kept().light, sun }, keep, 'turn the sun');
  }

  protected setTone(key: keyof Ramp, part: Partial<Tone>): void {
    const { light } = this.store.kept();
    this.set({ ...light, ramp: { ...light.ramp, [key]: { ...light.ramp[key], ...part } } }, true, 'change the ramp');
  }

  protected setBase(fill: string, keep: boolean): void {
    this.painting.setColour({ kind: 'fill' }, fill, keep);
  }

  private set(light: Light, keep: boolean, label: string): void {
    const edit = { kind: 'light' as const, light };
    if (keep) this.store.commit(edit, label);
    else this.store.show(edit);
  }
}
