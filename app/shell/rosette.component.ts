import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { drawnAt, planeName, type Axis, type AxisPlaneKind, type Projection } from '@core';
import { PictureService } from '../state/picture.service';
import { ViewStore } from '../state/view.store';

/** Radius of the sectors in px: a circle of 24 px fits into a sector of a quarter turn. */
const INNER = 29;

/** The order in which arrow keys walk. */
const WALK = ['floor', 'right', 'left', 'sheet'] as const;

/** Smallest sector in radians, so that a plane seen nearly edge-on can still be pressed. */
const LEAST = 0.35;

/** The angles, anticlockwise, at which the three edges leave the nearest corner of a box at the origin, as it is drawn. */
function cornerDirections(projection: Projection): Readonly<Record<Axis, number>> {
  const [ea, eb, eh] = projection.eye;
  const toEye = { a: ea, b: eb, h: eh };
  const angle = (axis: Axis, usual: number): number => {
    const v = drawnAt(projection, { a: 0, b: 0, h: 0 }, axis);
    // The corner's edge runs away from the viewer.
    const away = toEye[axis] > 0 ? -1 : 1;
    return v && Math.hypot(v.x, v.y) > 1e-9 ? Math.atan2(-v.y * away, v.x * away) : usual;
  };
  return { a: angle('a', 0.5), b: angle('b', 2.6), h: angle('h', -Math.PI / 2) };
}

/** The smaller of the sectors between two directions, from its start anticlockwise. */
function wedge(p: number, q: number): readonly [number, number] {
  const turn = (((q - p) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  const [from, sweep] = turn <= Math.PI ? [p, turn] : [q, 2 * Math.PI - turn];
  return sweep >= LEAST ? [from, sweep] : [from - (LEAST - sweep) / 2, LEAST];
}

interface Sector {
  readonly kind: AxisPlaneKind;
  readonly path: string;
  readonly label: string;
}

/** The plane chooser: the axes as the projection draws them, the sectors between them, and the sheet beside them. */
@Component({
  selector: 'chemin-rosette',
  template: `
    <svg viewBox="-30 -30 96 60" width="96" height="60" role="radiogroup" aria-label="Plane to draw on">
      <defs>
        <pattern id="hatch-floor" width="4" height="4" patternUnits="userSpaceOnUse"><circle cx="2" cy="2" r="0.85" fill="var(--saffron)" /></pattern>
        <pattern id="hatch-left" width="4" height="4" patternUnits="userSpaceOnUse">
          <path d="M-1 -1 5 5M-1 3 1 5M3 -1 5 1" stroke="var(--rose)" stroke-width="0.9" />
        </pattern>
        <pattern id="hatch-right" width="4" height="4" patternUnits="userSpaceOnUse">
          <path d="M-1 5 5 -1M-1 1 1 -1M3 5 5 3" stroke="var(--teal)" stroke-width="0.9" />
        </pattern>
      </defs>
      <circle r="29.4" fill="var(--stone-1)" stroke="var(--stone-3)" stroke-width="0.8" />
      @for (sector of sectors(); track sector.kind) {
        <g
          class="sector"
          role="radio"
          [attr.tabindex]="stop() === sector.kind ? 0 : -1"
          [attr.data-plane]="sector.kind"
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
      <g
        class="sector sheet"
        role="radio"
        aria-label="sheet"
        data-plane="sheet"
        [attr.tabindex]="stop() === 'sheet' ? 0 : -1"
        [attr.aria-checked]="view.plane().kind === 'sheet'"
        (click)="view.setPlane('sheet')"
        (keydown)="press($event, 'sheet')"
      >
        <rect x="35" y="-16" width="28" height="32" fill="transparent" />
        <path class="edge page" d="M39 -13h14l6 6v20h-20z" />
        <path class="edge" d="M53 -13v6h6" fill="none" />
      </g>
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
    .sheet .edge {
      stroke: var(--plain);
    }
    .page {
      fill: var(--paper);
    }
    .sheet:hover .page {
      fill: var(--stone-2);
    }
    .sheet[aria-checked='true'] .page {
      fill: var(--stone-3);
    }
    .sector:focus-visible .edge {
      stroke: var(--violet);
      stroke-width: 2.4;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RosetteComponent {
  protected readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);

  /** Directions of a, b and of h downwards, as drawn: the corner of a box seen from where the viewer stands. */
  protected readonly sectors = computed((): readonly Sector[] => {
    const { projection } = this.pictures.geometry().sight;
    const edge = cornerDirections(projection);
    const point = (angle: number): string => `${(Math.cos(angle) * INNER).toFixed(2)} ${(-Math.sin(angle) * INNER).toFixed(2)}`;
    const sector = (kind: AxisPlaneKind, p: number, q: number): Sector => {
      const [from, sweep] = wedge(p, q);
      const path = `M0 0L${point(from)}A${INNER} ${INNER} 0 ${sweep > Math.PI ? 1 : 0} 0 ${point(from + sweep)}Z`;
      return { kind, path, label: planeName(kind, projection.setup) };
    };
    return [sector('floor', edge.a, edge.b), sector('right', edge.a, edge.h), sector('left', edge.b, edge.h)];
  });

  /** The one that the Tab key stops at: the chosen plane, or the floor where a free plane is. */
  protected readonly stop = computed(() => {
    const { kind } = this.view.plane();
    return kind === 'free' ? 'floor' : kind;
  });

  /** As in any group of radios: arrow keys walk and choose, Space chooses. */
  protected press(event: KeyboardEvent, kind: AxisPlaneKind | 'sheet'): void {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1, Enter: 0, ' ': 0 }[event.key];
    if (by === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    const next = WALK[(WALK.indexOf(kind) + by + WALK.length) % WALK.length]!;
    this.view.setPlane(next);
    (event.currentTarget as Element).parentElement?.querySelector<SVGElement>(`[data-plane=${next}]`)?.focus();
  }
}
