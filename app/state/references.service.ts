import { inject, Injectable } from '@angular/core';
import { affineOf, composeAffine, type Bitmap, type Reference } from '@core';
import { paintMarksOnCanvas } from '../platform/canvas-paint';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { AidsStore } from './aids.store';
import { BitmapFilesService, type BitmapLimits } from './bitmap-files.service';
import { StagesService } from './stages.service';
import { chooseFile, textOfFile } from '../platform/files';
import { newId } from '../platform/ids';
import { SvgReaderService } from '../platform/svg-reader.service';

/** What is only looked at need not be larger. */
const LIMITS: BitmapLimits = { side: 4096, px: 4096 * 4096 };

export const PICTURE_FILES = /\.(png|jpe?g|webp|svg)$/i;

/** Reference pictures from files, drops and the clipboard. */
@Injectable({ providedIn: 'root' })
export class ReferencesService {
  private readonly documents = inject(DocumentStore);
  private readonly stages = inject(StagesService);
  private readonly aids = inject(AidsStore);
  private readonly messages = inject(MessageStore);
  private readonly svg = inject(SvgReaderService);
  private readonly files = inject(BitmapFilesService);

  async choose(): Promise<void> {
    const file = await chooseFile('.png,.jpg,.jpeg,.webp,.svg,image/png,image/jpeg,image/webp,image/svg+xml');
    if (file) await this.take(file);
  }

  async take(file: File): Promise<void> {
    try {
      const bitmap = await this.read(file);
      this.place(bitmap, file.name.replace(/\.\w+$/, '') || 'reference');
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      this.messages.say('bad', `“${file.name || 'The picture'}” was not added`, [reason, 'Nothing was changed.']);
    }
  }

  private async read(file: File): Promise<Bitmap> {
    if (file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)) {
      const text = await textOfFile(file);
      if (!text.ok) throw new Error(text.problems[0]!.message);
      return this.fromSvg(text.value);
    }
    const { bitmap, notes } = await this.files.take(await this.files.look(file), LIMITS);
    if (notes.length > 0) this.messages.say('info', `“${file.name || 'The picture'}” was taken`, notes);
    return bitmap;
  }

  /** SVG is read to plain paths in the worker and painted; its markup never reaches the page. */
  private async fromSvg(text: string): Promise<Bitmap> {
    const read = await this.svg.read(text);
    if (!read.ok) throw new Error(read.problems[0]?.message ?? 'The SVG cannot be read.');
    const { flat, pictures } = read.value;
    const held = new Map(await Promise.all(pictures.map(async ({ key, bytes }) => [key, await heldPicture(bytes)] as const)));
    const k = 2000 / Math.max(flat.width, flat.height);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [Math.max(1, Math.round(flat.width * k)), Math.max(1, Math.round(flat.height * k))];
    const context = canvas.getContext('2d');
    if (!context) throw new Error('The browser gave no canvas to draw on.');
    context.scale(k, k);
    paintMarksOnCanvas(context, flat.marks, ({ bitmap, place }) => {
      const [image, map] = [held.get(bitmap), affineOf(place.map)];
      return image && map ? { image, map: composeAffine(map, [1 / image.width, 0, 0, 1 / image.height, 0, 0]) } : null;
    });
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    if (!blob) throw new Error('The browser could not draw the SVG.');
    const bytes = new Uint8Array(await blob.arrayBuffer());
    return this.files.kept(bytes, 'image/png', canvas);
  }

  /** Laid on the sheet as large as it fits, under the drawing. */
  private place(bitmap: Bitmap, name: string): void {
    const { sheet } = this.documents.kept();
    const k = Math.min(sheet.width / bitmap.width, sheet.height / bitmap.height);
    const [width, height] = [bitmap.width * k, bitmap.height * k];
    const reference: Reference = {
      id: newId(),
      name: name.slice(0, 200),
      bitmap: bitmap.id,
      x: (sheet.width - width) / 2,
      y: (sheet.height - height) / 2,
      width,
      height,
      strength: 0.7,
      over: false,
      hidden: false,
      locked: true,
    };
    this.documents.commit({ kind: 'add-reference', reference, bitmap }, `add reference ${reference.name}`);
    this.aids.patch({ reference: reference.id });
    this.stages.go('projection', 'trace');
    this.messages.say('good', `“${reference.name}” was added as a reference`, ['Trace edges over it to read its projection.']);
  }
}

/** A picture that lay in an SVG; null where it cannot be decoded. */
const heldPicture = (bytes: Uint8Array): Promise<ImageBitmap | null> => createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>])).catch(() => null);
