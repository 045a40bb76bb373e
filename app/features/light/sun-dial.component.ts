import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output } from '@angular/core';
import type { Sun } from '@core';

const RADIUS = 58;
/** The a axis is drawn to the right and away: 45 degrees on a dial seen from above. */
const TURN = 45;

/**
 * The sky seen from above: the middle is straight overhead, the rim the horizon. Dragging the sun sets where it
 * stands; arrow keys turn and lift it by five degrees.
 */
@Component({
  selector: 'chemin-sun-dial',
  template: `
    <svg
      viewBox="-76 -76 152 152"
      width="152"
      height="152"
      tabindex="0"
      role="slider"
      aria-label="Place of the sun"
      aria-valuemin="0"
      aria-valuemax="360"
      [attr.aria-valuenow]="turned()"
      [attr.aria-valuetext]="'turned ' + turned() + ' degrees, ' + height() + ' degrees high'"
      (pointerdown)="grab($event)"
      (pointermove)="drag($event)"
      (pointerup)="drop($event)"
      (keydown)="press($event)"
    >
      <circle r="58" class="sky" />
      <circle r="38.7" class="ring" />
      <circle r="19.3" class="ring" />
      <path d="M0 0L41 -41M0 0L-41 -41" class="axis" />
      <text x="48" y="-46">a</text>
      <text x="-48" y="-46">b</text>
      <path d="M0 -8 8 -3.4V3.4L0 8 -8 3.4V-3.4Z" class="thing" />
      <line x1="0" y1="0" [attr.x2]="place().x" [attr.y2]="place().y" class="ray" />
      <circle [attr.cx]="place().x" [attr.cy]="place().y" r="8.5" class="sun" />
      <text y="72" class="foot">you</text>
    </svg>
  `,
  styles: `
    :host {
      display: flex;
      justify-content: center;
    }
    svg {
      cursor: grab;
      touch-action: none;
    }
    .sky {
      fill: var(--stone-1);
      stroke: var(--stone-3);
    }
    .ring {
      fill: none;
      stroke: var(--stone-2);
    }
    .axis {
      stroke: var(--ink-2);
      stroke-width: 1;
      stroke-dasharray: 2 3;
    }
    .thing {
      fill: var(--stone-3);
      stroke: var(--ink-2);
    }
    .ray {
      stroke: var(--violet);
      stroke-width: 1.4;
      stroke-dasharray: 4 3;
    }
    .sun {
      fill: var(--violet);
      stroke: var(--paper);
      stroke-width: 2;
    }
    text {
      font-size: 11px;
      fill: var(--ink-2);
      text-anchor: middle;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SunDialComponent {
  readonly sun = input.required<Sun>();
  /** While dragging, then once at its end. */
  readonly shown = output<Sun>();
  readonly taken = output<Sun>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private dragged: Sun | null = null;

  protected readonly turned = computed(() => Math.round(((this.sun().azimuthDeg % 360) + 360) % 360));
  protected readonly height = computed(() => Math.round(this.sun().elevationDeg));
  protected readonly place = computed(() => {
    const { azimuthDeg, elevationDeg } = this.sun();
    const angle = ((azimuthDeg + TURN) * Math.PI) / 180;
    const r = (RADIUS * (90 - Math.max(0, elevationDeg))) / 90;
    return { x: Math.cos(angle) * r, y: -Math.sin(angle) * r };
  });

  protected grab(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.dragged = this.at(event);
    this.shown.emit(this.dragged);
  }

  protected drag(event: PointerEvent): void {
    if (!this.dragged) return;
    this.dragged = this.at(event);
    this.shown.emit(this.dragged);
  }

  protected drop(event: PointerEvent): void {
    if (!this.dragged) return;
    this.taken.emit(this.at(event));
    this.dragged = null;
  }

  protected press(event: KeyboardEvent): void {
    const steps: Readonly<Record<string, readonly [number, number]>> = { ArrowRight: [-5, 0], ArrowLeft: [5, 0], ArrowUp: [0, 5], ArrowDown: [0, -5] };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    const { azimuthDeg, elevationDeg } = this.sun();
    this.taken.emit({ azimuthDeg: (((azimuthDeg + step[0]) % 360) + 360) % 360, elevationDeg: Math.max(0, Math.min(90, elevationDeg + step[1])) });
  }

  private at(event: PointerEvent): Sun {
    const box = this.host.querySelector('svg')!.getBoundingClientRect();
    const x = event.clientX - box.left - box.width / 2;
    const y = box.top + box.height / 2 - event.clientY;
    const azimuth = (Math.atan2(y, x) * 180) / Math.PI - TURN;
    const elevation = 90 * (1 - Math.min(1, Math.hypot(x, y) / RADIUS));
    return { azimuthDeg: Math.round((azimuth + 360) % 360), elevationDeg: Math.round(elevation) };
  }
}
