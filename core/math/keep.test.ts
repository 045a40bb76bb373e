import { kept, keptBy, keptByKey, keptByName, keptByPair, Rounds, sameInputs } from './keep';

const counting = <I extends readonly unknown[]>(): { make: (...inputs: I) => { inputs: I }; made: () => number } => {
  let made = 0;
  return { make: (...inputs) => (made++, { inputs }), made: () => made };
};

describe('inputs', () => {
  it('are the same by value, by identity, and in lists one by one', () => {
    const one = {};
    expect(sameInputs([1, 'a', one, NaN], [1, 'a', one, NaN])).toBe(true);
    expect(sameInputs([[one, [2]], 3], [[one, [2]], 3])).toBe(true);
    expect(sameInputs([{}], [{}])).toBe(false);
    expect(sameInputs([0], [-0])).toBe(false);
    expect(sameInputs([[one]], [[one, one]])).toBe(false);
    expect(sameInputs([undefined], [])).toBe(false);
    expect(sameInputs([[]], [null])).toBe(false);
  });
});

describe('what is kept', () => {
  it('is made again when one input is another', () => {
    const { make, made } = counting<[readonly number[], string]>();
    const of = kept(make);
    expect(of([1, 2], 'x')).toBe(of([1, 2], 'x'));
    of([1, 3], 'x');
    of([1, 2], 'x');
    expect(made()).toBe(3);
  });

  it('is kept for each object, with its further inputs', () => {
    const { make, made } = counting<[object, string]>();
    const of = keptBy(make);
    const [p, q] = [{}, {}];
    expect(of(p, 'mm')).toBe(of(p, 'mm'));
    expect(of(q, 'mm')).not.toBe(of(p, 'mm'));
    expect(of(p, 'in')).not.toBe(of(q, 'mm'));
    expect(made()).toBe(3);
  });

  it('is kept for each pair of objects', () => {
    const of = keptByPair((p: { n: number }, q: { n: number }) => ({ sum: p.n + q.n }));
    const [p, q] = [{ n: 1 }, { n: 2 }];
    expect(of(p, q)).toBe(of(p, q));
    expect(of(q, p)).not.toBe(of(p, q));
    expect(of(p, q).sum).toBe(3);
  });

  it('is kept for the names that were asked for last', () => {
    const { make, made } = counting<[string]>();
    const of = keptByName(2, make);
    const first = of('a');
    of('b');
    expect(of('a')).toBe(first);
    of('c');
    expect(of('a')).toBe(first);
    of('b');
    expect(made()).toBe(4);
  });

  it('is kept for what a key tells apart, whatever object it is', () => {
    const of = keptByKey(
      2,
      ({ n }: { n: number }) => String(n),
      ({ n }) => ({ n }),
    );
    expect(of({ n: 1 })).toBe(of({ n: 1 }));
    expect(of({ n: 2 })).toEqual({ n: 2 });
  });

  it('keeps nothing of what could not be made', () => {
    let fails = true;
    const of = keptBy((key: { n: number }) => {
      if (fails) throw new Error('not now');
      return key.n;
    });
    const key = { n: 4 };
    expect(() => of(key)).toThrow('not now');
    fails = false;
    expect(of(key)).toBe(4);
  });
});

describe('rounds', () => {
  const round = (rounds: Rounds<string, object>, work: () => void): void => {
    rounds.begin();
    work();
    rounds.end();
  };

  it('forget what a round did not ask for, and what a given-up round made', () => {
    const rounds = new Rounds<string, object>();
    const made: string[] = [];
    const ask = (key: string, ...inputs: unknown[]): object => rounds.of(key, inputs, () => (made.push(key), {}));
    round(rounds, () => [ask('a', 1), ask('b', 1)]);
    round(rounds, () => ask('a', 1));
    round(rounds, () => [ask('a', 1), ask('b', 1)]);
    expect(made).toEqual(['a', 'b', 'b']);
    rounds.begin();
    ask('a', 2);
    round(rounds, () => ask('a', 1));
    expect(made).toEqual(['a', 'b', 'b', 'a']);
  });

  it('take a draft for a frame, and make it fine after', () => {
    const rounds = new Rounds<string, string>();
    const ask = (draft: boolean): string => {
      rounds.begin();
      const value = rounds.of('a', [1], () => (draft ? 'rough' : 'fine'), draft);
      rounds.end();
      return value;
    };
    expect([ask(true), ask(true), ask(false), ask(true)]).toEqual(['rough', 'rough', 'fine', 'fine']);
  });

  it('hand on what was there without looking at inputs, but no draft for what is to be fine', () => {
    const rounds = new Rounds<string, string>();
    round(rounds as unknown as Rounds<string, object>, () => rounds.of('a', [1], () => 'rough', true));
    rounds.begin();
    expect(rounds.again('a')).toBeNull();
    expect(rounds.again('a', true)?.value).toBe('rough');
    expect(rounds.again('b', true)).toBeNull();
  });
});
