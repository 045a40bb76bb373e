import { type Caught, type Plane, type PlanePoint } from '@core';
import { catchPointer, caughtPlace } from '../../tools/catching';
import { groundAt, type Ground } from '../../tools/ground';
import type { BuildContext, BuildTool } from './build-set';

export interface LetteringState {
  readonly plane: Plane | null;
  readonly onFace: boolean;
  readonly caught: Caught | null;
}

/** A place where text is to begin. */
export interface WritingPlace {
  readonly plane: Plane;
  readonly at: PlanePoint;
}

/** Text begins where the plane, or the face under the pointer, is pressed; what is typed then stands there. */
export const letteringTool: BuildTool<LetteringState> = {
  start: () => ({ plane: null, onFace: false, caught: null }),
  step: (state, event, context) => {
    if (event.kind === 'key' || event.kind === 'typed') return { state };
    const ground: Ground | null = context.settings.onFaces ? groundAt(context, event.at) : null;
    const plane = ground?.plane ?? context.plane;
    const caught = catchPointer(context.on(plane), event.at, [], { lock: false, free: event.free });
    const next = { plane, onFace: ground !== null, caught };
    if (event.kind !== 'down' || !caught) return { state: next };
    return { state: next, select: [], settings: { writeAt: { plane, at: { u: caught.u, v: caught.v } } } };
  },
  ghost: ({ plane, onFace, caught }, context: BuildContext) =>
    plane && caught
      ? { plane, caught, points: [], closed: false, closes: false, words: ['text begins here', caughtPlace(context, plane, caught), ...(onFace ? ['on the face'] : [])] } // prettier-ignore
      : null,
  fields: () => [],
};
