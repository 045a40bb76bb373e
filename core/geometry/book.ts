import { keptByName } from '../math/keep';
import type { Body } from './body';
import { depthBody, type Extruded } from './depth-recipe';
import { joinedParts, standIn, type Joined, type Part } from './joined-recipe';
import { movedBody } from './moved-body';
import { placementBody, type Placed } from './placement-recipe';
import { rigidMap } from './rigid';
import { shiftBetween } from './shift';

/** What has a place in space by itself: shapes, placements, and groups whose solids are one. */
export type SpaceNode =
  | ({ readonly kind: 'shape'; readonly id: string } & Extruded)
  | ({ readonly kind: 'placement'; readonly id: string } & Placed)
  | ({ readonly kind: 'group' } & Joined);

/** What a recipe gives: a body at once, null for what has no place in space, or later where a kernel works elsewhere. */
export type Made = Body | null | Pending;

/** A body that is being made, and what stands for it where there was none before, from what is known when it is asked. */
export interface Pending {
  readonly body: Promise<Body | null>;
  readonly meanwhile: () => Body | null;
}

/** How a kind of node becomes a body, the book being asked for what it is made of. */
export type Recipe<N, All extends Named> = (node: N, book: GeometryBook<All>) => Made;

interface Named {
  readonly kind: string;
  readonly id: string;
}

/** The recipes by the kinds of nodes. */
export type Recipes<N extends Named> = { readonly [K in N['kind']]: Recipe<Extract<N, { kind: K }>, N> };

const RECIPES: Recipes<SpaceNode> = { shape: depthBody, placement: placementBody, group: joinedGroup };

/**
 * What the book knows of a node. Ready: its body. Pending: it is being made, and the last good body of the thing stands for
 * it, or what its recipe gives meanwhile. Overtaken: nobody made it, since something newer was asked for first; it is asked
 * for again when it is wanted. Failed: it cannot be made, and what its recipe gives meanwhile stands for it.
 */
export interface Evaluated {
  readonly state: 'ready' | 'pending' | 'overtaken' | 'failed';
  readonly body: Body | null;
  /** Why it could not be made. */
  readonly reason?: string;
}

/** Thrown by a kernel that was not given the time for a body: something newer was asked for. */
export class OvertakenError extends Error {
  constructor() {
    super('A newer request took its place.');
  }
}

/** Most things whose last good bodies are remembered. */
const MOST_LAST = 500;

/** The last good body of a thing that a kernel makes, and the node that it is of. */
interface LastGood<N> {
  readonly node: N;
  readonly body: Body | null;
}

/**
 * The geometry book: what nodes evaluate to. It is kept outside the data, by the immutable nodes themselves, and asked
 * by everyone who wants a surface; dropping it loses nothing. A recipe that takes its time leaves the last good body of
 * the node with the same id to be shown meanwhile.
 */
export class GeometryBook<N extends Named> {
  private readonly known = new WeakMap<N, Evaluated>();
  private readonly waiting = new WeakMap<N, Promise<void>>();
  private last = lastBodies<N>();
  private readonly listeners = new Set<() => void>();

  constructor(private readonly recipes: Recipes<N>) {}

  /** What a node evaluates to now. */
  of(node: N): Evaluated {
    const known = this.known.get(node);
    if (known && known.state !== 'overtaken') return known;
    const made = this.recipes[node.kind as N['kind']](node as Extract<N, { kind: N['kind'] }>, this);
    const pending = made !== null && 'meanwhile' in made;
    const evaluated: Evaluated = pending ? { state: 'pending', body: this.lastOf(node.id)?.body ?? made.meanwhile() } : { state: 'ready', body: made };
    this.known.set(node, evaluated);
    if (pending) this.waiting.set(node, this.finish(node, made));
    return evaluated;
  }

  /** Whether a node was overtaken when it was asked for before: it is in nobody's way now, and nobody's newer wish. */
  wasOvertaken(node: N): boolean {
    return this.known.get(node)?.state === 'overtaken';
  }

  /** The last node with an id whose body took its time, and that body. */
  lastOf(id: string): LastGood<N> | null {
    return this.last(id).good;
  }

  /** Forgets the last good bodies: another drawing is looked at, whose things may have the same ids. */
  turnTo(): void {
    this.last = lastBodies<N>();
  }

  /** What is known of a node once it is made or cannot be; one that was overtaken is asked for again. */
  async settled(node: N): Promise<Evaluated> {
    for (;;) {
      const evaluated = this.of(node);
      if (evaluated.state !== 'pending') return evaluated;
      await this.waiting.get(node);
    }
  }

  /** Calls back whenever something that was pending is known. @returns what ends that */
  listen(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  private async finish(node: N, { body, meanwhile }: Pending): Promise<void> {
    // What is finished after another drawing was opened is no last good body of that one.
    const { last } = this;
    try {
      const made = await body;
      this.known.set(node, { state: 'ready', body: made });
      last(node.id).good = { node, body: made };
    } catch (error) {
      if (error instanceof OvertakenError) this.known.set(node, { state: 'overtaken', body: meanwhile() });
      else this.known.set(node, { state: 'failed', body: meanwhile(), reason: error instanceof Error ? error.message : String(error) });
    }
    for (const listener of this.listeners) listener();
  }
}

/** Room for the last good bodies of things by their ids. */
const lastBodies = <N>(): ((id: string) => { good: LastGood<N> | null }) =>
  keptByName<string, [], { good: LastGood<N> | null }>(MOST_LAST, () => ({ good: null }));

/** A group whose solids are one; null for any other, whose things have bodies of their own. */
function joinedGroup(node: Joined & { readonly kind: 'group' }, book: GeometryBook<SpaceNode>): Made {
  const { joined } = node;
  if (!joined) return null;
  const before = book.lastOf(node.id);
  const shift = before?.body && before.node.kind === 'group' && before.node.joined === joined ? shiftBetween(before.node.children, node.children) : null;
  // What was only moved need not be joined anew: while it is dragged, it follows at once.
  if (shift) return movedBody(before!.body!, rigidMap({ by: shift }));
  const sources = partNodes(node);
  const now = (body: (part: SpaceNode) => Body | null): readonly Part[] =>
    sources.flatMap((part) => {
      const made = body(part);
      return made?.closed ? [{ id: part.id, body: made }] : [];
    });
  const again = book.wasOvertaken(node);
  const join = (evaluated: readonly Evaluated[]): Promise<Body | null> => {
    // What a part that could not be made is joined to would not be what is asked for.
    const failed = evaluated.find(({ state }) => state === 'failed');
    if (failed) return Promise.reject(new Error(failed.reason));
    return joinedParts(now((part) => evaluated[sources.indexOf(part)]!.body), joined, node.id, again); // prettier-ignore
  };
  const evaluated = sources.map((part) => book.of(part));
  const meanwhile = (): Body | null =>
    standIn(
      now((part) => book.of(part).body),
      joined,
    );
  const waits = evaluated.some(({ state }) => state === 'pending');
  return { body: waits ? Promise.all(sources.map((part) => book.settled(part))).then(join) : join(evaluated), meanwhile };
}

/** Whether something is a solid that a joined group makes one with others. */
export function isPart(node: { readonly kind: string; readonly hidden: boolean }): boolean {
  if (node.hidden) return false;
  if (node.kind === 'group') return (node as unknown as Joined).joined !== undefined;
  return node.kind === 'shape' && (node as unknown as Extruded).depth !== 0 && bodyOf(node as unknown as SpaceNode)?.closed === true;
}

/** The solids of a joined group in their order, those in plain groups within it too; hidden ones do not count. */
export function partNodes({ children }: Joined): readonly SpaceNode[] {
  return children.flatMap((child): readonly SpaceNode[] => {
    if (isPart(child)) return [child as unknown as SpaceNode];
    return child.kind === 'group' && !child.hidden ? partNodes(child as unknown as Joined) : [];
  });
}

/** The book of everything that a document can hold. */
export const geometry = new GeometryBook<SpaceNode>(RECIPES);

/** The body of a node: what stands for it while it is not ready; null where it has no place in space. */
export function bodyOf(node: SpaceNode): Body | null {
  return geometry.of(node).body;
}
