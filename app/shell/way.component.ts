import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { StagesService } from '../state/stages.service';
import { ViewStore } from '../state/view.store';

/** Places of the stations on an isometric lattice: straight down and slanting in turn. */
const STATIONS = [
  { x: 16, y: 16 },
  { x: 30, y: 66 },
  { x: 16, y: 116 },
  { x: 30, y: 166 },
  { x: 16, y: 216 },
  { x: 30, y: 266 },
  { x: 16, y: 316 },
] as const;

/** The way: the stages as stations on one line that runs in the three directions of an isometric grid. */
@Component({
  selector: 'chemin-way',
  template: `
    <nav aria-label="Stages">
      <svg viewBox="0 0 104 340" width="104" height="340" aria-hidden="true">
        <polyline [attr.points]="line" fill="none" stroke="var(--stone-3)" stroke-width="2" stroke-linejoin="round" />
        @for (stage of stages; track stage.name; let i = $index) {
          <circle
            [attr.cx]="stations[i]!.x"
            [attr.cy]="stations[i]!.y"
            r="7"
            [attr.fill]="view.stage() === stage.name ? 'var(--violet)' : 'var(--paper)'"
            [attr.stroke]="view.stage() === stage.name ? 'var(--violet)' : 'var(--ink-2)'"
            stroke-width="2"
          />
        }
      </svg>
      @for (stage of stages; track stage.name; let i = $index) {
        <button
          type="button"
          [style.top.px]="stations[i]!.y - 2"
          [style.padding-left.px]="stations[i]!.x + 13"
          [attr.aria-current]="view.stage() === stage.name ? 'step' : null"
          (click)="go(stage.name)"
        >
          {{ stage.title }}
        </button>
      }
    </nav>
  `,
  styles: `
    :host {
      border-right: 1px solid var(--stone-2);
      overflow: hidden auto;
      scrollbar-width: thin;
    }
    nav {
      position: relative;
      height: 354px;
    }
    svg {
      position: absolute;
      left: 0;
      top: 14px;
    }
    button {
      position: absolute;
      left: 0;
      width: 100%;
      height: 32px;
      padding: 0;
      border: 0;
      background: none;
      font-size: 13px;
      text-align: left;
      cursor: pointer;
    }
    button[aria-current] {
      color: var(--violet);
      font-weight: 600;
    }
    button:hover {
      color: var(--violet);
    }
    button:focus-visible {
      outline-offset: -3px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WayComponent {
  protected readonly view = inject(ViewStore);
  private readonly known = inject(StagesService);
  protected readonly stages = this.known.links;
  protected readonly stations = STATIONS;
  protected go(stage: string): void {
    this.known.go(stage);
  }

  /** From station to station: half the way straight down, the rest along an axis. */
  protected readonly line = STATIONS.flatMap(({ x, y }, i) => {
    const next = STATIONS[i + 1];
    if (!next) return [`${x},${y}`];
    const slant = Math.abs(next.x - x) / Math.sqrt(3);
    const straight = (next.y - y - slant) / 2;
    return [`${x},${y}`, `${x},${y + straight}`, `${next.x},${y + straight + slant}`];
  }).join(' ');
}
