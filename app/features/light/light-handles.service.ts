import { inject, Injectable } from '@angular/core';
import {
  addWorld,
  cellsFromPlane,
  crossWorld,
  dotWorld,
  drawnBody,
  drawnNodes,
  exactCells,
  idsWithin,
  pickAt,
  planeFrame,
  planeOfSurface,
  scaleWorld,
  sheetFromWorld,
  subtractWorld,
  sunDirection,
  sunOf,
  worldFromPlane,
  worldPoints,
  type Body,
  type Facet,
  type Plane,
  type PlanePoint,
  type SheetPoint,
  type WorldPoint,
} from '@core';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import type { StageHandles } from '../../state/stage';
import { ViewStore } from '../../state/view.store';
import { ArrangingService } from '../../state/arranging.service';
import { catchPointer } from '../../tools/catching';
import type { SheetHandle } from '../../tools/handle';
import { lightWithLamp } from './lamp.tool';
import { lightThrowing } from './shadow-end.tool';

/** Least height of a sun, as a part of the way to it, whose shadows are dragged by their ends. */
const LOWEST = 0.02;
/** Most corners of which the one to hold is chosen. */
const MOST_CORNERS = 40;

interface Held {
  readonly from: WorldPoint;
  readonly end: WorldPoint;
  readonly ground: Plane;
}

/** Where a shadow falls: the place, its plane and the thing that it is on. */
interface Met {
  readonly end: WorldPoint;
  readonly ground: Plane;
  readonly owner: string | null;
}

/** The flat face that the light past a place meets next; null where it meets none. */
function thrownOn(bodies: readonly { readonly body: Body; readonly owner: string }[], from: WorldPoint, towards: WorldPoint): Met | null {
  let best: (Met & { readonly way: number }) | null = null;
  for (const { body, owner } of bodies) {
    for (const surface of body.surfaces) {
      if (surface.form.kind !== 'flat') continue;
      const { origin, normal } = surface.form.frame;
      const along = dotWorld(normal, towards);
      const way = dotWorld(subtractWorld(from, origin), normal) / along;
      if (!(along > 1e-9) || !(way > 1e-6) || (best && way >= best.way)) continue;
      const end = addWorld(from, scaleWorld(towards, -way));
      const ground = surface.facets.some((facet) => facetHolds(facet, end)) ? planeOfSurface(surface) : null;
      if (ground) best = { end, ground, owner, way };
    }
  }
  return best;
}

/** Whether a place of a convex facet's plane lies in it. */
function facetHolds({ corners, normal }: Facet, at: WorldPoint): boolean {
  const points = worldPoints(corners);
  return points.every((p, i) => dotWorld(crossWorld(subtractWorld(points[(i + 1) % points.length]!, p), subtractWorld(at, p)), normal) >= 0);
}

/** A place of any plane in space, in cells. */
const placeOnPlane = (plane: Plane, at: PlanePoint): WorldPoint => worldFromPlane(planeFrame(plane, 1)!, at);

/** The lamp, or the end of the shadow of the highest corner of what is selected, as handles. */
@Injectable({ providedIn: 'root' })
export class LightHandlesService implements StageHandles {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);
  private readonly arranging = inject(ArrangingService);

  handles(current: boolean): readonly SheetHandle[] {
    if (!current || this.view.tool() !== 'pick') return [];
    const { light } = this.documents.shown();
    if (light.lamp) {
      const at = this.onSheet(light.lamp.at);
      return at ? [{ name: 'lamp', at, drag: (to, free, end) => this.dragLamp(to, free, end) }] : [];
    }
    if (!light.shadows?.on) return [];
    // A drag that was broken off leaves nothing behind.
    if (this.documents.shown() === this.documents.kept()) this.dragged = null;
    const held = this.dragged ?? this.held();
    const end = held && (this.dragged ? this.endOf(this.dragged) : held.end);
    const at = end && this.onSheet(end);
    return at ? [{ name: 'shadow', at, drag: (to, free, done) => this.dragShadow(held, to, free, done) }] : [];
  }

  private onSheet(at: WorldPoint): SheetPoint | null {
    return sheetFromWorld(this.pictures.geometry().view.sight.projection, at);
  }

  /**
   * The corner whose shadow is held: the highest of what is selected, else of everything, whose shadow falls where it is
   * seen; and where that is.
   */
  private held(): { readonly from: WorldPoint; readonly end: WorldPoint; readonly ground: Plane } | null {
    const document = this.documents.shown();
    const towards = sunDirection(sunOf(document));
    if (towards.h < LOWEST) return null;
    const ids = new Set(this.arranging.nodes().flatMap(idsWithin));
    const drawn = drawnNodes(document).filter(({ hidden, node }) => !hidden && node.kind !== 'placement');
    const bodies = drawn.flatMap((one) => {
      const body = drawnBody(one);
      return body ? [{ body, owner: one.owner }] : [];
    });
    const corners = bodies.flatMap(({ body, owner }) => (ids.size === 0 || ids.has(owner) ? worldPoints(body.points) : []));
    const highest = [...corners].sort((p, q) => q.h - p.h).slice(0, MOST_CORNERS);
    const picture = this.pictures.picture();
    for (const from of highest) {
      const met = thrownOn(bodies, from, towards) ?? this.onFloor(from, towards);
      const on = met && this.onSheet(met.end);
      if (met && on && (pickAt(picture, on, 0)?.node ?? null) === met.owner) return { from, end: met.end, ground: met.ground };
    }
    const [from] = highest;
    const floor = from && this.onFloor(from, towards);
    return floor ? { from, end: floor.end, ground: floor.ground } : null;
  }

  private onFloor(from: WorldPoint, towards: WorldPoint): Met | null {
    const ground: Plane = { kind: 'floor', offset: exactCells(this.documents.kept().light.shadows?.floor ?? 0) };
    return from.h > ground.offset ? { end: addWorld(from, scaleWorld(towards, -(from.h - ground.offset) / towards.h)), ground, owner: null } : null;
  }

  /** While it is dragged, a shadow stays that of one corner on one plane. */
  private dragged: Held | null = null;

  private endOf({ from, ground }: Held): WorldPoint | null {
    const towards = sunDirection(sunOf(this.documents.shown()));
    const frame = planeFrame(ground, 1)!;
    const along = dotWorld(towards, frame.normal);
    return along === 0 ? null : addWorld(from, scaleWorld(towards, -dotWorld(subtractWorld(from, frame.origin), frame.normal) / along));
  }

  private dragShadow(held: Held, to: SheetPoint, free: boolean, end: boolean): void {
    this.dragged = end ? null : held;
    const caught = catchPointer(this.pictures.planeContext(held.ground), to, [], { lock: false, free });
    const thrown = caught && lightThrowing(this.documents.kept(), held.from, placeOnPlane(held.ground, caught));
    if (!thrown) return end ? this.documents.show(null) : undefined;
    const edit = { kind: 'light', light: thrown.light } as const;
    if (end) this.documents.commit(edit, 'set where a shadow falls');
    else this.documents.show(edit);
  }

  /** A lamp is dragged about at its height; a number lifts it. */
  private dragLamp(to: SheetPoint, free: boolean, end: boolean): void {
    const kept = this.documents.kept();
    const { lamp } = kept.light;
    if (!lamp) return;
    const plane: Plane = { kind: 'floor', offset: exactCells(lamp.at.h) };
    const caught = catchPointer(this.pictures.planeContext(plane), to, [], { lock: false, free });
    if (!caught) return end ? this.documents.show(null) : undefined;
    const edit = { kind: 'light', light: lightWithLamp(kept, cellsFromPlane(plane, caught)) } as const;
    if (end) this.documents.commit(edit, 'move the lamp');
    else this.documents.show(edit);
  }
}
