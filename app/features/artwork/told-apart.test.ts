import { toldApart } from './told-apart';

describe('toldApart', () => {
  it('leaves what is called otherwise as it is', () => {
    expect(toldApart([{ label: 'floor', at: null }, { label: 'crate, top', at: { x: 1, y: 2 } }])).toEqual(['floor', 'crate, top']); // prettier-ignore
  });

  it('says of two which is on the left, or above, by what tells them further apart', () => {
    const at = (x: number, y: number) => ({ label: 'plinth, slope', at: { x, y } });
    expect(toldApart([at(9, 2), at(4, 3)])).toEqual(['plinth, slope, on the right', 'plinth, slope, on the left']);
    expect(toldApart([at(9, 2), at(8, 13)])).toEqual(['plinth, slope, above', 'plinth, slope, below']);
  });

  it('counts several across the sheet, those that are nowhere last', () => {
    const at = (x: number) => ({ label: 'H, top', at: { x, y: 0 } });
    expect(toldApart([at(30), { label: 'H, top', at: null }, at(10)])).toEqual([
      'H, top, 2 of 3 from the left',
      'H, top, 3 of 3 from the left',
      'H, top, 1 of 3 from the left',
    ]);
  });
});
