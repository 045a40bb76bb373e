import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import {
  boundsAll,
  coveredTone,
  drawnBody,
  drawnNodes,
  exactCells,
  exposure,
  figure,
  filledUp,
  fixedTone,
  meanColour,
  toneAt,
  tonedColour,
  type Axis,
  type FixedTones,
  type Light,
  type Ramp,
  type Shadows,
  type Sun,
  type Tone,
} from '@core';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { PaintingService } from '../../state/painting.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { ColoursPanelComponent } from './colours-panel.component';
import { lightWithLamp } from './lamp.tool';
import { LightService } from './light.service';
import { LinesPanelComponent } from './lines-panel.component';
import { SunDialComponent } from './sun-dial.component';

type ToneKey = keyof Ramp | keyof FixedTones;

const SIDES = [
  { label: 'top', normal: { a: 0, b: 0, h: 1 } },
  { label: 'left', normal: { a: -1, b: 0, h: 0 } },
  { label: 'right', normal: { a: 0, b: -1, h: 0 } },
] as const;

/** The light, its shadows, and what it makes of a base colour. */
@Component({
  selector: 'chemin-light-bench',
  imports: [
    CheckboxModule,
    ColourFieldComponent,
    ColoursPanelComponent,
    FormsModule,
    LinesPanelComponent,
    MeasureFieldComponent,
    SunDialComponent,
    ToggleSwitchModule,
  ],
  templateUrl: './light-bench.component.html',
  styleUrls: ['../../styles/bench.css', './light-bench.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LightBenchComponent {
  protected readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly painting = inject(PaintingService);
  private readonly arranging = inject(ArrangingService);
  protected readonly lights = inject(LightService);
  protected readonly axes = ['a', 'b', 'h'] as const;
  protected readonly exact = exactCells;
  protected readonly usualInk = { colour: '#1d2b45', strength: 0.35 };
  protected readonly light = this.lights.light;
  protected readonly shadows = this.lights.shadows;
  protected readonly sun = this.lights.sun;
  protected readonly chosen = this.lights.chosen;
  protected readonly shape = computed(() => this.arranging.shown()[0] ?? null);
  protected readonly base = computed(() => meanColour(this.shape()?.paint.fill ?? this.view.paint().fill ?? '#c98a4b', this.store.shown().swatches));

  /** The mapping as a small key: what the base colour becomes on each side that is seen. */
  protected readonly key = computed(() => {
    const own = this.lights.own().ramp;
    const { ramp, fixed, fill } = own ? { ...this.light(), ramp: own, fixed: undefined } : this.light();
    const sides = SIDES.map(({ label, normal }) => ({ label, tone: fixed ? fixedTone(fixed, ramp, normal) : toneAt(ramp, exposure(normal, this.sun())) }));
    return sides.map(({ label, tone }) => ({
      label,
      colour: tonedColour(this.base(), fixed ? tone : filledUp(tone, fill)),
    }));
  });
  protected readonly keyWords = computed(
    () =>
      `Tones now: ${this.key()
        .map(({ label, colour }) => `${label} ${colour}`)
        .join(' ')}`,
  );

  protected readonly tones = computed((): readonly { readonly key: ToneKey; readonly label: string; readonly tone: Tone }[] => {
    const own = this.lights.own().ramp;
    const { ramp, fixed } = own ? { ramp: own, fixed: undefined } : this.light();
    const shared = [
      { key: 'turned', label: 'Facing away', tone: ramp.turned },
      { key: 'covered', label: 'In shadow', tone: coveredTone(ramp) },
    ] as const;
    if (fixed) {
      const sides = (['top', 'left', 'right'] as const).map((key) => ({ key, label: key === 'top' ? 'Top' : key === 'left' ? 'Left side' : 'Right side', tone: fixed[key] })); // prettier-ignore
      return [...sides, ...shared];
    }
    return [{ key: 'lit', label: 'Facing the light', tone: ramp.lit }, { key: 'grazed', label: 'Edge-on', tone: ramp.grazed }, ...shared]; // prettier-ignore
  });

  /** What low and absent suns mean, in words. */
  protected readonly sunWords = computed(() => {
    const { elevationDeg } = this.sun();
    if (elevationDeg < 0) return 'The sun is below the horizon: only what faces down is lit, and no shadow falls on a floor.';
    if (elevationDeg < 3) return `Shadows are ${elevationDeg === 0 ? 'endless' : `${figure(Math.round(1 / Math.tan((elevationDeg * Math.PI) / 180)))} times as long as things are high`}.`; // prettier-ignore
    return '';
  });

  protected readonly casts = computed(() => this.chosen().every((node) => node.casts !== false));
  protected readonly receives = computed(() => this.chosen().every((node) => node.receives !== false));
  /** What the lamp stands in, in words. */
  protected readonly lampWords = computed(() => {
    const inside = this.lights.around();
    return inside.length === 0 ? '' : `The lamp stands inside of ${inside.join(' and ')} and shines through it.`;
  });

  protected readonly chosenWords = computed(() => (this.chosen().length === 1 ? this.chosen()[0]!.name : `${this.chosen().length} things`));

  protected swatch(tone: Tone): string {
    return tonedColour(this.base(), tone);
  }

  protected setSun(sun: Sun, keep: boolean): void {
    this.lights.set(this.lights.lightWithSun(sun), keep, 'turn the sun');
  }

  protected toSun(): void {
    if (this.light().lamp) this.lights.set(this.lights.lightWithSun(this.sun()), true, 'light by the sun');
  }

  /** A lamp over the middle of what is drawn. */
  protected toLamp(): void {
    if (this.light().lamp) return;
    const box = boundsAll(drawnNodes(this.store.kept()).flatMap((drawn) => drawnBody(drawn) ?? []));
    const { min, max } = box ?? { min: { a: 0, b: 0, h: 0 }, max: { a: 8, b: 8, h: 8 } };
    const height = Math.hypot(max.a - min.a, max.b - min.b, max.h - min.h) / 4;
    const at = { a: Math.round((min.a + max.a) / 2), b: Math.round((min.b + max.b) / 2), h: Math.ceil(max.h + height) };
    this.lights.set(lightWithLamp(this.store.kept(), at), true, 'light by a lamp');
  }

  protected moveLamp(axis: Axis, to: number): void {
    const { lamp } = this.store.kept().light;
    if (lamp) this.setLamp({ at: { ...lamp.at, [axis]: exactCells(to) } });
  }

  protected setLamp(part: Partial<NonNullable<Light['lamp']>>): void {
    const { light } = this.store.kept();
    if (light.lamp) this.lights.set({ ...light, lamp: { ...light.lamp, ...part } }, true, 'move the lamp');
  }

  protected keepTo(picture: boolean): void {
    this.lights.keepTo(picture);
  }

  protected setShadows(part: Partial<Shadows>): void {
    if (part.on === undefined) this.lights.setShadows(part);
    else this.lights.castShadows(part.on);
  }

  protected setFloor(on: boolean): void {
    if (on) this.lights.setShadows({ floor: 0 });
    else this.lights.setShadows({}, ['floor']);
  }

  protected setContact(contact: number): void {
    if (contact > 0) this.lights.setShadows({ contact: exactCells(contact) });
    else this.lights.setShadows({}, ['contact']);
  }

  protected setSoft(soft: number): void {
    if (soft > 0) this.lights.setShadows({ soft });
    else this.lights.setShadows({}, ['soft']);
  }

  protected setFade(fade: number): void {
    if (fade > 0) this.lights.setShadows({ fade });
    else this.lights.setShadows({}, ['fade']);
  }

  protected setInk(ink: Shadows['ink'] | null, keep = true): void {
    if (ink) this.lights.setShadows({ ink }, [], 'colour the shadows', keep);
    else this.lights.setShadows({}, ['ink'], 'colour the shadows');
  }

  protected setFlag(name: 'casts' | 'receives', on: boolean): void {
    this.lights.setFlag(name, on);
  }

  protected setFixed(on: boolean): void {
    const { fixed: _, ...light } = this.store.kept().light;
    const now = (label: string): Tone => toneAt(light.ramp, exposure(SIDES.find((side) => side.label === label)!.normal, this.sun()));
    this.lights.set(
      on ? { ...light, fixed: { top: now('top'), left: now('left'), right: now('right') } } : light,
      true,
      on ? 'tone by sides' : 'tone by the light',
    );
  }

  protected setTone(key: ToneKey, lightness: number): void {
    const { light } = this.store.kept();
    const { ramp, fixed } = light;
    const own = this.lights.own().ramp;
    if (own) {
      const before = key === 'covered' ? coveredTone(own) : own[key as 'lit'];
      return this.lights.setOwn('ramp', { ...own, [key]: { ...before, lightness } });
    }
    if (fixed && (key === 'top' || key === 'left' || key === 'right')) {
      this.lights.set({ ...light, fixed: { ...fixed, [key]: { ...fixed[key], lightness } } }, true, 'change the tones');
      return;
    }
    const before = key === 'covered' ? coveredTone(ramp) : ramp[key as 'lit'];
    this.lights.set({ ...light, ramp: { ...ramp, [key]: { ...before, lightness } } }, true, 'change the tones');
  }

  /** Gives what is selected tones of its own, at first the light's, or takes them away. */
  protected setOwnRamp(on: boolean): void {
    this.lights.setOwn('ramp', on ? this.light().ramp : null);
  }

  protected setFill(fill: number): void {
    const { fill: _, ...light } = this.store.kept().light;
    this.lights.set(fill > 0 ? { ...light, fill } : light, true, 'change the fill light');
  }

  protected setBase(fill: string, keep: boolean): void {
    this.painting.setColour({ kind: 'fill' }, fill, keep);
  }
}
