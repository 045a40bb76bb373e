import type { GroupMark, Mark } from '../artwork/marks';
import type { Shadows } from '../document/types';
import { channelsOf, hexOf } from '../light/channels';
import type { Shade } from '../shadow/shade';
import { shadeOnSheet } from '../shadow/shade-on-sheet';
import type { Fill } from '../paint/paint';
import { joinPaths, type Path } from '../shape/path';
import { areasOf } from '../visibility/areas-of';
import { cutPath } from '../visibility/cut';
import type { DrawnSurface } from '../visibility/drawn-body';
import { softened, strengthOf, type Layer } from './soft-edges';
import type { Tones } from './tones';

/** Steps of a soft edge of shadows that fade too. */
const STEPS_OF_FADING = 4;

/**
 * What of a part lies in shadow on the sheet: one layer of full strength where it is sharp and does not fade, else
 * several, to be laid one over the other; none where nothing lies in shadow. Each by the even-odd rule.
 */
export function shadowLayers(part: DrawnSurface, shades: readonly Shade[], { soft }: Pick<Shadows, 'soft'> = {}): readonly Layer[] {
  if (shades.length === 0) return [];
  const near = shades.flatMap((shade) =>
    (shade.contact ?? []).map(({ path, strength }): Layer => ({ path: shadeOnSheet(part, { ...shade, path }), strength })),
  );
  const thrown = shades.filter(({ contact }) => !contact);
  // What lets light through first: full shadows lie over its own.
  const kinds = [...new Set(thrown.map(kindOf))].sort((p, q) => Number.parseFloat(p) - Number.parseFloat(q));
  const dark = thrown.some(({ through }) => through)
    ? thrown.flatMap((shade) => (shade.through === undefined && (shade.strength ?? 1) === 1 && !shade.rough ? areasOf(shadeOnSheet(part, shade)) : []))
    : [];
  const lit = (path: Path): Path => (dark.length > 0 ? cutPath(path, dark).path : path);
  return [
    ...kinds.flatMap((kind) => {
      const some = thrown.filter((shade) => kindOf(shade) === kind);
      const [{ strength: most = 1, through }] = some as [Shade];
      return layersOf(part, some, soft).map((layer): Layer => ({
        ...layer,
        strength: layer.strength * most,
        ...(through && { through: { colour: through, path: lit(layer.path) } }),
      }));
    }),
    ...near,
  ];
}

/** What tells shadows apart that may not be laid together. */
const kindOf = ({ strength = 1, through = '' }: Shade): string => `${strength} ${through}`;

function layersOf(part: DrawnSurface, shades: readonly Shade[], soft: number | undefined): readonly Layer[] {
  if (shades.some(({ rough }) => rough)) return [{ path: joinPaths(shades.map((shade) => shadeOnSheet(part, shade))), strength: 1, rough: true }];
  const steps = Math.max(...shades.map(({ nearer }) => nearer?.length ?? 1));
  return Array.from({ length: steps }, (_, i): readonly Layer[] => {
    const path = joinPaths(shades.map((shade) => shadeOnSheet(part, shade.nearer?.[steps - 1 - i] ?? shade)));
    if (path.verbs === '') return [];
    const strength = strengthOf(i, steps);
    if (!soft) return [{ path, strength }];
    return softened(path, part.path, soft, steps > 1 ? STEPS_OF_FADING : undefined).map((layer) => ({ path: layer.path, strength: layer.strength * strength }));
  }).flat();
}

/** A colour of the fills that artwork without a face is darkened as. */
const MIDDLE = '#c8c8c8';

/**
 * A shadow over artwork: what lies under it is multiplied by the ratio between the tones of what is covered and what is
 * lit, so that artwork darkens as its face does.
 */
export function overlay(tones: Tones, part: DrawnSurface, fill: Fill | null, layers: readonly Layer[], within: Path | null): GroupMark {
  const { ink } = tones.light.shadows ?? {};
  const inside = within ?? (layers[0]?.rough ? part.path : null);
  const clip = inside && { path: inside, rule: 'evenodd' as const };
  const group = (colour: string, most: number, name: string): Omit<GroupMark, 'blend'> => ({
    kind: 'group',
    node: null,
    name,
    clip,
    strength: 1,
    marks: layers.map(({ path, strength, rough }) => ({
      kind: 'path',
      path,
      fill: { kind: 'flat', colour, strength: most * strength },
      rule: rough ? 'nonzero' : 'evenodd',
      line: null,
    })),
  });
  if (ink) return group(tones.plain(ink.colour), ink.strength, 'shadow');
  const base = fill === null ? MIDDLE : tones.mean(fill);
  const there = tones.lightOn(part.surface);
  const [lit, covered] = [tones, tones.covered].map((own) => channelsOf(own.face(base, part.normal, there)));
  const ratio = covered!.map((value, i) => 255 * Math.min(1, lit![i]! > 0 ? value / lit![i]! : 1));
  const shadow: GroupMark = { ...group(hexOf(ratio), 1, 'shadow'), blend: 'multiply' };
  const tints = tintsOf(layers, clip);
  return tints.length === 0 ? shadow : { ...group('#000000', 1, 'shadow'), clip: null, marks: [shadow, ...tints] };
}

/** What colours the light that gets through glass, over its shadow: multiplied, so that white light would change nothing. */
export function tintsOf(layers: readonly Layer[], clip: GroupMark['clip']): readonly GroupMark[] {
  return layers.flatMap(({ strength, rough, through }): readonly GroupMark[] => {
    if (through === undefined || through.path.verbs === '') return [];
    const mark: Mark = {
      kind: 'path',
      path: through.path,
      fill: { kind: 'flat', colour: through.colour, strength },
      rule: rough ? 'nonzero' : 'evenodd',
      line: null,
    };
    return [{ kind: 'group', node: null, name: 'light through', clip, strength: 1, blend: 'multiply', marks: [mark] }];
  });
}
