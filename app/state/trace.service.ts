import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { orthographicRatios, withPointAt, type ProjectionSetup, type Reference, type SheetPoint, type Stroke } from '@core';
import { type SolveOptions } from '@later';
import type { StrokeMiss, StrokeSolution } from '@later';
import type { SolveWorker } from '../../workers/solve.worker';
import { startSolveWorker } from '../platform/start-solve-worker';
import { SupersededError, WorkerRunner, WorkerStoppedError } from '../platform/worker-runner';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { SteeringService } from './steering.service';
import { AidsStore } from './aids.store';
import { ViewStore } from './view.store';

/** Longest time in ms that reading the strokes may take. */
const LIMIT_MS = 30_000;

/** Strokes traced over a picture, and the projection that they tell. */
@Injectable({ providedIn: 'root' })
export class TraceService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly aids = inject(AidsStore);
  private readonly steering = inject(SteeringService);
  private readonly messages = inject(MessageStore);
  private readonly runner = new WorkerRunner<SolveWorker>(startSolveWorker, LIMIT_MS);

  readonly strokes = computed(() => this.documents.shown().strokes);

  /** The reference that is chosen, or the last one. */
  readonly reference = computed((): Reference | null => {
    const { references } = this.documents.shown();
    return references.find((r) => r.id === this.aids.reference()) ?? references.at(-1) ?? null;
  });

  /** The middle of the picture that is traced, in mm of the sheet. */
  readonly middle = computed((): SheetPoint => {
    const reference = this.reference();
    const { sheet } = this.documents.shown();
    return reference ? { x: reference.x + reference.width / 2, y: reference.y + reference.height / 2 } : { x: sheet.width / 2, y: sheet.height / 2 };
  });
  /** Where the principal point is given or, without that, taken to lie. */
  readonly principal = computed((): SheetPoint => this.aids.principal() ?? this.middle());

  /** What is to be solved now. */
  private readonly asked = computed(() => {
    const strokes = this.strokes();
    if (strokes.length === 0) return null;
    const document = this.documents.shown();
    const reference = this.reference();
    const bitmap = reference && document.bitmaps.find((b) => b.id === reference.bitmap);
    const options: SolveOptions = {
      as: this.aids.traceAs(),
      centre: this.middle(),
      principal: this.aids.principal(),
      width: reference?.width ?? document.sheet.width,
      mmPerPx: reference && bitmap ? reference.width / bitmap.width : 25.4 / 96,
    };
    return { strokes, options };
  });
  private readonly solved = signal<StrokeSolution | null>(null);
  private readonly pending = signal(false);
  /** What the strokes tell; while they are being read anew, what they told before. */
  readonly solution = this.solved.asReadonly();
  /** Whether the strokes are being read. */
  readonly solving = this.pending.asReadonly();

  constructor() {
    effect(() => {
      const asked = this.asked();
      untracked(() => void this.solve(asked));
    });
  }

  private async solve(asked: { readonly strokes: readonly Stroke[]; readonly options: SolveOptions } | null): Promise<void> {
    this.runner.supersede('solve');
    this.pending.set(asked !== null);
    if (!asked) return this.solved.set(null);
    let solution: StrokeSolution;
    try {
      solution = await this.runner.run('solve', [asked.strokes, asked.options], { kind: 'solve' });
    } catch (error) {
      if (error instanceof SupersededError) return;
      if (error instanceof WorkerStoppedError) this.messages.say('bad', 'The traced edges could not be read', [`${error.message}. Fewer edges may do.`]);
      // Where there is no worker, the page reads them itself.
      solution =
        error instanceof WorkerStoppedError ? { ok: false, missing: ['another try'] } : (await import('@later')).solveStrokes(asked.strokes, asked.options);
    }
    if (this.asked() !== asked) return;
    this.solved.set(solution);
    this.pending.set(false);
  }

  readonly misses = computed((): ReadonlyMap<string, StrokeMiss> => {
    const solution = this.solution();
    return new Map(solution?.ok ? solution.misses.map((miss) => [miss.id, miss]) : []);
  });

  /** The set-up that the strokes tell, its nearest corner at the foot of an upright. */
  readonly told = computed((): ProjectionSetup | null => {
    const solution = this.solution();
    if (!solution?.ok || this.strokes().length === 0) return null;
    const origin = this.corner();
    if (solution.camera) {
      const chosen = solution.as === 'one' ? 'one-point' : solution.as === 'two' ? 'two-point' : 'three-point';
      const setup = { kind: 'perspective', chosen, ...solution.camera, eye: { a: 0, b: 0, h: 0 } } as const;
      return withPointAt(setup, { a: 0, b: 0, h: 0 }, origin, setup.focal);
    }
    const { aDeg, bDeg, rollDeg } = solution.parallel!;
    const method = orthographicRatios(aDeg, 180 - bDeg, 90).ok ? 'orthographic' : 'parallel';
    return { kind: 'axonometric', chosen: 'axonometric', aDeg, bDeg, rollDeg, method, measure: 'drawing', origin };
  });

  adopt(): void {
    const setup = this.told();
    if (!setup) return;
    this.steering.set(setup, 'projection from the picture');
    this.view.setTool('projection');
  }

  change(strokes: readonly Stroke[], label: string): void {
    this.documents.commit({ kind: 'strokes', strokes: [...strokes] }, label);
  }

  /** Where the nearest corner is taken to be: the lowest foot of an upright; else the lowest end of any stroke. */
  private corner(): SheetPoint {
    const strokes = this.strokes();
    const uprights = strokes.filter((s) => s.axis === 'h');
    const ends = (uprights.length > 0 ? uprights : strokes).flatMap((s) => [s.from, s.to]);
    return ends.reduce((lowest, p) => (p.y > lowest.y ? p : lowest));
  }
}
