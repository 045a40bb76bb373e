import type { Tool, ToolContext, ToolStep } from '../../tools/tool';
import type { WritingPlace } from './text-ground';

/** What is set for the solids that are drawn next. Lengths in cells. */
export interface BuildSettings {
  /** They stand on the face under the pointer, else on the chosen plane alone. */
  readonly onFaces: boolean;
  /** Their base is drawn from its middle, else from a corner. */
  readonly fromMiddle: boolean;
  /** Quarter turns within their box. */
  readonly turn: number;
  readonly sides: number;
  /** Steps: how many, or how high or deep each is. */
  readonly stepsBy: 'count' | 'rise' | 'run';
  readonly count: number;
  readonly rise: number;
  readonly run: number;
  /** The upper end of pyramids and cones, in parts of the base. */
  readonly top: number;
  /** Where the upper edge of a wedge is, in parts of its length. */
  readonly ridge: number;
  readonly wall: number;
  readonly bar: number;
  readonly pier: number;
  readonly crown: number;
  /** Openings: what is pressed in, and whether right through. */
  readonly openingShape: 'rectangle' | 'ellipse';
  readonly through: boolean;
  /** The next text runs along a line that is pressed. */
  readonly onLine: boolean;
  /** Where text is to begin; each press is another. */
  readonly writeAt: WritingPlace | null;
}

export type BuildTool<S> = Tool<S, BuildSettings>;
export type BuildContext = ToolContext<BuildSettings>;
export type BuildStep<S> = ToolStep<S, BuildSettings>;

/** What is set at first. */
export const USUAL_BUILD: BuildSettings = {
  onFaces: true,
  fromMiddle: false,
  turn: 0,
  sides: 6,
  stepsBy: 'count',
  count: 5,
  rise: 0.5,
  run: 1,
  top: 0,
  ridge: 1,
  wall: 0.5,
  bar: 1,
  pier: 1,
  crown: 1,
  openingShape: 'rectangle',
  through: false,
  onLine: false,
  writeAt: null,
};
