import type { GroupMark } from '../artwork/marks';
import type { Shade } from '../light/shade';
import { shadeOnSheet } from '../light/shade-on-sheet';
import { meanColour, type Fill } from '../paint/paint';
import { joinPaths, type Path } from '../shape/path';
import type { DrawnSurface } from '../visibility/drawn-body';
import type { Tones } from './tones';

/** What of a part lies in shadow on the sheet, by the even-odd rule; null where nothing does. */
export function shadowPath(part: DrawnSurface, shades: readonly Shade[]): Path | null {
  if (shades.length === 0) return null;
  const path = joinPaths(shades.map((shade) => shadeOnSheet(part, shade)));
  return path.verbs === '' ? null : path;
}

/** A colour of the fills that artwork without a face is darkened as. */
const MIDDLE = '#c8c8c8';

/**
 * A shadow over artwork: what lies under it is multiplied by the ratio between the tones of what is covered and what is
 * lit, so that artwork darkens as its face does.
 */
export function overlay(tones: Tones, part: DrawnSurface, fill: Fill | null, path: Path, within: Path | null): GroupMark {
  const { ink } = tones.light.shadows ?? {};
  const clip = within && { path: within, rule: 'evenodd' as const };
  const group = { kind: 'group', node: null, name: 'shadow', clip, strength: 1 } as const;
  if (ink)
    return {
      ...group,
      marks: [{ kind: 'path', path, fill: { kind: 'flat', colour: tones.plain(ink.colour), strength: ink.strength }, rule: 'evenodd', line: null }],
    };
  const base = fill === null ? MIDDLE : meanColour(fill, tones.swatches);
  const there = tones.lightOn(part.surface);
  const [lit, covered] = [tones, tones.covered].map((own) => channels(own.face(base, part.normal, there)));
  const ratio = covered!.map((value, i) => Math.round(255 * Math.min(1, lit![i]! > 0 ? value / lit![i]! : 1)));
  const colour = `#${ratio.map((value) => value.toString(16).padStart(2, '0')).join('')}`;
  return { ...group, blend: 'multiply', marks: [{ kind: 'path', path, fill: { kind: 'flat', colour, strength: 1 }, rule: 'evenodd', line: null }] };
}

const channels = (colour: string): readonly number[] => [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16));
