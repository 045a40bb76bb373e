import { inject, Injectable, signal } from '@angular/core';
import { linesInPlane, planeKey, regionsOf, type CheminDocument, type Outline, type Plane, type Regions } from '@core';
import { AreasService } from '../platform/areas.service';
import { WorkerStoppedError } from '../platform/worker-runner';
import { MessageStore } from '../platform/messages.store';

/** The regions of a plane, or those found before while they are found anew. */
export interface FoundRegions extends Regions {
  readonly pending: boolean;
}

/** Points of lines up to which regions are found on the page, within a frame. */
const FEW = 150;
const NONE: Regions = { regions: [], looseEnds: [] };

/** Finds the regions that the lines lying in a plane enclose: once for the same lines, away from the page where they are many. */
@Injectable({ providedIn: 'root' })
export class RegionsService {
  private readonly messages = inject(MessageStore);
  private readonly areas = inject(AreasService);
  /** By plane: what was found last, and among which lines. */
  private readonly known = new Map<string, { readonly lines: readonly Outline[]; readonly regions: Regions }>();
  private readonly asked = new Map<string, readonly Outline[]>();
  /** Grows whenever something was found away from the page. */
  private readonly arrivals = signal(0);

  on(document: CheminDocument, plane: Plane): FoundRegions {
    this.arrivals();
    const lines = linesInPlane(document, plane);
    const key = planeKey(plane);
    const last = this.known.get(key);
    if (last && sameLines(last.lines, lines)) return { ...last.regions, pending: false };
    if (lines.reduce((sum, line) => sum + line.points.length, 0) <= FEW) {
      const regions = regionsOf(lines);
      this.known.set(key, { lines, regions });
      return { ...regions, pending: false };
    }
    const asked = this.asked.get(key);
    if (!asked || !sameLines(asked, lines)) void this.find(key, lines);
    return { ...(last?.regions ?? NONE), pending: true };
  }

  private async find(key: string, lines: readonly Outline[]): Promise<void> {
    this.asked.set(key, lines);
    let regions: Regions;
    try {
      regions = await this.areas.regions(lines, key);
    } catch (error) {
      if (!(error instanceof WorkerStoppedError)) return;
      this.messages.say('bad', 'The regions could not be found', [`${error.message}. Hide lines that do not belong to them.`]);
      regions = NONE;
    }
    this.known.set(key, { lines, regions });
    this.arrivals.update((n) => n + 1);
  }
}

function sameLines(p: readonly Outline[], q: readonly Outline[]): boolean {
  return p.length === q.length && p.every((line, i) => line === q[i]);
}
