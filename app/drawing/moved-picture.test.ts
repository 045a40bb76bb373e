import { MovedPicture } from './moved-picture';

/** A canvas context that notes what is drawn on it. */
function fakeContext(): { context: CanvasRenderingContext2D; drawn: number[][] } {
  const drawn: number[][] = [];
  const context = {
    canvas: { width: 200, height: 100, clientWidth: 100 },
    save: () => undefined,
    restore: () => undefined,
    imageSmoothingEnabled: true,
    drawImage: (_: unknown, ...at: number[]) => void drawn.push(at),
  };
  return { context: context as unknown as CanvasRenderingContext2D, drawn };
}

beforeEach(() => {
  jest.useFakeTimers();
  Object.defineProperty(globalThis, 'OffscreenCanvas', {
    configurable: true,
    value: class {
      constructor(
        public width: number,
        public height: number,
      ) {}
      getContext(): unknown {
        return { drawImage: () => undefined };
      }
    },
  });
});
afterEach(() => jest.useRealTimers());

describe('a painted picture that is moved', () => {
  const look = { zoom: 2, panX: 10, panY: 20 };

  it('is moved and scaled with the sheet, and painted sharp when the hand rests', () => {
    const again = jest.fn();
    const moved = new MovedPicture(again);
    const { context, drawn } = fakeContext();
    const of = ['picture'];
    expect(moved.paint(context, look, of)).toBe(false);
    moved.keep(context, look, of);
    // At the same look there is nothing to move.
    expect(moved.paint(context, look, of)).toBe(false);
    expect(moved.paint(context, { zoom: 2, panX: 15, panY: 17 }, of)).toBe(true);
    expect(drawn).toEqual([[5, -3, 100, 50]]);
    // Twice as large about the place that was at 0, 0 of the area.
    expect(moved.paint(context, { zoom: 4, panX: 20, panY: 40 }, of)).toBe(true);
    expect(drawn[1]).toEqual([0, 0, 200, 100]);
    expect(again).not.toHaveBeenCalled();
    jest.advanceTimersByTime(500);
    expect(again).toHaveBeenCalledTimes(1);
    // That painting is a sharp one.
    expect(moved.paint(context, { zoom: 4, panX: 20, panY: 40 }, of)).toBe(false);
  });

  it('is never shown in place of another picture', () => {
    const moved = new MovedPicture(() => undefined);
    const { context } = fakeContext();
    moved.keep(context, look, ['picture', 'floor']);
    expect(moved.paint(context, { ...look, panX: 0 }, ['another', 'floor'])).toBe(false);
    moved.forget();
    expect(moved.paint(context, { ...look, panX: 0 }, ['picture', 'floor'])).toBe(false);
  });
});
