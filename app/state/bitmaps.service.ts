import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Bitmap } from '@core';
import { DocumentStore } from './document.store';

/** The document's bitmaps, decoded once each and ready to be painted. */
@Injectable({ providedIn: 'root' })
export class BitmapsService {
  private readonly store = inject(DocumentStore);
  private readonly decoded = signal<ReadonlyMap<string, ImageBitmap>>(new Map());
  private readonly asked = new Set<string>();

  /** What has been decoded so far, by the bitmap's id. */
  readonly images = this.decoded.asReadonly();
  private readonly bitmaps = computed(() => this.store.shown().bitmaps);

  constructor() {
    effect(() => {
      for (const bitmap of this.bitmaps()) untracked(() => void this.decode(bitmap));
    });
  }

  private async decode(bitmap: Bitmap): Promise<void> {
    if (this.asked.has(bitmap.id) || bitmap.data === '') return;
    this.asked.add(bitmap.id);
    try {
      const image = await createImageBitmap(new Blob([bytesOf(bitmap.data)], { type: bitmap.type }), { imageOrientation: 'from-image' });
      this.decoded.set(new Map(this.decoded()).set(bitmap.id, image));
    } catch {
      // A bitmap that cannot be decoded was refused when it was added; one from a damaged file shows its frame alone.
      this.asked.delete(bitmap.id);
    }
  }
}

/** The bytes that base64 stands for. */
export function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  const text = atob(base64);
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}

/** Bytes as base64, in pieces that fit a call. */
export function base64Of(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
