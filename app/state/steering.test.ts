import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { cornerOf, horizonOf, moveHorizon, moveVanishingPoint, turnTo, vanishingPoints, type PerspectiveSetup } from '@core';
import { HandlesService } from '../drawing/handles.service';
import { AidsService } from '../drawing/aids.service';
import { rulerStep } from '../drawing/rulers.component';
import { boxNode, openDrawing } from '../testing/page';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { SteeringService } from './steering.service';
import { TraceService } from './trace.service';
import { AidsStore } from './aids.store';
import { StagesService } from './stages.service';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

function steered(): ReturnType<typeof openDrawing> & { steering: SteeringService; now: () => PerspectiveSetup } {
  const opened = openDrawing(boxNode('box', [0, 0], [8, 6], 5));
  const steering = TestBed.inject(SteeringService);
  steering.choose('two-point');
  return { ...opened, steering, now: () => opened.store.kept().projection as PerspectiveSetup };
}

describe('steering the projection', () => {
  it('is one step for a choice and one for a whole drag, shown while it lasts', () => {
    const { steering, store, now } = steered();
    expect(store.undoLabel()).toBe('choose two-point');
    const to = { x: vanishingPoints(now()).a.x + 80, y: 0 };
    const before = now();
    steering.follow(moveVanishingPoint(now(), 'a', to), ['a'], 'move vanishing point a', 'dragging');
    expect(now()).toBe(before);
    expect(vanishingPoints(store.shown().projection as PerspectiveSetup).a.x).toBeCloseTo(to.x, 6);
    steering.follow(moveVanishingPoint(now(), 'a', to), ['a'], 'move vanishing point a', 'dragged');
    expect(vanishingPoints(now()).a.x).toBeCloseTo(to.x, 6);
    expect(store.history().steps).toHaveLength(2);
    store.undo();
    expect(now()).toEqual(before);
  });

  it('locks all three vanishing points in one act, and lets them go in another', () => {
    openDrawing();
    const aids = TestBed.inject(AidsStore);
    const steering = TestBed.inject(SteeringService);
    aids.patch({ locks: ['horizon', 'a'] });
    steering.toggleAllLocks();
    expect([steering.allLocked(), [...aids.locks()].sort()]).toEqual([true, ['a', 'b', 'h', 'horizon']]);
    steering.toggleAllLocks();
    expect([steering.allLocked(), aids.locks()]).toEqual([false, ['horizon']]);
  });

  it('refuses what would move a locked handle, and says which', () => {
    const { steering, now } = steered();
    const before = now();
    steering.toggleLock('a');
    steering.follow(turnTo(now(), 50), ['a', 'b'], 'set turn', 'typed');
    expect(now()).toBe(before);
    expect(steering.refusal()).toBe('vanishing point a is locked');
    // It is said where it was typed, and no longer once nothing is locked.
    expect(TestBed.inject(MessageStore).messages()).toEqual([]);
    const store = TestBed.inject(DocumentStore);
    expect(store.refusal().reason).toBe('Vanishing point a is locked and would move.');
    steering.toggleLock('horizon');
    expect([store.refusal().reason, steering.refusal()]).toEqual(['', '']);
    steering.toggleLock('horizon');
    steering.follow(moveVanishingPoint(now(), 'b', { x: -900, y: 0 }), ['b'], 'move b', 'dragged');
    expect(vanishingPoints(now()).b.x).toBeCloseTo(-900, 5);
    steering.toggleLock('horizon');
    steering.follow(moveHorizon(now(), { x: 0, y: 10 }), ['horizon', 'a', 'b'], 'move', 'dragged');
    expect(horizonOf(now())!.at.y).not.toBeCloseTo(10, 3);
    steering.toggleLock('a');
    steering.toggleLock('horizon');
  });

  it('offers the nearest possible where a typed value cannot be', () => {
    const { steering, now } = steered();
    steering.follow(moveVanishingPoint(now(), 'a', { x: -5000, y: 0 }), ['a'], 'move', 'typed');
    const message = TestBed.inject(MessageStore).messages().at(-1)!;
    expect(message.title).toBe('Not possible here');
    message.action!.run();
    expect(vanishingPoints(now()).a.x).toBeGreaterThan(now().principal.x);
  });

  it('looks from a height, calmer or stronger, with the subject in its room, and centres it', () => {
    const { steering, now, store } = steered();
    steering.lookFrom(300, 'mast');
    expect(now().eye.h).toBeCloseTo(300, 9);
    const focal = now().focal;
    steering.calmer(1.25);
    expect(now().focal).toBeCloseTo(focal * 1.25, 6);
    steering.centre();
    steering.choose('isometric');
    steering.centre();
    expect(store.kept().projection).toMatchObject({ kind: 'axonometric' });
  });
});

describe('handles and aids of the projection', () => {
  it('have names, places, and do as they are dragged', () => {
    const { view, now } = steered();
    TestBed.inject(StagesService).go('projection');
    const chosen = TestBed.inject(AidsStore);
    chosen.patch({ cone: true, figure: true });
    const handles = TestBed.inject(HandlesService);
    const named = (name: string): ReturnType<typeof handles.handles>[number] => handles.handles().find((h) => h.name === name)!;
    expect(handles.handles().map((h) => h.name)).toEqual(['vanishing point a', 'vanishing point b', 'horizon', 'roll', 'origin', 'figure']);
    const corner = named('origin');
    corner.drag({ x: corner.x + 20, y: corner.y + 10 }, false, false);
    expect(handles.dragging()).toBe(true);
    corner.drag({ x: corner.x + 20, y: corner.y + 10 }, false, true);
    expect(cornerOf(now())!.at.x).toBeCloseTo((corner.x + 20 - view.panX()) / view.zoom(), 6);
    const horizon = named('horizon');
    horizon.drag({ x: horizon.x, y: horizon.y - 30 }, false, true);
    expect(named('horizon').y).toBeCloseTo(horizon.y - 30, 4);
    const roll = named('roll');
    roll.drag({ x: roll.x, y: roll.y - 25 }, false, true);
    expect(now().rollDeg).toBeGreaterThan(0.5);
    const figure = named('figure');
    figure.drag({ x: figure.x + 12, y: figure.y + 30 }, false, true);
    expect(chosen.figureAt()).not.toEqual({ u: -3, v: 0 });
    const aids = TestBed.inject(AidsService).aids();
    expect(aids.map((aid) => aid.kind)).toEqual(expect.arrayContaining(['line', 'circle', 'figure']));
  });

  it('turn the axes of parallel projections', () => {
    const { steering, store } = steered();
    steering.choose('isometric');
    TestBed.inject(StagesService).go('projection');
    const handles = TestBed.inject(HandlesService);
    const drag = (name: string, dx: number, dy: number): void => {
      const handle = handles.handles().find((h) => h.name === name)!;
      handle.drag({ x: handle.x + dx, y: handle.y + dy }, false, true);
    };
    drag('axis a', 5, 12);
    expect(store.kept().projection).toMatchObject({ bDeg: 30 });
    expect((store.kept().projection as { aDeg: number }).aDeg).toBeLessThan(30);
    drag('axis b', 4, -10);
    expect((store.kept().projection as { bDeg: number }).bDeg).toBeGreaterThan(30);
    drag('origin', 10, 0);
    steering.choose('cabinet');
    drag('axis b', 6, -6);
    expect((store.kept().projection as { ratio: number }).ratio).toBeGreaterThan(0.5);
    steering.choose('planometric');
    drag('axis h', 0, 20);
    expect((store.kept().projection as { ratio: number }).ratio).toBeLessThan(1);
  });
});

describe('reading from strokes', () => {
  it('adopts what they tell, with the corner at the foot of an upright', async () => {
    const { store } = openDrawing();
    const trace = TestBed.inject(TraceService);
    expect(trace.solution()).toBeNull();
    const stroke = (id: string, axis: 'a' | 'b' | 'h', ...p: [number, number, number, number]) => ({ id, axis, from: { x: p[0], y: p[1] }, to: { x: p[2], y: p[3] } }); // prettier-ignore
    trace.change([stroke('1', 'a', 100, 150, 170, 110), stroke('2', 'b', 100, 150, 40, 118), stroke('3', 'h', 100, 150, 100, 80)], 'trace');
    TestBed.tick();
    expect(trace.solving()).toBe(true);
    await new Promise((done) => setTimeout(done));
    expect(trace.solving()).toBe(false);
    expect(trace.solution()).toMatchObject({ ok: true, as: 'parallel' });
    trace.adopt();
    const setup = store.kept().projection;
    expect(setup).toMatchObject({ kind: 'axonometric', method: 'orthographic', origin: { x: 100, y: 150 } });
    expect((setup as { aDeg: number }).aDeg).toBeCloseTo(29.745, 2);
    expect(TestBed.inject(DocumentStore).undoLabel()).toBe('projection from the picture');
  });
});

describe('small things', () => {
  it('divide rulers at round figures that leave room for their words', () => {
    expect(rulerStep(3.78)).toEqual({ step: 20, parts: 4 });
    expect(rulerStep(1)).toEqual({ step: 100, parts: 5 });
    expect(rulerStep(240)).toEqual({ step: 0.5, parts: 5 });
  });
});
