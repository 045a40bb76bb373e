import { runs } from '../testing/random';
import { rectangleOutline } from '../shape/outline';
import { depthBody } from './depth-recipe';
import type { Body } from './body';
import { geometry, bodyOf, OvertakenError, partNodes, type SpaceNode } from './book';
import { joinWith, type JoinKind, type Part } from './joined-recipe';

type Group = Extract<SpaceNode, { kind: 'group' }>;

const shape = (id: string, at: number, size = 2, hidden = false) => ({ kind: 'shape' as const, id, hidden, plane: { kind: 'floor' as const, offset: 0 }, outline: rectangleOutline({ u: at, v: 0 }, { u: at + size, v: 2 }), depth: 3 }); // prettier-ignore
const group = (id: string, children: Group['children'], joined: JoinKind = 'take away'): Group => ({ kind: 'group', id, children, joined });

/** A kernel that notes what it is asked and answers with the first part. */
function noting(): { readonly asked: (readonly string[])[] } {
  const asked: (readonly string[])[] = [];
  joinWith((parts: readonly Part[]) => {
    asked.push(parts.map(({ id }) => id));
    return Promise.resolve<Body>({ ...parts[0]!.body });
  });
  return { asked };
}

describe('a group whose solids are one', () => {
  it('is joined by the kernel, the first shown alone until then', async () => {
    const { asked } = noting();
    const node = group('g1', [shape('x', 0), shape('y', 1), shape('z', 5, 2, true)]);
    expect(geometry.of(node)).toMatchObject({ state: 'pending' });
    expect(bodyOf(node)!.surfaces.map(({ name }) => name)[0]).toBe('part:x/base');
    await geometry.settled(node);
    expect(geometry.of(node).state).toBe('ready');
    expect(asked).toEqual([['x', 'y']]);
  });

  it('follows at once where it is only moved, and is joined anew where a part changes', async () => {
    const { asked } = noting();
    await geometry.settled(group('g2', [shape('x', 0), shape('y', 1)]));
    const moved = group('g2', [shape('x', 7), shape('y', 8)]);
    expect(geometry.of(moved).state).toBe('ready');
    expect(bodyOf(moved)!.bounds.min.a).toBe(7);
    const wider = group('g2', [shape('x', 7, 3), shape('y', 8)]);
    expect(geometry.of(wider).state).toBe('pending');
    // What was last shown stays meanwhile.
    expect(bodyOf(wider)!.bounds.min.a).toBe(0);
    await geometry.settled(wider);
    expect(asked).toHaveLength(2);
  });

  it('waits for joined parts, and leaves what is no solid aside', async () => {
    const { asked } = noting();
    const inner = { ...group('inner', [shape('p', 0), shape('q', 1)], 'join'), hidden: false };
    const flat = { ...shape('flat', 0), depth: 0 };
    const outer = group('outer', [inner, flat, { kind: 'group', id: 'plain', hidden: false, children: [shape('r', 0)] } as Group & { hidden: boolean }]);
    expect(partNodes(outer).map(({ id }) => id)).toEqual(['inner', 'r']);
    await geometry.settled(outer);
    expect(asked).toEqual([['p', 'q'], ['inner', 'r']]); // prettier-ignore
  });

  it("asks again for what was overtaken, once it is wanted, and in nobody's way", async () => {
    const asked: [number, boolean][] = [];
    joinWith((parts, _how, _id, again) => {
      asked.push([parts[0]!.body.bounds.max.h, again]);
      return asked.length === 1 ? Promise.reject(new OvertakenError()) : Promise.resolve({ ...parts[0]!.body });
    });
    const node = group('g5', [shape('x', 0), shape('y', 1)]);
    let told = 0;
    const end = geometry.listen(() => told++);
    expect(geometry.of(node).state).toBe('pending');
    await Promise.resolve().then(() => undefined);
    expect(told).toBe(1);
    expect(await geometry.settled(node)).toMatchObject({ state: 'ready' });
    expect(asked).toEqual([[3, false], [3, true]]); // prettier-ignore
    end();
  });

  it('knows nothing of the bodies of another drawing, whose things have the same ids', async () => {
    noting();
    await geometry.settled(group('g6', [shape('x', 0), shape('y', 1)]));
    geometry.turnTo();
    let finish: (body: Body | null) => void = () => undefined;
    joinWith(() => new Promise<Body | null>((resolve) => (finish = resolve)));
    const other = group('g6', [shape('x', 20), shape('y', 21), shape('z', 22)]);
    expect(bodyOf(other)!.bounds.min.a).toBe(20);
    // What is finished late is nothing to the drawing that was opened since.
    geometry.turnTo();
    finish(null);
    await geometry.settled(other);
    expect(geometry.lastOf('g6')).toBeNull();
  });

  it('is not joined of parts that could not be', async () => {
    joinWith((_parts, _how, id) => (id === 'inner2' ? Promise.reject(new Error('no room')) : Promise.resolve(null)));
    const inner = { ...group('inner2', [shape('p', 0), shape('q', 1)]), hidden: false };
    expect(await geometry.settled(group('outer2', [inner, shape('r', 3)]))).toMatchObject({ state: 'failed', reason: 'no room' });
  });

  it('says why it could not be joined, and shows its parts', async () => {
    joinWith(() => Promise.reject(new Error('the kernel is gone')));
    const node = group('g3', [shape('x', 0), shape('y', 1)]);
    await geometry.settled(node);
    expect(geometry.of(node)).toMatchObject({ state: 'failed', reason: 'the kernel is gone' });
    expect(bodyOf(node)!.surfaces.length).toBe(6);
  });

  it('shares one evaluation among all copies', async () => {
    const { asked } = noting();
    const node = group('g4', [shape('x', 0), shape('y', 1)]);
    for (let i = 0; i < runs(1000); i++) bodyOf(node);
    await geometry.settled(node);
    expect([asked.length, depthBody(shape('x', 0))!.closed]).toEqual([1, true]);
  });
});
