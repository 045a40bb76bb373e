import { transfer } from 'comlink';
import { layersOver } from '../app/platform/canvas-layers';
import { canvasOf } from '../app/platform/px-canvas';
import type { CheminDocument } from '../core/document/types';
import { joinWith } from '../core/geometry/joined-recipe';
import { litBy } from '../core/imaging/light-px';
import { mappedPx } from '../core/imaging/mapped-px';
import { pxBoxOf } from '../core/imaging/px-box';
import { pyramidOf, type Pyramid } from '../core/imaging/pyramid';
import { paintMarks, type CanvasImages, type CanvasLike } from '../core/output/paint-canvas';
import { smallPicture, type SmallKind } from '../core/picture/small-picture';
import { settled } from '../core/picture/settled';
import type { ProjectionSetup } from '../core/projection/setup';
import { offer } from './offer';

// Solids are joined here too; the kernel comes when the first are met.
joinWith(async (parts, how) => {
  const [{ loadKernel }, { joinedBody }] = await Promise.all([import('./load-kernel'), import('../core/joining/join')]);
  return joinedBody(await loadKernel(), parts, how);
});

/** The drawing that pictures were last asked of. */
let known: { readonly key: number; readonly document: CheminDocument } | null = null;

/** A bitmap in small: its px as `Pyramid.straight` has them. */
export interface SmallPx {
  readonly id: string;
  readonly width: number;
  readonly height: number;
  readonly px: Int32Array;
}

/** Px of one bitmap at most: pictures are small. */
const MOST_PX = 500_000;

/** Bitmaps as a picture of so many px to the mm shows them. */
function imagesFrom(smalls: readonly SmallPx[], pxPerMm: number): CanvasImages {
  const pyramids = new Map<string, Pyramid>();
  const pyramid = (bitmap: string): Pyramid | null => {
    const small = smalls.find(({ id }) => id === bitmap);
    let made = pyramids.get(bitmap);
    if (small && !made) pyramids.set(bitmap, (made = pyramidOf({ width: small.width, height: small.height, data: new Uint8Array(small.px.buffer.slice(0)) })));
    return made ?? null;
  };
  return (mark) => {
    const source = pyramid(mark.bitmap);
    const box = source && pxBoxOf(mark, EVERYWHERE, pxPerMm, MOST_PX);
    if (!source || !box) return null;
    const image = canvasOf(mappedPx(source, mark, box, 'full', litBy(mark, pyramid)), box.width, box.height);
    return { image, map: [box.perPx, 0, 0, box.perPx, box.x, box.y] };
  };
}

const EVERYWHERE = { minX: -5000, minY: -5000, maxX: 5000, maxY: 5000 };

/** Makes pictures of whole drawings away from the page. */
const api = {
  /**
   * @param key tells one drawing from another; @param document the drawing, or null where it was sent before; @param smalls its bitmaps
   * @returns the picture, or null where the drawing is not known (any more)
   */
  async paint(
    key: number,
    document: CheminDocument | null,
    smalls: readonly SmallPx[],
    projection: ProjectionSetup,
    kind: SmallKind,
    width: number,
    height: number,
  ): Promise<ImageBitmap | null> {
    if (document) known = { key, document };
    if (known?.key !== key) return null;
    const asked = known.document;
    await settled(asked);
    const { k, x, y, ground, whole, sheet, layers } = smallPicture(asked, projection, kind, width, height);
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('the browser gave no canvas to draw on');
    context.fillStyle = ground;
    if (whole) context.fillRect(0, 0, width, height);
    context.setTransform(k, 0, 0, k, x, y);
    if (!whole) {
      context.fillRect(0, 0, sheet.width, sheet.height);
      context.beginPath();
      context.rect(0, 0, sheet.width, sheet.height);
      context.clip();
    }
    const images = imagesFrom(smalls, k);
    for (const marks of layers) paintMarks(context as unknown as CanvasLike, marks, layersOver(context, images));
    const bitmap = canvas.transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },
};

export type PictureWorker = typeof api;

offer(api);
