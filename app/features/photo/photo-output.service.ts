import { inject, Injectable } from '@angular/core';
import { mapMarks, type GroupMark, type Mark } from '@core';
import { openedFit, type HandedSheet } from '@later';
import { download, downloadText, fileName } from '../../platform/files';
import { MessageStore } from '../../platform/messages.store';
import { paintMarksOnCanvas } from '../../platform/canvas-paint';
import { HandOverService } from '../../state/hand-over.service';
import { RastersService } from '../../state/rasters.service';
import { PhotosService } from './photos.service';

/** px between the two halves of a picture of before and after, and quality of JPEG. */
const [GAP, QUALITY] = [12, 0.94];

/** Photographs with their artwork as files, at their own size, and fits as data. */
@Injectable({ providedIn: 'root' })
export class PhotoOutputService {
  private readonly photos = inject(PhotosService);
  private readonly handOver = inject(HandOverService);
  private readonly rasters = inject(RastersService);
  private readonly messages = inject(MessageStore);

  /** The photograph with what lies on it, at the size that it was taken in. */
  async picture(as: 'png' | 'jpeg'): Promise<void> {
    const there = this.photos.there();
    if (!there) return void this.messages.say('info', 'Take a photograph first');
    const canvas = await this.painted(await this.sheetOf(), there.width, there.height);
    await this.save(canvas, there.photo.name, as);
  }

  /** The bare photograph beside the one with artwork. */
  async beforeAndAfter(): Promise<void> {
    const there = this.photos.there();
    if (!there) return void this.messages.say('info', 'Take a photograph first');
    const { width, height, photo } = there;
    const after = await this.sheetOf();
    const bare = (marks: readonly Mark[]): readonly Mark[] =>
      marks.flatMap((mark): readonly Mark[] => (mark.kind === 'group' ? [{ ...mark, marks: bare(mark.marks) }] : mark.kind === 'image' && mark.bitmap === photo.bitmap ? [mark] : [])); // prettier-ignore
    const before = await this.painted({ ...after, marks: bare(after.marks).slice(0, 1) as readonly GroupMark[] }, width, height);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [2 * width + GAP, height];
    const context = canvas.getContext('2d');
    if (!context) return;
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(before, 0, 0);
    context.drawImage(await this.painted(after, width, height), width + GAP, 0);
    await this.save(canvas, `${photo.name}, before and after`, 'png');
  }

  /** The fit with its figures, as docs/file-format.md tells. */
  fit(): void {
    const there = this.photos.there();
    const { surface } = there ?? {};
    if (!there || !surface?.fit) return void this.messages.say('info', 'Fit the surface first');
    const opened = openedFit(surface.fit, surface.crossings);
    const figures = opened && { mean: opened.mean, p95: opened.p95, largest: opened.largest, misses: opened.misses };
    const data = {
      format: 'chemin-fit',
      version: 1,
      name: surface.name,
      lattice: surface.lattice,
      fit: surface.fit,
      crossings: surface.crossings,
      ...(figures && { figures }),
    };
    const name = fileName(`${surface.name} fit`, 'json');
    downloadText(name, JSON.stringify(data, null, 1) + '\n', 'application/json');
    this.messages.say('good', 'The fit was exported', [name]);
  }

  /** What is handed over of the photograph alone: its box is the sheet. */
  private async sheetOf(): Promise<HandedSheet> {
    const { photo } = this.photos.there()!;
    const handed = await this.handOver.sheet({ content: 'drawing', background: true });
    const marks = mapMarks(handed.marks, [1, 0, 0, 1, -photo.x, -photo.y]);
    return { ...handed, sheet: { ...handed.sheet, width: photo.width, height: photo.height }, marks: marks as HandedSheet['marks'] };
  }

  private async painted(handed: HandedSheet, width: number, height: number): Promise<HTMLCanvasElement> {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [width, height];
    const context = canvas.getContext('2d');
    if (!context) throw new Error('The browser has no room for the picture.');
    const k = width / handed.sheet.width;
    const images = await this.rasters.exact(handed, k);
    context.fillStyle = handed.sheet.background;
    context.fillRect(0, 0, width, height);
    context.setTransform(k, 0, 0, k, 0, 0);
    paintMarksOnCanvas(context, handed.marks, images);
    return canvas;
  }

  private async save(canvas: HTMLCanvasElement, title: string, as: 'png' | 'jpeg'): Promise<void> {
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, `image/${as}`, QUALITY));
    if (!blob) return void this.messages.say('bad', 'The picture was not made', ['The browser has no room for it.']);
    const name = fileName(title, as === 'jpeg' ? 'jpg' : 'png');
    download(name, blob);
    this.messages.say('good', `The photograph was exported, ${canvas.width} × ${canvas.height}\u2009px`, [name]);
  }
}
