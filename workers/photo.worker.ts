import { transfer } from 'comlink';
import type { LatticeSettings } from '../core/grid/lattice';
import type { Pixels } from '../core/math/pixels';
import type { SheetPoint } from '../core/math/points';
import { randomFrom } from '../core/math/random';
import { snappedTo } from '../core/photo/by-hand';
import { snappedEdge, cornersOfEdges, type FoundEdge } from '../core/photo/edges';
import { panelByCorners, roundByRims } from '../core/photo/fit-edges';
import { grayOf } from '../core/photo/gray';
import type { KeptFit } from '../core/photo/kept-fit';
import { grainPart, lightParts, maskPart, type MadePart } from '../core/photo/light-parts';
import type { KeptCrossing } from '../core/photo/photo';
import { takePractice } from '../core/photo/practice';
import { practiceSetup, type PracticeWish } from '../core/photo/practice-setups';
import type { Registration } from '../core/photo/register';
import { kindsOf, placeOfPair, solvePhoto, type KindTried, type SolvedPhoto, type SolveStep, type Unsolved } from '../core/photo/solve-photo';
import { offer } from './offer';

/** A picture as a PNG, and its box in px of the photograph. */
export interface WrittenPart {
  readonly bytes: Uint8Array;
  readonly px: { readonly width: number; readonly height: number };
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Grain as a picture, with the noise in levels and the blur in px that were measured. */
export interface MeasuredGrain {
  readonly part: WrittenPart;
  readonly noise: number;
  readonly blur: number;
}

async function pixelsOf(blob: Blob, size?: { readonly width: number; readonly height: number }): Promise<Pixels> {
  const image = await createImageBitmap(blob, { imageOrientation: 'from-image' });
  const { width, height } = size ?? image;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('the browser gave no canvas to draw on');
  context.imageSmoothingQuality = 'high';
  context.drawImage(image, 0, 0, width, height);
  image.close();
  return context.getImageData(0, 0, width, height);
}

async function pngOf({ width, height, data }: Pixels): Promise<Uint8Array> {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
}

async function written({ px, x, y, width, height }: MadePart): Promise<WrittenPart> {
  return { bytes: await pngOf(px), px: { width: px.width, height: px.height }, x, y, width, height };
}

/** Everything about photographs that takes long, away from the page. */
const api = {
  /** @param told is told what is being done; @param asTaken whether the camera is known not to have moved */
  async solve(
    bare: Blob,
    latticed: Blob | null,
    lattice: LatticeSettings,
    byHand: readonly KeptCrossing[],
    told: (step: SolveStep) => void,
    asTaken = false,
  ): Promise<SolvedPhoto | Unsolved> {
    const first = await pixelsOf(bare);
    let second = latticed && (await pixelsOf(latticed));
    if (latticed && second && (second.width !== first.width || second.height !== first.height)) {
      // The same picture in another size is brought to the size of the bare one.
      if (Math.abs((second.width / second.height) * (first.height / first.width) - 1) > 0.01) return 'different-sizes';
      second = await pixelsOf(latticed, first);
    }
    return solvePhoto(first, second, lattice, byHand, told, asTaken);
  },
  kinds(crossings: readonly KeptCrossing[], lattice: LatticeSettings, size: { readonly width: number; readonly height: number }): readonly KindTried[] {
    return kindsOf(crossings, lattice, size);
  },
  /** @param latticed the photograph of the lattice, and how it lies on the bare one, or on itself; null where there is none */
  async light(
    bare: Blob,
    fit: KeptFit,
    latticed: { readonly photo: Blob; readonly registration: Registration | null } | null,
  ): Promise<{ readonly shade: WrittenPart; readonly gloss: WrittenPart } | null> {
    const px = await pixelsOf(bare);
    const made = lightParts(px, fit, latticed && { photo: await pixelsOf(latticed.photo, px), registration: latticed.registration });
    return made && { shade: await written(made.shade), gloss: await written(made.gloss) };
  },
  async grain(bare: Blob, fit: KeptFit): Promise<MeasuredGrain | null> {
    const made = grainPart(await pixelsOf(bare), fit);
    return made && { part: await written(made.part), ...made.grain };
  },
  async mask(bare: Blob, points: readonly number[], soft: number): Promise<WrittenPart | null> {
    const made = maskPart(await pixelsOf(bare), points, soft);
    return made && written(made);
  },
  /** Edges drawn by hand, each as the photograph has it, or as it was drawn where it has none; `found` tells which. */
  async edges(bare: Blob, corners: readonly SheetPoint[], reach: number): Promise<{ readonly corners: readonly SheetPoint[]; readonly found: number }> {
    const gray = grayOf(await pixelsOf(bare));
    const edges = corners.map((from, i): { readonly edge: FoundEdge; readonly found: boolean } => {
      const to = corners[(i + 1) % corners.length]!;
      const edge = snappedEdge(gray, from, to, reach);
      return { edge: edge ?? { from, to, miss: 0 }, found: edge !== null };
    });
    return { corners: cornersOfEdges(edges.map(({ edge }) => edge)) ?? corners, found: edges.filter(({ found }) => found).length };
  },
  panel: panelByCorners,
  round: roundByRims,
  /** How a second photograph lies on the first; null where they do not tell. */
  async register(bare: Blob, latticed: Blob): Promise<Registration | null> {
    const place = placeOfPair(await pixelsOf(bare), await pixelsOf(latticed), null);
    return typeof place === 'string' ? null : place;
  },
  /** Crossings as the photograph has them near where they are said to be; null for those where no lines cross. */
  async snap(
    picture: Blob,
    registration: Registration | null,
    fit: KeptFit,
    crossings: readonly Pick<KeptCrossing, 'column' | 'row' | 'x' | 'y'>[],
  ): Promise<readonly (KeptCrossing | null)[]> {
    const gray = grayOf(await pixelsOf(picture));
    return crossings.map(({ column, row, x, y }) => snappedTo({ gray, registration }, fit, column, row, { x, y }));
  },
  /** Both photographs of a made-up thing, as PNG. */
  async practice(wish: PracticeWish, seed: number): Promise<{ readonly bare: Uint8Array; readonly latticed: Uint8Array }> {
    const random = randomFrom(seed);
    const setup = practiceSetup(wish, random);
    const moved = { dx: 3 - 6 * random(), dy: 3 - 6 * random(), turn: 0.008 * (random() - 0.5), scale: 1 };
    const { bare, latticed } = takePractice({ ...setup, moved }, random);
    const [first, second] = [await pngOf(bare), await pngOf(latticed)];
    return transfer({ bare: first, latticed: second }, [first.buffer, second.buffer]);
  },
};

export type PhotoWorker = typeof api;

offer(api);
