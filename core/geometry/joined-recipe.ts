import { boundsOf, type Body, type Surface } from './body';
import { partName } from './names';

/** How bodies are joined: all of them, the first without the others, or what all have in common. */
export const JOIN_KINDS = ['join', 'take away', 'overlap'] as const;

/** A way of joining bodies. */
export type JoinKind = (typeof JOIN_KINDS)[number];

/** A body that is joined with others, and the thing that it is of. */
export interface Part {
  readonly id: string;
  readonly body: Body;
}

/**
 * Joins bodies, each of which closes, for the thing with an id; null where nothing is left. Rejects where the kernel
 * cannot, with an `OvertakenError` where something newer for the same thing was asked for.
 * @param again whether it was overtaken before and is wanted still: it is no newer wish, so it overtakes nothing and is not overtaken
 */
export type Joiner = (parts: readonly Part[], how: JoinKind, id: string, again: boolean) => Promise<Body | null>;

/** What is joined: a group with its things in the order in which they count. */
export interface Joined {
  readonly id: string;
  readonly joined?: JoinKind;
  readonly children: readonly { readonly kind: string; readonly id: string; readonly hidden: boolean }[];
}

let joiner: Joiner | null = null;

/** Tells what joins bodies from now on: a kernel that works elsewhere, given by whoever starts it. */
export function joinWith(kernel: Joiner): void {
  joiner = kernel;
}

/** What some parts are joined to. Without a kernel it stays what it was. */
export function joinedParts(parts: readonly Part[], how: JoinKind, id: string, again: boolean): Promise<Body | null> {
  if (parts.length === 0) return Promise.resolve(null);
  if (parts.length === 1) return Promise.resolve(partsAsOne(parts));
  return joiner ? joiner(parts, how, id, again) : new Promise<never>(() => undefined);
}

/** Parts as they are, in one body: what is shown until they are joined for the first time. */
export function standIn(parts: readonly Part[], how: JoinKind): Body | null {
  return parts.length === 0 ? null : partsAsOne(how === 'join' ? parts : parts.slice(0, 1));
}

function partsAsOne(parts: readonly Part[]): Body {
  const surfaces = parts.flatMap(({ id, body }) => body.surfaces.map((surface) => ownedBy(id, surface)));
  const points = parts.flatMap(({ body }) => [...body.points]);
  const [only] = parts;
  return { surfaces, wires: [], points, bounds: boundsOf(points), closed: true, convex: parts.length === 1 && only!.body.convex };
}

/** A part's surface by the name that it has in what the part is joined to. */
export function ownedBy(id: string, surface: Surface): Surface {
  const own = (name: string): string => partName(id, name);
  return { ...surface, name: own(surface.name), also: surface.also.map(own), from: surface.from ?? { node: id, name: surface.name } };
}
