import { solveStrokes, type StrokeSolution } from '../core/projection/solve-strokes';
import type { SolveOptions, TracedStroke } from '../core/projection/stroke-lines';
import { offer } from './offer';

/** Reads projections out of traced edges away from the page. */
const api = { solve: (strokes: readonly TracedStroke[], options: SolveOptions): StrokeSolution => solveStrokes(strokes, options) };

export type SolveWorker = typeof api;

offer(api);
