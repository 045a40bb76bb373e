import { Resvg } from '@resvg/resvg-js';
import { importSvg, MAX_SVG_CHARACTERS, svgUnitMm } from './import-svg';
import { readResolvedSvg } from './read-svg';
import { mapMarks } from './artwork';
import { parseTransform } from './transform';
import type { GroupMark, PathMark } from './marks';

const resolve = (text: string): string => new Resvg(text, { font: { loadSystemFonts: false } }).toString();
const wrap = (inside: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="20" viewBox="0 0 40 20">${inside}</svg>`;
const read = (inside: string): ReturnType<typeof importSvg> => importSvg(wrap(inside), resolve);
const refusal = (text: string): string => {
  const result = importSvg(text, resolve);
  return result.ok ? 'opened' : result.problems.map((p) => `${p.path} ${p.message}`).join();
};

describe('foreign SVG', () => {
  it('becomes paths: shapes, styles, uses and transforms are resolved', () => {
    const result = read(
      '<style>.k{fill:#123456}</style><defs><rect id="r" width="4" height="2"/></defs><use xlink:href="#r" class="k" transform="translate(10 5)"/>',
    );
    if (!result.ok) throw new Error('refused');
    const { marks, width, height } = result.value.flat;
    expect([width, height]).toEqual([40, 20]);
    const [path] = marks.flatMap((m) => (m.kind === 'group' ? m.marks : [m])) as PathMark[];
    expect(path!.fill).toEqual({ kind: 'flat', colour: '#123456', strength: 1 });
    expect(path!.path.coords.slice(0, 4)).toEqual([10, 5, 14, 5]);
  });

  it('loses scripts, handlers and references outside, each with a note', () => {
    const result = read(
      '<script>fetch("http://elsewhere.example")</script><rect width="9" height="9" onclick="alert(1)"/><image href="http://elsewhere.example/x.png" width="4" height="4"/>',
    );
    if (!result.ok) throw new Error('refused');
    expect(result.notes.map((n) => n.message)).toEqual(['Left out: scripts.', 'Left out: references to places outside the file.', 'Left out: bitmaps.']);
    expect(result.notes.every((n) => /^line \d+$/.test(n.path))).toBe(true);
    expect(result.value.svg).not.toMatch(/script|onclick|elsewhere/);
  });

  it('says that text needs to be outlines', () => {
    const result = read('<rect width="9" height="9"/><text y="9">Quay</text>');
    expect(result.ok && result.notes).toEqual([{ code: 'text', path: 'line 1', message: 'Left out: text. Turn it into outlines where it was made.' }]);
  });

  it('is refused with an entity bomb', () => {
    const bomb = `<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;">]>${wrap('<text>&c;</text>')}`;
    expect(refusal(bomb)).toMatch(/entities that multiply/);
  });

  it('is refused when it is empty, broken, too large or something else', () => {
    expect(refusal('<html></html>')).toMatch(/no <svg> element/);
    expect(refusal(wrap('<rect width="4"'))).toMatch(/cannot be read/);
    expect(refusal(wrap(''))).toMatch(/nothing that can be drawn/);
    expect(refusal(wrap(' '.repeat(MAX_SVG_CHARACTERS)))).toMatch(/larger than 8 MB/);
  });

  it('keeps gradients on the exact box of their path, clips and strengths', () => {
    const result = read(
      '<defs><linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="1" stop-color="blue" stop-opacity=".5"/></linearGradient><clipPath id="c"><circle cx="5" cy="5" r="3"/></clipPath></defs>' +
        '<g opacity=".5"><rect x="10" y="4" width="20" height="8" fill="url(#g)"/><rect width="3" height="3"/></g><g clip-path="url(#c)"><rect width="9" height="9"/></g>',
    );
    if (!result.ok) throw new Error('refused');
    const [faint, clipped] = result.value.flat.marks as [GroupMark, GroupMark];
    expect(faint.strength).toBe(0.5);
    const { fill } = faint.marks[0] as PathMark;
    expect(fill).toMatchObject({ kind: 'linear', frame: [20, 0, 0, 8, 10, 4] });
    expect(fill?.kind === 'linear' && fill.stops[1]).toEqual({ at: 1, colour: '#0000ff', strength: 0.5 });
    expect(clipped.clip!.path.verbs).toMatch(/^MC+Z$/);
  });
});

describe('resolved SVG', () => {
  const bare = (inside: string): ReturnType<typeof readResolvedSvg> => readResolvedSvg(`<svg viewBox="0 0 10 10">${inside}</svg>`);

  it('is refused with the line of what is wrong', () => {
    const deep = bare('<g>'.repeat(80) + '</g>'.repeat(80));
    expect(deep.ok ? '' : deep.problems[0]!.message).toMatch(/nested more than 64 deep/);
    const open = bare('<g>');
    expect(open.ok ? '' : open.problems[0]!.path).toMatch(/line 1, column/);
    const turned = bare('\n<g transform="whirl(3)"><path d="M0 0L1 1"/></g>');
    expect(turned.ok ? null : turned.problems[0]).toMatchObject({ path: 'line 2', code: 'bad-transform' });
    expect(readResolvedSvg('<svg/>').ok).toBe(false);
    expect(readResolvedSvg('<p>no</p>').ok).toBe(false);
  });

  it('reads pens, dashes and radial gradients', () => {
    const read = bare(
      '<defs><radialGradient id="r" cx="0.5" cy="0.5" r="0.5" gradientTransform="scale(2)"><stop offset="0" stop-color="#ffffff"/></radialGradient></defs>' +
        '<path transform="scale(2)" d="M0 0L4 0L4 4Z" fill="url(#r)" fill-rule="evenodd" stroke="#00ff00" stroke-width="0.5" stroke-linecap="round" stroke-linejoin="bevel" stroke-dasharray="2 1" opacity="0.4"/>',
    );
    if (!read.ok) throw new Error('refused');
    const [group] = read.value.marks as [GroupMark];
    const [mark] = group.marks as [PathMark];
    expect(mark.line).toMatchObject({ width: 0.5, cap: 'round', join: 'bevel', dashes: [2, 1], pen: [2, 0, 0, 2, 0, 0] });
    expect(mark.fill).toMatchObject({ kind: 'radial', centre: [0.5, 0.5], radius: 0.5, frame: [16, 0, 0, 16, 0, 0] });
    expect(mark.rule).toBe('evenodd');
    const [mapped] = mapMarks(read.value.marks, [0, 1, -1, 0, 5, 0]) as [GroupMark];
    expect((mapped.marks[0] as PathMark).line!.pen).toEqual([0, 2, -2, 0, 5, 0]);
  });

  it('follows every kind of transform', () => {
    expect(parseTransform('translate(3) scale(2 3)')).toEqual([2, 0, 0, 3, 3, 0]);
    expect(parseTransform('rotate(90 1 0)')!.map((n) => Math.round(n) + 0)).toEqual([0, 1, -1, 0, 1, -1]);
    expect(parseTransform('skewX(45)')![2]).toBeCloseTo(1);
    expect(parseTransform('skewY(45)')![1]).toBeCloseTo(1);
    expect(parseTransform('matrix(1 2 3 4 5)')).toBeNull();
    expect(parseTransform('scale(x)')).toBeNull();
  });
});

describe('the size of an SVG', () => {
  it('is what it says in a unit of length, and nothing where it says none', () => {
    expect(svgUnitMm('<?xml version="1.0"?><svg width="100mm" height="36mm" viewBox="0 0 200 72">', 200)).toBe(0.5);
    expect(svgUnitMm("<svg viewBox='0 0 72 10' width='1in'>", 72)).toBeCloseTo(25.4 / 72, 12);
    for (const text of ['<svg width="100" viewBox="0 0 9 9">', '<svg stroke-width="3mm">', '<svg width="100%">', 'none']) expect(svgUnitMm(text, 9)).toBeNull();
  });
});
