import { expose, transfer } from 'comlink';
import { layersOver } from '../app/platform/canvas-layers';
import type { CheminDocument } from '../core/document/types';
import { joinWith } from '../core/geometry/joined-recipe';
import { paintMarks, type CanvasLike } from '../core/output/paint-canvas';
import { smallPicture, type SmallKind } from '../core/picture/small-picture';
import { settled } from '../core/picture/settled';
import type { ProjectionSetup } from '../core/projection/setup';

// Solids are joined here too; the kernel comes when the first are met.
joinWith(async (parts, how) => {
  const [{ loadKernel }, { joinedBody }] = await Promise.all([import('./load-kernel'), import('../core/joining/join')]);
  return joinedBody(await loadKernel(), parts, how);
});

/** The drawing that pictures were last asked of. */
let known: { readonly key: number; readonly document: CheminDocument } | null = null;

/** Makes pictures of whole drawings away from the page. */
const api = {
  /**
   * @param key tells one drawing from another; @param document the drawing, or null where it was sent before
   * @returns the picture, or null where the drawing is not known (any more)
   */
  async paint(
    key: number,
    document: CheminDocument | null,
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
    for (const marks of layers) paintMarks(context as unknown as CanvasLike, marks, layersOver(context));
    const bitmap = canvas.transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },
};

export type PictureWorker = typeof api;

expose(api);
