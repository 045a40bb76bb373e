/** A solid by its level sections: at a height, a circle or a rectangle, nothing beyond its ends. Lengths in cells. */
export interface Profile {
  readonly from: number;
  readonly to: number;
  readonly section: Circle | Rectangle;
}

/** A circle about a place whose radius changes with the height, and how much of its side a height of it holds for a length along it. */
export interface Circle {
  readonly kind: 'circle';
  readonly a: number;
  readonly b: number;
  readonly radius: (h: number) => number;
  readonly slant: (h: number) => number;
}

/** A rectangle along the axes, the same at every height. */
export interface Rectangle {
  readonly kind: 'rectangle';
  readonly min: readonly [number, number];
  readonly max: readonly [number, number];
}

/** The area that a circle about the origin has in common with what lies left of and below a place. */
function quadrant(x: number, y: number, r: number): number {
  if (r === 0 || x <= -r || y <= -r) return 0;
  const [u, v] = [Math.min(x, r), Math.min(y, r)];
  // The integral over columns from -r to u of what lies between the circle's lower arc and the lesser of v and its upper one.
  const under = (at: number): number => (at * Math.sqrt(Math.max(0, r * r - at * at)) + r * r * Math.asin(Math.max(-1, Math.min(1, at / r)))) / 2;
  const arc = (from: number, to: number): number => under(to) - under(from);
  const half = Math.sqrt(Math.max(0, r * r - v * v));
  if (v >= 0) {
    // Within the half chord at v the top is v, beyond it the circle itself.
    const inner = (to: number): number => {
      const t = Math.max(-r, Math.min(to, u));
      const left = Math.min(t, -half);
      let sum = 2 * arc(-r, left);
      const middle = Math.min(t, half);
      if (middle > -half) sum += arc(-half, middle) + v * (middle + half);
      if (t > half) sum += 2 * arc(half, t);
      return sum;
    };
    return inner(u);
  }
  const to = Math.min(u, half);
  return to <= -half ? 0 : arc(-half, to) + v * (to + half);
}

/** The area of a circle within a rectangle. */
function circleInRectangle(r: number, [x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): number {
  return quadrant(x1, y1, r) - quadrant(x0, y1, r) - quadrant(x1, y0, r) + quadrant(x0, y0, r);
}

/** The area that two circles have in common. */
function lens(r: number, s: number, d: number): number {
  if (d >= r + s) return 0;
  if (d <= Math.abs(r - s)) return Math.PI * Math.min(r, s) ** 2;
  const [p, q] = [Math.acos((d * d + r * r - s * s) / (2 * d * r)), Math.acos((d * d + s * s - r * r) / (2 * d * s))];
  return r * r * (p - Math.sin(2 * p) / 2) + s * s * (q - Math.sin(2 * q) / 2);
}

/** The part of a circle's round that lies within a section, in radians. */
function angleWithin(a: number, b: number, r: number, section: Circle | Rectangle, h: number): number {
  if (section.kind === 'circle') {
    const [s, d] = [section.radius(h), Math.hypot(section.a - a, section.b - b)];
    if (d >= r + s || (d <= r - s && s < r)) return 0;
    if (d + r <= s) return 2 * Math.PI;
    return 2 * Math.acos(Math.max(-1, Math.min(1, (d * d + r * r - s * s) / (2 * d * r))));
  }
  const turns: number[] = [-Math.PI, Math.PI];
  for (const x of [section.min[0] - a, section.max[0] - a]) if (Math.abs(x) < r) turns.push(Math.acos(x / r), -Math.acos(x / r));
  for (const y of [section.min[1] - b, section.max[1] - b])
    if (Math.abs(y) < r) for (const turn of [Math.asin(y / r), Math.PI - Math.asin(y / r)]) turns.push(Math.atan2(Math.sin(turn), Math.cos(turn)));
  turns.sort((p, q) => p - q);
  return turns.slice(1).reduce((sum, to, i) => {
    const from = turns[i]!;
    const [x, y] = [a + r * Math.cos((from + to) / 2), b + r * Math.sin((from + to) / 2)];
    const inside = x > section.min[0] && x < section.max[0] && y > section.min[1] && y < section.max[1];
    return inside ? sum + to - from : sum;
  }, 0);
}

/** An integral to about ten digits, by Simpson's rule halved where it has not settled. */
function integral(f: (h: number) => number, from: number, to: number): number {
  const half = (a: number, fa: number, b: number, fb: number, m: number, fm: number, whole: number, depth: number): number => {
    const [l, r] = [(a + m) / 2, (m + b) / 2];
    const [fl, fr] = [f(l), f(r)];
    const [left, right] = [((m - a) / 6) * (fa + 4 * fl + fm), ((b - m) / 6) * (fm + 4 * fr + fb)];
    if (depth <= 0 || (depth < 40 && Math.abs(left + right - whole) < 1e-11)) return left + right + (left + right - whole) / 15;
    return half(a, fa, m, fm, l, fl, left, depth - 1) + half(m, fm, b, fb, r, fr, right, depth - 1);
  };
  if (to <= from) return 0;
  const m = (from + to) / 2;
  const [fa, fb, fm] = [f(from), f(to), f(m)];
  return half(from, fa, to, fb, m, fm, ((to - from) / 6) * (fa + 4 * fm + fb), 46);
}

/** Volume and area of the round side of what is left of a round solid from which another was taken. */
export function leftOf(whole: Profile & { readonly section: Circle }, taken: Profile): { readonly volume: number; readonly side: number } {
  const { a, b, radius, slant } = whole.section;
  const gone = (h: number): number => {
    const r = radius(h);
    const { section } = taken;
    if (section.kind === 'circle') return lens(r, section.radius(h), Math.hypot(section.a - a, section.b - b));
    return circleInRectangle(r, [section.min[0] - a, section.min[1] - b], [section.max[0] - a, section.max[1] - b]);
  };
  const [low, high] = [Math.max(whole.from, taken.from), Math.min(whole.to, taken.to)];
  const volume = integral((h) => Math.PI * radius(h) ** 2, whole.from, whole.to) - integral(gone, low, high);
  const side =
    integral((h) => 2 * Math.PI * slant(h), whole.from, whole.to) - integral((h) => angleWithin(a, b, radius(h), taken.section, h) * slant(h), low, high);
  return { volume, side };
}
