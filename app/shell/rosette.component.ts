import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { drawnVector, FAMILIES, PLANE_NAMES, type PlaneKind } from '@core';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';

const INNER = 17;

interface Sector {
  readonly kind: PlaneKind;
  readonly path: string;
  readonly label: string;
}

/** The plane chooser: the axes as the projection draws them, the sectors between them, and the sheet as the ring. */
@Component({
  selector: 'chemin-rosette',
  template: `
    <svg viewBox="-24 -24 48 48" width="48" height="48" role="radiogroup" aria-label="Plane to draw on">
      <defs>
        <pattern id="hatch-floor" width="4" height="4" patternUnits="userSpaceOnUse"><circle cx="2" cy="2" r="0.85" fill="var(--saffron)" /></pattern>
        <pattern id="hatch-left" width="4" height="4" patternUnits="userSpaceOnUse">
          <path d="M-1 -1 5 5M-1 3 1 5M3 -1 5 1" stroke="var(--rose)" stroke-width="0.9" />
        </pattern>
        <pattern id="hatch-right" width="4" height="4" patternUnits="userSpaceOnUse">
          <path d="M-1 5 5 -1M-1 1 1 -1M3 5 5 3" stroke="var(--teal)" stroke-width="0.9" />
        </pattern>
      </defs>
      <g
        class="sector"
        role="radio"
        tabindex="0"
        aria-label="sheet"
        [attr.aria-checked]="view.plane().kind === 'sheet'"
        (click)="view.setPlane('sheet')"
        (keydown)="press($event, 'sheet')"
      >
        <circle r="22.4" [attr.fill]="view.plane().kind === 'sheet' ? 'var(--stone-3)' : 'var(--stone-1)'" stroke="var(--plain)" stroke-width="1.2" />
      </g>
      <circle r="18.4" fill="var(--paper)" />
      @for (sector of sectors(); track sector.kind) {
        <g
          class="sector"
          role="radio"
          tabindex="0"
          [class]="'sector ' + sector.kind"
          [attr.aria-label]="sector.label"
          [attr.aria-checked]="view.plane().kind === sector.kind"
          (click)="view.setPlane(sector.kind)"
          (keydown)="press($event, sector.kind)"
        >
          <path [attr.d]="sector.path" class="wash" />
          <path [attr.d]="sector.path" [attr.fill]="'url(#hatch-' + sector.kind + ')'" />
          <path [attr.d]="sector.path" class="edge" fill="none" />
        </g>
      }
    </svg>
  `,
  styles: `
    :host {
      display: inline-flex;
    }
    .sector {
      cursor: pointer;
      outline: none;
    }
    .wash {
      fill: transparent;
    }
    .edge {
      stroke: var(--paper);
      stroke-width: 1.4;
    }
    .floor[aria-checked='true'] .wash {
      fill: color-mix(in srgb, var(--saffron) 38%, transparent);
    }
    .left[aria-checked='true'] .wash {
      fill: color-mix(in srgb, var(--rose) 34%, transparent);
    }
    .right[aria-checked='true'] .wash {
      fill: color-mix(in srgb, var(--teal) 34%, transparent);
    }
    .sector:hover .wash {
      fill: var(--stone-2);
    }
    .sector[aria-checked='true']:hover .wash {
      fill: var(--violet-wash);
    }
    .sector[aria-checked='true'] .edge {
      stroke: var(--ink);
    }
    .sector:focus-visible .edge,
    .sector:focus-visible circle {
      stroke: var(--violet);
      stroke-width: 2.4;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RosetteComponent {
  protected readonly view = inject(ViewStore);
  private readonly store = inject(DocumentStore);

  /** Directions of a, b and of h downwards, as drawn: the corner of a box seen from where the viewer stands. */
  protected readonly sectors = computed((): readonly Sector[] => {
    const setup = this.store.shown().projection;
    const axes = FAMILIES[setup.family].axes(setup);
    const direction = (x: number, y: number): { x: number; y: number } => {
      const length = Math.hypot(x, y) || 1;
      return { x: (x / length) * INNER, y: (y / length) * INNER };
    };
    const [a, b, h] = [drawnVector(axes.a), drawnVector(axes.b), drawnVector(axes.h)];
    const [ra, rb, down] = [direction(a.x, a.y), direction(b.x, b.y), direction(-h.x, -h.y)];
    const wedge = (from: { x: number; y: number }, to: { x: number; y: number }): string =>
      `M0 0L${from.x.toFixed(2)} ${from.y.toFixed(2)}A${INNER} ${INNER} 0 0 1 ${to.x.toFixed(2)} ${to.y.toFixed(2)}Z`;
    const sector = (kind: PlaneKind, path: string): Sector => ({ kind, path, label: PLANE_NAMES[kind] });
    return [sector('floor', wedge(rb, ra)), sector('right', wedge(ra, down)), sector('left', wedge(down, rb))];
  });

  protected press(event: KeyboardEvent, kind: PlaneKind): void {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    event.stopPropagation();
    this.view.setPlane(kind);
  }
}
