import type { ImageLight } from '../artwork/marks';
import { composeAffine } from '../math/matrix';
import { lightPx } from './light-px';

/** A picture of one row of greys. */
const picture = (greys: readonly number[]) => ({
  width: greys.length,
  height: 1,
  straight: Int32Array.from(greys, (grey) => (0xff << 24) | (grey << 16) | (grey << 8) | grey),
});
const light = (part: Partial<ImageLight>): ImageLight => ({ bitmap: 'light', map: [2, 0, 0, 1, 0, 0], share: 1, blend: 'multiply', ...part });
const BOX = { x: 0, y: 0, perPx: 1, width: 2, height: 1 };
const channels = (p: number): readonly number[] => [p & 255, (p >>> 8) & 255, (p >>> 16) & 255, p >>> 24];
const SAMPLES = [0xff_40_80_c0, 0x80_40_80_c0] as const;

/** The two px under a light. */
function lit(part: Partial<ImageLight>, greys: readonly number[]): readonly (readonly number[])[] {
  const out = Uint32Array.from(SAMPLES);
  lightPx(out, BOX, { light: light(part), picture: picture(greys) });
  return [...out].map(channels);
}

describe('light on the px of a bitmap', () => {
  it('is mixed as compositing has it, as strongly as it is laid on, and what lets through stays as it was', () => {
    expect(lit({}, [128, 128])).toEqual([[0x60, 0x40, 0x20, 255], [0x60, 0x40, 0x20, 128]]); // prettier-ignore
    expect(lit({ share: 0.5 }, [128, 128])[0]).toEqual([0x90, 0x60, 0x30, 255]);
    expect(lit({ blend: 'screen' }, [128, 128])[0]).toEqual([224, 192, 160, 255]);
    // The middle of an overlay changes nothing that can be told.
    for (const [i, level] of lit({ blend: 'overlay' }, [128, 128])[0]!.slice(0, 3).entries()) expect(Math.abs(level - [0xc0, 0x80, 0x40][i]!)).toBeLessThan(2);
    expect(lit({ share: 0 }, [0, 0]).map((px) => px[0])).toEqual([0xc0, 0xc0]);
  });

  it('lies between the px of its picture, wherever that is moved, turned or scaled, and nowhere beyond it', () => {
    // From black to white over two px: a px of the box lies on each.
    expect(lit({}, [0, 255]).map((px) => px[0])).toEqual([0, 0xc0]);
    // Twice as large, the second px lies a quarter of the way.
    expect(lit({ map: [4, 0, 0, 1, 0, 0] }, [0, 255]).map((px) => px[0])).toEqual([0, 0xc0 / 4]);
    // Half a turn about its middle.
    const turned = composeAffine([-1, 0, 0, -1, 2, 1], [2, 0, 0, 1, 0, 0]);
    expect(lit({ map: turned }, [0, 255]).map((px) => px[0])).toEqual([0xc0, 0]);
    expect(lit({ map: [1, 0, 0, 1, 1, 0] }, [0]).map((px) => px[0])).toEqual([0xc0, 0]);
    expect(lit({ map: [0, 0, 0, 0, 1, 0] }, [0]).map((px) => px[0])).toEqual([0xc0, 0xc0]);
  });

  it('leaves alone what is not painted', () => {
    const out = Uint32Array.from([0, 0x00_11_22_33]);
    lightPx(out, BOX, { light: light({}), picture: picture([0, 0]) });
    expect([...out]).toEqual([0, 0x00_11_22_33]);
  });
});
