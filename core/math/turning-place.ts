/**
 * Where a value changes its sign between two parameters, to the last digits: by the false position with the stale end's
 * value halved (Dowell & Jarratt 1971), and by halves where that does not get on, as at the jump of a corner.
 */
export function turningPlace(value: (s: number) => number, from: number, atFrom: number, to: number, atTo: number): number {
  let [low, high, f, g] = [from, to, atFrom, atTo];
  let side = 0;
  for (let i = 0; i < 80 && high - low > 1e-14; i++) {
    const middle = i % 3 === 2 ? (low + high) / 2 : low + ((high - low) * f) / (f - g);
    if (!(middle > low && middle < high)) return middle;
    const at = value(middle);
    if (at === 0) return middle;
    if (at > 0 === f > 0) {
      if (side === 1) g /= 2;
      [low, f, side] = [middle, at, 1];
    } else {
      if (side === -1) f /= 2;
      [high, g, side] = [middle, at, -1];
    }
  }
  return (low + high) / 2;
}
