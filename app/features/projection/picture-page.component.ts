import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, untracked } from '@angular/core';
import { SliderModule } from 'primeng/slider';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { figure, type Axis, type Reference, type SheetPoint, type Stroke } from '@core';
import { type SolveAs } from '@later';
import { IconComponent } from '../../controls/icon.component';
import { MissingDirective } from '../../controls/missing.directive';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ReferencesService } from '../../state/references.service';
import { DocumentStore } from '../../state/document.store';
import { TraceService } from '../../state/trace.service';
import { AidsStore } from '../../state/aids.store';
import { ViewStore } from '../../state/view.store';

/** Ms that a blinking reference is shown and hidden. */
const BLINK_MS = 650;

/** Reference pictures, and the projection that edges traced over them tell. */
@Component({
  selector: 'chemin-picture-page',
  imports: [FormsModule, IconComponent, MeasureFieldComponent, SelectModule, SliderModule, MissingDirective],
  templateUrl: './picture-page.component.html',
  styleUrls: ['../../styles/bench.css', './picture-page.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PicturePageComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly aids = inject(AidsStore);
  protected readonly trace = inject(TraceService);
  protected readonly pictures = inject(ReferencesService);
  protected readonly references = computed(() => this.store.shown().references);
  protected readonly kinds: { label: string; value: SolveAs }[] = [
    { label: 'Detect', value: 'auto' },
    { label: 'a parallel projection', value: 'parallel' },
    { label: 'one vanishing point', value: 'one' },
    { label: 'two, uprights upright', value: 'two' },
    { label: 'three vanishing points', value: 'three' },
  ];
  protected readonly axes: readonly Axis[] = ['a', 'b', 'h'];
  protected readonly strokes = computed(() => {
    const misses = this.trace.misses();
    const solution = this.trace.solution();
    return this.trace.strokes().map((stroke, i) => {
      const miss = misses.get(stroke.id);
      const wrong = solution?.ok === true && solution.wrong === stroke.id;
      const worst = solution?.ok === true && !solution.wrong && solution.worst === stroke.id && solution.rmsPx > 0.3;
      return {
        stroke,
        number: i + 1,
        miss: miss ? `${figure(miss.deg, 2)}°, ${figure(miss.px, 1)}\u2009px` : '',
        mark: wrong ? 'left out' : worst ? 'worst' : '',
      };
    });
  });
  /** What the strokes tell, in words. */
  protected readonly told = computed(() => {
    const solution = this.trace.solution();
    if (!solution?.ok) return null;
    if (solution.parallel) {
      const { aDeg, bDeg, rollDeg } = solution.parallel;
      const roll = Math.abs(rollDeg) > 0.05 ? `, rolled ${figure(rollDeg, 1)}°` : '';
      return {
        title: 'parallel projection',
        line: `a rises ${figure(aDeg, 2)}°, b rises ${figure(bDeg, 2)}°${roll}`,
        rms: figure(solution.rmsPx, 2),
        notes: solution.notes,
        fromBelow: aDeg + bDeg < 0,
      };
    }
    const names = { one: 'one-point perspective', two: 'two-point perspective', three: 'three-point perspective' } as const;
    const view = solution.viewDeg ? `angle of view ${figure(solution.viewDeg.value, 1)}° ± ${figure(solution.viewDeg.error, 1)}°` : '';
    return { title: names[solution.as as 'one' | 'two' | 'three'], line: view, rms: figure(solution.rmsPx, 2), notes: solution.notes, fromBelow: false };
  });
  protected readonly missing = computed(() => {
    const solution = this.trace.solution();
    return solution && !solution.ok ? solution.missing : [];
  });
  private readonly stillness = matchMedia('(prefers-reduced-motion: reduce)');

  constructor() {
    let timer: ReturnType<typeof setInterval> | undefined;
    effect(() => {
      const on = this.aids.blink() !== 'off';
      if (on === (timer !== undefined) || (on && this.stillness.matches)) return;
      clearInterval(timer);
      timer = on ? setInterval(() => untracked(() => this.aids.patch({ blink: this.aids.blink() === 'shown' ? 'hidden' : 'shown' })), BLINK_MS) : undefined;
    });
    inject(DestroyRef).onDestroy(() => {
      clearInterval(timer);
      this.aids.patch({ blink: 'off' });
    });
  }

  /** Blinks the reference; for those who want no motion, each press shows the other state. */
  protected blink(reference: Reference): void {
    this.aids.patch({ reference: reference.id });
    const now = this.aids.blink();
    if (this.stillness.matches) this.aids.patch({ blink: now === 'hidden' ? 'off' : 'hidden' });
    else this.aids.patch({ blink: now === 'off' ? 'hidden' : 'off' });
  }

  protected change(reference: Reference, part: Partial<Reference>, label: string): void {
    this.store.commit({ kind: 'reference', reference: { ...reference, ...part } }, `${label} ${reference.name}`);
  }

  protected strengthen(reference: Reference, percent: number, end: boolean): void {
    const strength = percent / 100;
    const edit = { kind: 'reference', reference: { ...reference, strength } } as const;
    if (end && this.store.kept().references.some((r) => r.id === reference.id && r.strength === strength)) this.store.show(null);
    else if (end) this.store.commit(edit, `opacity of ${reference.name}`);
    else this.store.show(edit);
  }

  /** A key let go keeps what is shown, be the page behind it or not. */
  protected keepStrength({ id }: Reference): void {
    const shown = this.store.shown().references.find((reference) => reference.id === id);
    if (shown) this.strengthen(shown, shown.strength * 100, true);
  }

  protected setPrincipal(part: Partial<SheetPoint>): void {
    this.aids.patch({ principal: { ...this.trace.principal(), ...part } });
  }

  protected delete(reference: Reference): void {
    this.store.commit({ kind: 'delete-reference', id: reference.id }, `delete ${reference.name}`);
  }

  protected setAxis(stroke: Stroke, axis: Axis): void {
    this.trace.change(
      this.trace.strokes().map((s) => (s.id === stroke.id ? { ...s, axis } : s)),
      'change the axis of an edge',
    );
  }

  /** Edges that were read along a run along b, and the other way round. */
  protected exchange(): void {
    const other = { a: 'b', b: 'a', h: 'h' } as const;
    this.trace.change(
      this.trace.strokes().map((s) => ({ ...s, axis: other[s.axis] })),
      'exchange a and b of the traced edges',
    );
  }

  protected remove(stroke: Stroke): void {
    this.trace.change(
      this.trace.strokes().filter((s) => s.id !== stroke.id),
      'delete a traced edge',
    );
  }

  protected clear(): void {
    this.trace.change([], 'delete all traced edges');
  }
}
