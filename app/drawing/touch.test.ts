import { TouchTracker } from './touch';

describe('fingers', () => {
  it('draw alone, and move and zoom in pairs', () => {
    const touch = new TouchTracker();
    expect(touch.down(1, { x: 100, y: 100 })).toBe(false);
    expect(touch.draws).toBe(true);
    expect(touch.move(1, { x: 110, y: 100 })).toBeNull();
    expect(touch.down(2, { x: 210, y: 100 })).toBe(true);
    expect(touch.draws).toBe(false);
    expect(touch.move(2, { x: 310, y: 100 })).toEqual({ dx: 50, dy: 0, factor: 2, about: { x: 210, y: 100 } });
    expect(touch.move(1, { x: 110, y: 120 })).toMatchObject({ dx: 0, dy: 10 });
  });

  it('do nothing until all are lifted, once there were two', () => {
    const touch = new TouchTracker();
    touch.down(1, { x: 0, y: 0 });
    touch.down(2, { x: 9, y: 0 });
    touch.up(1);
    expect([touch.draws, touch.move(2, { x: 20, y: 0 })]).toEqual([false, null]);
    touch.up(2);
    touch.down(3, { x: 0, y: 0 });
    expect(touch.draws).toBe(true);
  });

  it('are forgotten when they are lost, and unknown ones do nothing', () => {
    const touch = new TouchTracker();
    expect(touch.move(7, { x: 1, y: 1 })).toBeNull();
    touch.down(1, { x: 0, y: 0 });
    touch.up(1);
    expect(touch.draws).toBe(false);
    // Two fingers on one spot: nothing to divide by.
    touch.down(1, { x: 5, y: 5 });
    touch.down(2, { x: 5, y: 5 });
    expect(touch.move(2, { x: 6, y: 5 })!.factor).toBe(1);
  });
});
