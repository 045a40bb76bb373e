import { inject, Injectable } from '@angular/core';
import type { Bitmap, Reference } from '@core';
import { paintMarksOnCanvas } from '../platform/canvas-paint';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { AidsStore } from './aids.store';
import { StagesService } from './stages.service';
import { chooseFile } from '../platform/files';
import { DrawingsService } from '../platform/drawings.service';
import { newId } from '../platform/ids';
import { SvgReaderService } from '../platform/svg-reader.service';

/** Largest file that is read, and the longest side in px that is kept; larger pictures are made smaller. */
const MAX_BYTES = 60_000_000;
const MAX_SIDE = 4096;
/** Files up to this size are kept as they are; larger ones are written anew. */
const KEEP_BYTES = 12_000_000;

export const PICTURE_FILES = /\.(png|jpe?g|webp|svg)$/i;

/** Reference pictures from files, drops and the clipboard. */
@Injectable({ providedIn: 'root' })
export class ReferencesService {
  private readonly documents = inject(DocumentStore);
  private readonly stages = inject(StagesService);
  private readonly aids = inject(AidsStore);
  private readonly messages = inject(MessageStore);
  private readonly svg = inject(SvgReaderService);
  private readonly drawings = inject(DrawingsService);

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
    if (file.size > MAX_BYTES) throw new Error(`The file has ${Math.round(file.size / 1e6)}\u2009MB; at most ${MAX_BYTES / 1e6}\u2009MB are read.`);
    if (file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)) return this.fromSvg(await file.text());
    const bytes = new Uint8Array(await file.arrayBuffer());
    const type = typeOf(bytes);
    if (!type) throw new Error('It is no PNG, JPEG, WebP or SVG picture.');
    let image: ImageBitmap;
    try {
      image = await createImageBitmap(new Blob([bytes], { type }), { imageOrientation: 'from-image' });
    } catch {
      throw new Error('The picture is damaged, or too large to be decoded.');
    }
    if (Math.max(image.width, image.height) > MAX_SIDE || bytes.length > KEEP_BYTES) return this.smaller(image);
    return this.kept(bytes, type, image);
  }

  private async smaller(image: ImageBitmap): Promise<Bitmap> {
    const k = Math.min(1, MAX_SIDE / Math.max(image.width, image.height));
    const canvas = new OffscreenCanvas(Math.round(image.width * k), Math.round(image.height * k));
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
    this.messages.say('info', `The picture was made smaller: ${canvas.width} × ${canvas.height}\u2009px`);
    return this.kept(new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 })).arrayBuffer()), 'image/jpeg', canvas);
  }

  /** The bitmap of some bytes, which are kept under their hash. */
  private async kept(bytes: Uint8Array, type: Bitmap['type'], { width, height }: { readonly width: number; readonly height: number }): Promise<Bitmap> {
    const asset = await this.drawings.bring(bytes);
    return { id: asset.slice(0, 32), asset, type, width, height };
  }

  /** SVG is read to plain paths in the worker and painted; its markup never reaches the page. */
  private async fromSvg(text: string): Promise<Bitmap> {
    const read = await this.svg.read(text);
    if (!read.ok) throw new Error(read.problems[0]?.message ?? 'The SVG cannot be read.');
    const { flat } = read.value;
    const k = 2000 / Math.max(flat.width, flat.height);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [Math.max(1, Math.round(flat.width * k)), Math.max(1, Math.round(flat.height * k))];
    const context = canvas.getContext('2d');
    if (!context) throw new Error('The browser gave no canvas to draw on.');
    context.scale(k, k);
    paintMarksOnCanvas(context, flat.marks);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    if (!blob) throw new Error('The browser could not draw the SVG.');
    const bytes = new Uint8Array(await blob.arrayBuffer());
    return this.kept(bytes, 'image/png', canvas);
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

/** The kind of a picture by its first bytes, whatever its name says. */
export function typeOf(bytes: Uint8Array): Bitmap['type'] | null {
  const starts = (...signature: number[]): boolean => signature.every((value, i) => bytes[i] === value);
  if (starts(0x89, 0x50, 0x4e, 0x47)) return 'image/png';
  if (starts(0xff, 0xd8, 0xff)) return 'image/jpeg';
  return starts(0x52, 0x49, 0x46, 0x46) && bytes[8] === 0x57 && bytes[9] === 0x45 && bytes[10] === 0x42 && bytes[11] === 0x50 ? 'image/webp' : null;
}
