import type { SheetPoint } from '../math/points';
import type { Gray } from './gray';
import type { KeptFit } from './kept-fit';
import type { KeptCrossing } from './photo';
import { photoSide } from './photo-side';
import { armsOf, refinedCrossing, type Arm } from './refine';
import { registeredPlace, unregisteredPlace, type Registration } from './register';

/** The photograph that shows the lattice, and how it lies on the bare one, in whose px crossings are told; null where it is that. */
export interface Latticed {
  readonly gray: Gray;
  readonly registration: Registration | null;
}

/** Parts of the ways to the next crossings along which lines are followed: the shorter, the less it matters how they bend. */
const PARTS = [1, 0.6, 0.35];

const there = ({ gray, registration }: Latticed, at: SheetPoint): SheetPoint => (registration ? registeredPlace(registration, gray, at) : at);
const back = ({ gray, registration }: Latticed, at: SheetPoint): SheetPoint => (registration ? unregisteredPlace(registration, gray, at) : at);

/** The crossing of the lines near a place, in px of the bare photograph. @param fit by which their directions are known; null where no lines cross near it */
export function snappedTo(photo: Latticed, fit: KeptFit, column: number, row: number, at: SheetPoint): KeptCrossing | null {
  const { shown } = photoSide(fit);
  const { lattice } = fit;
  const carried = (i: number, j: number): SheetPoint | null => {
    const place = shown(i * lattice.box, j * lattice.box);
    return place && there(photo, place);
  };
  const arms = armsOf(lattice, carried, column, row);
  if (!arms) return null;
  for (const part of PARTS) {
    const shorter = (arm: Arm): Arm => arm && [arm[0] * part, arm[1] * part];
    const { right, left, down, up } = arms;
    const refined = refinedCrossing(photo.gray, there(photo, at), { right: shorter(right), left: shorter(left), down: shorter(down), up: shorter(up) });
    if (refined) return { column, row, ...back(photo, refined.at), error: Math.max(1e-3, refined.error) };
  }
  return null;
}
