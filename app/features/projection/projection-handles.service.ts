import { inject, Injectable } from '@angular/core';
import {
  BOX_CORNERS,
  cornerOf,
  degrees,
  dragTrialCorner,
  drawnAt,
  exactCells,
  horizonOf,
  moveCorner,
  moveHorizon,
  moveVanishingPoint,
  planeFromSheet,
  rollTo,
  scaleWorld,
  sheetFromWorld,
  trialCorner,
  vanishingPoints,
  type Axis,
  type ParallelSetup,
  type PerspectiveSetup,
  type Reference,
  type SheetPoint,
  type WorldPoint,
} from '@core';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import type { StageHandles } from '../../state/stage';
import { SteeringService } from '../../state/steering.service';
import { TrialService } from '../../state/trial.service';
import { TraceService } from '../../state/trace.service';
import type { SheetHandle } from '../../tools/handle';
import { AidsStore, type SteeredName } from '../../state/aids.store';
import { ViewStore } from '../../state/view.store';

/** Cells from the origin to the handle of a parallel axis. */
const AXIS_CELLS = 5;
const ORIGIN = { a: 0, b: 0, h: 0 };

/** Handles of the projection, of references and of the standing figure. */
@Injectable({ providedIn: 'root' })
export class ProjectionHandlesService implements StageHandles {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly aids = inject(AidsStore);
  private readonly pictures = inject(PictureService);
  private readonly steering = inject(SteeringService);
  private readonly trace = inject(TraceService);
  private readonly trials = inject(TrialService);

  handles(): readonly SheetHandle[] {
    const tool = this.view.tool();
    const handles: SheetHandle[] = [];
    if (tool === 'projection') {
      const setup = this.steering.setup();
      handles.push(...(setup.kind === 'perspective' ? this.perspective(setup) : this.parallel(setup)));
    }
    const reference = tool === 'trace' ? this.trace.reference() : null;
    if (reference && !reference.locked && !reference.hidden) handles.push(...this.reference(reference));
    // Only once it is given: in the middle of the picture it would be in the way of tracing.
    if (tool === 'trace' && this.aids.principal()) {
      handles.push({ name: 'principal point', at: this.trace.principal(), drag: (to) => this.aids.patch({ principal: to }) });
    }
    if (this.aids.figure()) handles.push(...this.figure());
    if (tool !== 'trace') handles.push(...this.trialBox());
    return handles;
  }

  /** The corners of the trial box, each dragged along the axis that leads to the pointer, and its foot, which moves it over its floor. */
  private trialBox(): SheetHandle[] {
    const trial = this.trials.trial();
    if (!trial) return [];
    const { projection } = this.pictures.geometry().sight;
    const { cell } = this.documents.shown().grid;
    const onSheet = (at: WorldPoint): SheetPoint | null => sheetFromWorld(projection, scaleWorld(at, cell));
    const handles = BOX_CORNERS.flatMap((corner): SheetHandle[] => {
      const at = onSheet(trialCorner(trial, corner));
      if (!at) return [];
      const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
        const kept = this.documents.kept().trial;
        const next = kept && dragTrialCorner(projection, kept, corner, to, cell, free);
        if (next) this.trials.put(next, 'resize the trial box', end);
      };
      const name = `trial corner ${corner.a ? 'far' : 'near'} a, ${corner.b ? 'far' : 'near'} b, ${corner.h ? 'top' : 'bottom'}`;
      return [{ name, at, quiet: 'point', drag }];
    });
    const foot = onSheet({ a: trial.at.a + trial.size.a / 2, b: trial.at.b + trial.size.b / 2, h: trial.at.h });
    if (!foot) return handles;
    const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
      const kept = this.documents.kept().trial;
      const under = kept && planeFromSheet(projection, { kind: 'floor', offset: kept.at.h }, cell, to);
      if (!under) return;
      const place = (value: number, size: number): number => (free ? exactCells(value - size / 2) : Math.round(value - size / 2));
      const at = { a: place(under.u, kept.size.a), b: place(under.v, kept.size.b), h: kept.at.h };
      this.trials.put({ ...kept, at }, 'move the trial box', end);
    };
    return [...handles, { name: 'trial box', at: foot, drag }];
  }

  private perspective(setup: PerspectiveSetup): SheetHandle[] {
    const points = vanishingPoints(setup);
    const handles: SheetHandle[] = [];
    const add = (name: string, key: SteeredName, at: SheetPoint, drag: (to: SheetPoint, how: 'dragging' | 'dragged') => void): void => {
      handles.push({ name, at, locked: this.aids.locks().includes(key), drag: (to, _free, end) => drag(to, end ? 'dragged' : 'dragging') });
    };
    const kept = (): PerspectiveSetup => {
      const projection = this.documents.kept().projection;
      return projection.kind === 'perspective' ? projection : setup;
    };
    for (const axis of ['a', 'b', 'h'] as const) {
      const p = points[axis];
      if (p.w === 0) continue;
      const name = `vanishing point ${axis}`;
      add(name, axis, p, (to, how) => this.steering.follow(moveVanishingPoint(kept(), axis, to), freedBy(axis, kept()), `move ${name}`, how));
    }
    const horizon = horizonOf(setup);
    if (horizon) {
      const { at, along } = horizon;
      // Where the horizon crosses the sheet, beside its left edge, so that it is at hand wherever the points are.
      const place = this.onSheet(at, along, 0.06);
      add('horizon', 'horizon', place, (to, how) => this.steering.follow(moveHorizon(kept(), to), ['horizon', 'a', 'b'], 'move the horizon', how));
      const roll = this.onSheet(at, along, 0.94);
      add('roll', 'roll', roll, (to, how) => {
        const { principal } = kept();
        const angle = (p: SheetPoint): number => degrees(Math.atan2(principal.y - p.y, p.x - principal.x));
        const rollDeg = kept().rollDeg + angle(to) - angle(this.onSheetOf(kept(), 0.94));
        this.steering.follow({ ok: true, setup: rollTo(kept(), rollDeg) }, ['roll', 'a', 'b', 'h', 'horizon', 'corner'], 'roll the picture', how);
      });
    }
    const corner = cornerOf(setup);
    if (corner) add('origin', 'corner', corner.at, (to, how) => this.steering.follow(moveCorner(kept(), to), ['corner'], 'move the origin', how));
    return handles;
  }

  private onSheetOf(setup: PerspectiveSetup, share: number): SheetPoint {
    const horizon = horizonOf(setup);
    return horizon ? this.onSheet(horizon.at, horizon.along, share) : setup.principal;
  }

  /** The point of a line at a share of the sheet's width; of a steep line, at a share of its height. */
  private onSheet(at: SheetPoint, along: SheetPoint, share: number): SheetPoint {
    const { width, height } = this.documents.shown().sheet;
    const t = Math.abs(along.x) >= Math.abs(along.y) ? (width * share - at.x) / along.x : (height * share - at.y) / along.y;
    return { x: at.x + along.x * t, y: at.y + along.y * t };
  }

  private parallel(setup: ParallelSetup): SheetHandle[] {
    const { projection } = this.pictures.geometry().sight;
    const origin = sheetFromWorld(projection, ORIGIN);
    if (!origin) return [];
    const put = (next: ParallelSetup, label: string, end: boolean): void => (end ? this.steering.set(next, label) : this.steering.show(next));
    const handles: SheetHandle[] = [{ name: 'origin', at: origin, drag: (to, _free, end) => put({ ...setup, origin: to }, 'move the origin', end) }];
    const length = AXIS_CELLS * this.documents.shown().grid.cell;
    for (const axis of axesByHand(setup)) {
      const v = drawnAt(projection, ORIGIN, axis);
      if (!v) continue;
      const at = { x: origin.x + v.x * length, y: origin.y + v.y * length };
      handles.push({
        name: `axis ${axis}`,
        at,
        drag: (to, free, end) => {
          const deg = degrees(Math.atan2(origin.y - to.y, to.x - origin.x));
          const reach = Math.hypot(to.x - origin.x, to.y - origin.y) / length;
          put(withAxis(setup, axis, free ? deg : Math.round(deg * 2) / 2, free ? reach : Math.round(reach * 20) / 20), `turn axis ${axis}`, end);
        },
      });
    }
    return handles;
  }

  private reference(reference: Reference): SheetHandle[] {
    const change = (next: Reference, end: boolean): void => {
      const edit = { kind: 'reference', reference: next } as const;
      if (end) this.documents.commit(edit, `move ${reference.name}`);
      else this.documents.show(edit);
    };
    const { x, y, width, height } = reference;
    return [
      {
        name: 'place',
        at: { x: x + width / 2, y: y + height / 2 },
        drag: (to, _f, end) => change({ ...reference, x: to.x - width / 2, y: to.y - height / 2 }, end),
      },
      {
        name: 'size',
        at: { x: x + width, y: y + height },
        drag: (to, _f, end) => {
          const k = Math.max(0.02, (to.x - x) / width, (to.y - y) / height);
          change({ ...reference, width: width * k, height: height * k }, end);
        },
      },
    ];
  }

  private figure(): SheetHandle[] {
    const { projection } = this.pictures.geometry().sight;
    const { cell } = this.documents.shown().grid;
    const { u, v } = this.aids.figureAt();
    const at = sheetFromWorld(projection, { a: u * cell, b: v * cell, h: 0 });
    if (!at) return [];
    const drag = (to: SheetPoint, free: boolean): void => {
      const p = planeFromSheet(projection, { kind: 'floor', offset: 0 }, cell, to);
      if (p && Math.hypot(p.u, p.v) < 2000) this.aids.patch({ figureAt: free ? p : { u: Math.round(p.u), v: Math.round(p.v) } });
    };
    return [{ name: 'figure', at, drag }];
  }
}

/** What a vanishing point takes along by the rule of its dragging. */
function freedBy(axis: Axis, setup: PerspectiveSetup): readonly SteeredName[] {
  const points = vanishingPoints(setup);
  return axis === 'b' && points.a.w === 0 && points.h.w === 0 ? ['b', 'horizon'] : [axis];
}

function axesByHand(setup: ParallelSetup): readonly Axis[] {
  return setup.kind === 'axonometric' ? ['a', 'b'] : setup.kind === 'oblique' ? ['b'] : ['a', 'h'];
}

/** A set-up with one axis drawn at an angle, and at a ratio where the family leaves it free. */
function withAxis(setup: ParallelSetup, axis: Axis, deg: number, ratio: number): ParallelSetup {
  const within = (value: number): number => Math.max(-89, Math.min(89, value));
  if (setup.kind === 'axonometric') {
    const turned = deg - setup.rollDeg;
    return axis === 'a' ? { ...setup, aDeg: within(turned) } : { ...setup, bDeg: within(turned < -90 ? -180 - turned : 180 - turned) };
  }
  const kept = Math.max(0.05, Math.min(3, ratio));
  if (setup.kind === 'oblique') return { ...setup, angleDeg: deg, ratio: kept };
  return axis === 'a' ? { ...setup, turnDeg: deg } : { ...setup, ratio: kept };
}
