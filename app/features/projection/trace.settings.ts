import { computed, inject, Injectable } from '@angular/core';
import type { CameraAngles } from '@core';
import { TraceService } from '../../state/trace.service';
import type { ToolSettings } from '../../state/stage';

/** What tracing is told. */
export interface TraceSettings {
  /** The camera that the strokes tell so far, for guessing the axis of the next. */
  readonly traced: CameraAngles | null;
}

@Injectable({ providedIn: 'root' })
export class TraceToolSettings implements ToolSettings<TraceSettings> {
  private readonly trace = inject(TraceService);

  readonly current = computed((): TraceSettings => {
    const solution = this.trace.solution();
    return { traced: solution?.ok ? solution.camera : null };
  });

  /** Strokes alone change it. */
  patch(): void {
    return undefined;
  }
}
