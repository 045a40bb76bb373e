import { laidSurface, type Caught, type Plane } from '@core';
import { catchPointer, caughtPlace } from '../../tools/catching';
import { groundAt } from '../../tools/ground';
import type { BuildContext, BuildTool } from './build-set';
import { lineGround, roundGround, type TextGround } from './text-ground';

export interface LetteringState {
  readonly plane: Plane | null;
  readonly onFace: boolean;
  readonly caught: Caught | null;
  /** The line or round side under the pointer. */
  readonly ground: TextGround | null;
}

/** Text begins where the plane, or the face or round side under the pointer, or a line of it, is pressed; what is typed then stands there. */
export const letteringTool: BuildTool<LetteringState> = {
  start: () => ({ plane: null, onFace: false, caught: null, ground: null }),
  step: (state, event, context) => {
    if (event.kind === 'key' || event.kind === 'typed') return { state };
    const { settings } = context;
    const flat = settings.onFaces && !settings.onLine ? groundAt(context, event.at) : null;
    const plane = flat?.plane ?? context.plane;
    const ground = settings.onLine ? lineGround(context, event.at) : settings.onFaces && !flat ? roundGround(context, event.at, event.free) : null;
    if (ground || settings.onLine) {
      const next = { plane: ground?.place.plane ?? plane, onFace: false, caught: null, ground };
      return event.kind === 'down' && ground ? { state: next, select: [], settings: { writeAt: ground.place, onLine: false } } : { state: next };
    }
    const caught = catchPointer(context.on(plane), event.at, [], { lock: false, free: event.free });
    const next = { plane, onFace: flat !== null, caught, ground: null };
    if (event.kind !== 'down' || !caught) return { state: next };
    const laid = flat?.seen && laidSurface(flat.seen.surface);
    const face = laid ? { box: laid.box, ...(flat.seen!.colour !== undefined && { colour: flat.seen!.colour }) } : null;
    return { state: next, select: [], settings: { writeAt: { plane, at: { u: caught.u, v: caught.v }, ...(face && { face }) } } };
  },
  ghost: ({ plane, onFace, caught, ground }, context: BuildContext) => {
    if (!plane) return null;
    const bare = { plane, caught: null, closed: false, closes: false, smooth: true } as const;
    if (ground) return { ...bare, points: ground.points, words: ['text begins here', ground.words] };
    if (context.settings.onLine) return { ...bare, points: [], words: ['Press an edge, a circle or a drawn line'] };
    if (!caught) return null;
    return { ...bare, caught, points: [], words: ['text begins here', caughtPlace(context, plane, caught), ...(onFace ? ['on the face'] : [])] };
  },
  fields: () => [],
};
