import type { Body } from './body';
import { depthBody, type Extruded } from './depth-recipe';
import { placementBody, type Placed } from './placement-recipe';

/** What has a place in space by itself. */
export type SpaceNode = ({ readonly kind: 'shape'; readonly id: string } & Extruded) | ({ readonly kind: 'placement'; readonly id: string } & Placed);

/** How a kind of node becomes a body: at once, or later where a kernel works elsewhere; null for what has no place in space. */
export type Recipe<N> = (node: N) => Body | null | Promise<Body | null>;

/** The recipes by the kinds of nodes. */
export type Recipes<N extends { readonly kind: string }> = { readonly [K in N['kind']]: Recipe<Extract<N, { kind: K }>> };

const RECIPES: Recipes<SpaceNode> = { shape: depthBody, placement: placementBody };

/** What the book knows of a node: its body, or the last good one while the present one is being made. */
export interface Evaluated {
  readonly state: 'ready' | 'pending' | 'failed';
  readonly body: Body | null;
}

/**
 * The geometry book: what nodes evaluate to. It is kept outside the data, by the immutable nodes themselves, and asked
 * by everyone who wants a surface; dropping it loses nothing. A recipe that takes its time leaves the last good body of
 * the node with the same id to be shown meanwhile.
 */
export class GeometryBook<N extends { readonly kind: string; readonly id: string }> {
  private readonly known = new WeakMap<N, Evaluated>();
  private readonly last = new Map<string, Body | null>();
  private readonly listeners = new Set<() => void>();

  constructor(private readonly recipes: Recipes<N>) {}

  /** What a node evaluates to now. */
  of(node: N): Evaluated {
    const known = this.known.get(node);
    if (known) return known;
    const made = this.recipes[node.kind as N['kind']](node as Extract<N, { kind: N['kind'] }>);
    const evaluated: Evaluated = made instanceof Promise ? { state: 'pending', body: this.last.get(node.id) ?? null } : { state: 'ready', body: made };
    this.known.set(node, evaluated);
    if (made instanceof Promise) void this.finish(node, made, evaluated.body);
    return evaluated;
  }

  /** Calls back whenever something that was pending is known. @returns what ends that */
  listen(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  private async finish(node: N, made: Promise<Body | null>, meanwhile: Body | null): Promise<void> {
    let evaluated: Evaluated;
    try {
      evaluated = { state: 'ready', body: await made };
      this.last.set(node.id, evaluated.body);
    } catch {
      evaluated = { state: 'failed', body: meanwhile };
    }
    this.known.set(node, evaluated);
    for (const listener of this.listeners) listener();
  }
}

/** The book of everything that a document can hold. */
export const geometry = new GeometryBook<SpaceNode>(RECIPES);

/** The body of a node: the last good one while it is pending; null where it has no place in space. */
export function bodyOf(node: SpaceNode): Body | null {
  return geometry.of(node).body;
}
