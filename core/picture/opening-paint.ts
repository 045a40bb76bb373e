import { converter, modeOklch, modeRgb, parse, useMode } from 'culori/fn';
import type { CheminDocument } from '../document/types';
import { sunOf } from '../light/sun';
import type { WorldPoint } from '../math/points';
import { followSwatch, mapColours, meanColour, shiftLightness, swatchOf, type Colour, type Paint } from '../paint/paint';
import { Tones } from './tones';

useMode(modeRgb);
useMode(modeOklch);
const lightness = converter('oklch');

/** How much darker, in parts of OKLCH's lightness, the lightest wall of an opening is than the face that it is in. */
const DARKER = 0.05;

/**
 * The paint of an opening's walls: that of the solid, so much darker that no wall is as light as the face, however the
 * light falls. @param face the outward unit normal of the face; @param walls those of the walls, towards the opening
 */
export function openingPaint(document: CheminDocument, paint: Paint, face: WorldPoint, walls: readonly WorldPoint[]): Paint {
  if (paint.fill === null || paint.unlit) return paint;
  const tones = new Tones(document.light, sunOf(document), document.swatches);
  const base = meanColour(paint.fill, document.swatches);
  const there = tones.lightOn(null);
  const of = (normal: WorldPoint): number => lightness(parse(tones.face(base, normal, there)))?.l ?? 0;
  const over = Math.max(...[face, ...walls].map(of)) - of(face) + DARKER;
  return mapColours(paint, (colour) => darkened(colour, Math.ceil(over * 100)));
}

function darkened(colour: Colour, hundredths: number): Colour {
  const swatch = swatchOf(colour);
  return swatch ? followSwatch(swatch.id, swatch.shift - hundredths) : shiftLightness(colour, -hundredths);
}
