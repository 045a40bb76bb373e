import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import {
  cornerOf,
  coneRadius,
  distanceTo,
  drawnPoints,
  EYE_HEIGHTS,
  eyeHeightTo,
  figure,
  horizonOf,
  moveCorner,
  moveHorizon,
  moveVanishingPoint,
  pointsOutside,
  realLength,
  rollTo,
  tiltTo,
  turnTo,
  vanishingPoints,
  viewAngleDeg,
  viewAngleTo,
  type Axis,
  type PerspectiveSetup,
  type SheetPoint,
} from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { SteeringService } from '../../state/steering.service';
import { AidsStore, type SteeredName } from '../../state/aids.store';
import { ViewStore } from '../../state/view.store';
import { LockedPointComponent } from './locked-point.component';

const ALL: readonly SteeredName[] = ['a', 'b', 'h', 'horizon', 'roll', 'corner'];

/** A perspective by its camera's numbers and by its points, each of which can be locked and brought into view. */
@Component({
  selector: 'chemin-perspective-values',
  imports: [LockedPointComponent, MeasureFieldComponent],
  templateUrl: './perspective-values.component.html',
  styleUrls: ['../../styles/bench.css', './perspective-values.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PerspectiveValuesComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly aids = inject(AidsStore);
  protected readonly steering = inject(SteeringService);
  protected readonly commands = inject(CommandsService);
  private readonly pictures = inject(PictureService);
  readonly setup = input.required<PerspectiveSetup>();

  protected readonly sheet = computed(() => this.store.shown().sheet);
  protected readonly viewDeg = computed(() => viewAngleDeg(this.setup().focal, this.sheet().width));
  protected readonly corner = computed(() => cornerOf(this.setup()));
  protected readonly horizon = computed(() => {
    const horizon = horizonOf(this.setup());
    if (!horizon || Math.abs(horizon.along.x) < 1e-6) return null;
    const { at, along } = horizon;
    // Its height over the sheet's middle.
    return { x: this.sheet().width / 2, y: at.y + ((this.sheet().width / 2 - at.x) * along.y) / along.x };
  });
  protected readonly points = computed(() => {
    const points = vanishingPoints(this.setup());
    return (['a', 'b', 'h'] as const).map((axis) => ({ axis, ...points[axis] }));
  });
  protected readonly real = computed(() => realLength(this.setup().eye.h, this.sheet().scale));
  protected readonly heights = computed(() => {
    const mm = 1000 / this.sheet().scale;
    return EYE_HEIGHTS.map(({ name, metres }) => ({
      name,
      height: metres * mm,
      words: `${figure(metres)}\u2009m`,
      on: Math.abs(this.setup().eye.h - metres * mm) < 0.01,
    }));
  });
  /** How much of the drawing lies outside the cone of vision. */
  protected readonly outside = computed(() => {
    const { sight } = this.pictures.geometry();
    const points = drawnPoints(this.store.shown(), this.pictures.geometry());
    const count = pointsOutside(sight.projection, points, this.setup().principal, coneRadius(this.setup()));
    return points.length > 0 && count > 0 ? Math.max(1, Math.round((100 * count) / points.length)) : 0;
  });

  protected number(what: 'eye' | 'distance' | 'view' | 'turn' | 'tilt' | 'roll', value: number): void {
    const setup = this.setup();
    switch (what) {
      case 'eye':
        return this.steering.follow(eyeHeightTo(setup, value), ['a', 'b', 'h', 'horizon'], 'set eye height', 'typed');
      case 'distance':
        return this.steering.follow(distanceTo(setup, value), [], 'set distance', 'typed');
      case 'view':
        return this.steering.follow(viewAngleTo(setup, value, this.sheet().width), ['a', 'b', 'h', 'horizon'], 'set angle of view', 'typed');
      case 'turn':
        return this.steering.follow(turnTo(setup, value), ['a', 'b'], 'set turn', 'typed');
      case 'tilt':
        return this.steering.follow(tiltTo(setup, value), ['a', 'b', 'h', 'horizon'], 'set tilt', 'typed');
      default:
        return this.steering.follow({ ok: true, setup: rollTo(setup, value) }, ALL, 'set roll', 'typed');
    }
  }

  protected shift(x: number, y: number): void {
    const setup = this.setup();
    const { width, height } = this.sheet();
    const principal = { x: width / 2 + x, y: height / 2 + y };
    this.steering.follow({ ok: true, setup: { ...setup, principal } }, ALL, 'shift the view', 'typed');
  }

  /** A typed coordinate of a vanishing point; a and b stay on the horizon, wherever that runs. */
  protected typePoint(axis: Axis, part: Partial<SheetPoint>): void {
    const setup = this.setup();
    const now = vanishingPoints(setup)[axis];
    const horizon = horizonOf(setup);
    let to = { x: part.x ?? now.x, y: part.y ?? now.y };
    if (axis !== 'h' && horizon && part.x !== undefined && Math.abs(horizon.along.x) > 1e-6) {
      to = { x: part.x, y: horizon.at.y + ((part.x - horizon.at.x) * horizon.along.y) / horizon.along.x };
    }
    const points = vanishingPoints(setup);
    const moves: readonly SteeredName[] = axis === 'b' && points.a.w === 0 ? ['b', 'horizon'] : [axis];
    this.steering.follow(moveVanishingPoint(setup, axis, to), moves, `move vanishing point ${axis}`, 'typed');
  }

  protected typeHorizon(y: number): void {
    const { horizon } = this;
    const x = horizon()?.x ?? 0;
    this.steering.follow(moveHorizon(this.setup(), { x, y }), ['horizon', 'a', 'b'], 'move the horizon', 'typed');
  }

  protected typeCorner(part: Partial<SheetPoint>): void {
    const at = this.corner()?.at;
    if (at) this.steering.follow(moveCorner(this.setup(), { ...at, ...part }), ['corner'], 'move the origin', 'typed');
  }
}
