import { resizedBox } from './laid-things';

describe('a box in another size', () => {
  const room = { width: 10, height: 6 };
  const size = { width: 4, height: 2 };

  it('keeps the edge of its face that it lies on, and its middle where it lies on none or on both', () => {
    expect(resizedBox({ x: 0, y: 4, width: 2, height: 2 }, size, room)).toEqual({ x: 0, y: 4, width: 4, height: 2 });
    expect(resizedBox({ x: 8, y: 0, width: 2, height: 1 }, size, room)).toEqual({ x: 6, y: 0, width: 4, height: 2 });
    expect(resizedBox({ x: 3, y: 2, width: 2, height: 1 }, size, room)).toEqual({ x: 2, y: 1.5, width: 4, height: 2 });
    expect(resizedBox({ x: 0, y: 1, width: 10, height: 5 }, size, room)).toEqual({ x: 3, y: 4, width: 4, height: 2 });
  });

  it('keeps its corner where it lies on lines of its plane, else its middle', () => {
    expect(resizedBox({ x: 3, y: 2, width: 6, height: 3 }, size, null)).toEqual({ x: 3, y: 2, width: 4, height: 2 });
    expect(resizedBox({ x: 2.5, y: 2.5, width: 1.5, height: 0.5 }, size, null)).toEqual({ x: 0, y: 1, width: 4, height: 2 });
    expect(resizedBox({ x: 2.3, y: 2.3, width: 1, height: 1 }, size, null)).toEqual({ x: 0.8, y: 1.8, width: 4, height: 2 });
  });
});
