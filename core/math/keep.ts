/** What something is made from, in a fixed order. */
export type Inputs = readonly unknown[];

/**
 * Whether two lists of inputs are the same: each is the same value or object as the other, lists within them element by
 * element, however deep. Objects that are not lists are only ever the same as themselves: immutable data keeps its identity
 * as long as nothing of it changes.
 */
export function sameInputs(p: Inputs, q: Inputs): boolean {
  if (p === q) return true;
  if (p.length !== q.length) return false;
  for (let i = 0; i < p.length; i++) {
    const [a, b] = [p[i], q[i]];
    if (Object.is(a, b)) continue;
    if (!Array.isArray(a) || !Array.isArray(b) || !sameInputs(a, b)) return false;
  }
  return true;
}

interface Entry<V> {
  readonly inputs: Inputs;
  readonly value: V;
  /** It is good enough for a frame of a gesture alone. */
  readonly draft: boolean;
}

/**
 * Something that is made from its inputs, and made again only when one of them is another.
 * @param make is given the inputs and may depend on nothing else that changes
 */
export function kept<I extends Inputs, V>(make: (...inputs: I) => V): (...inputs: I) => V {
  let entry: Entry<V> | null = null;
  return (...inputs) => {
    if (!entry || !sameInputs(entry.inputs, inputs)) entry = { inputs, value: make(...inputs), draft: false };
    return entry.value;
  };
}

/**
 * The same for each of many objects: what is made for one goes when the object goes.
 * @param make is given the object and the further inputs and may depend on nothing else that changes
 */
export function keptBy<K extends object, I extends Inputs, V>(make: (key: K, ...inputs: I) => V): (key: K, ...inputs: I) => V {
  const entries = new WeakMap<K, Entry<V>>();
  return (key, ...inputs) => {
    let entry = entries.get(key);
    if (!entry || !sameInputs(entry.inputs, inputs)) entries.set(key, (entry = { inputs, value: make(key, ...inputs), draft: false }));
    return entry.value;
  };
}

/** The same for each pair of objects: what is made for two goes when either goes. */
export function keptByPair<K extends object, L extends object, V>(make: (key: K, other: L) => V): (key: K, other: L) => V {
  const within = keptBy((key: K) => keptBy((other: L) => make(key, other)));
  return (key, other) => within(key)(other);
}

/**
 * The same for each of many names, of which the last that were asked for are remembered.
 * @param most how many
 */
export function keptByName<K extends string | number, I extends Inputs, V>(most: number, make: (name: K, ...inputs: I) => V): (name: K, ...inputs: I) => V {
  const entries = new Map<K, Entry<V>>();
  return (name, ...inputs) => {
    let entry = entries.get(name);
    if (!entry || !sameInputs(entry.inputs, inputs)) entry = { inputs, value: make(name, ...inputs), draft: false };
    entries.delete(name);
    entries.set(name, entry);
    if (entries.size > most) entries.delete(entries.keys().next().value!);
    return entry.value;
  };
}

/**
 * The same for things that a key tells apart, whatever objects they are, of which the last that were asked for are remembered.
 * @param keyOf tells everything that is made of a thing
 */
export function keptByKey<T, V>(most: number, keyOf: (thing: T) => string, make: (thing: T) => V): (thing: T) => V {
  let asked: T;
  const byKey = keptByName<string, [], V>(most, () => make(asked));
  return (thing) => {
    asked = thing;
    return byKey(keyOf(thing));
  };
}

/**
 * Things that are made in rounds, such as once a picture: each from its inputs, and again only when one of them is another.
 * What a round did not ask for is forgotten at its end; a round that is given up leaves what was there before it.
 */
export class Rounds<K, V> {
  private before = new Map<K, Entry<V>>();
  private now = new Map<K, Entry<V>>();

  begin(): void {
    this.now = new Map();
  }

  /**
   * What is kept for a key, where it was made from the same inputs, or else what is made now.
   * @param draft whether what is good enough for a frame will do, and whether what is made now is no more than that
   */
  of(key: K, inputs: Inputs, make: () => V, draft = false): V {
    const known = this.now.get(key) ?? this.before.get(key);
    const stays = known && (draft || !known.draft) && sameInputs(known.inputs, inputs);
    const entry = stays ? known : { inputs, value: make(), draft };
    this.now.set(key, entry);
    return entry.value;
  }

  /** What was kept for a key in the round before, for who knows that none of its inputs can be another; null where there is none so fine. */
  again(key: K, draft = false): { readonly value: V } | null {
    const known = this.before.get(key);
    if (!known || (known.draft && !draft)) return null;
    this.now.set(key, known);
    return known;
  }

  end(): void {
    this.before = this.now;
    this.now = new Map();
  }

  /** Forgets everything. */
  clear(): void {
    this.before = new Map();
    this.now = new Map();
  }
}
