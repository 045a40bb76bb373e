import { computed, inject, Injectable, signal } from '@angular/core';
import {
  exactCells,
  findNode,
  SHEET_PLANE,
  sizeMm,
  withSurface,
  type Artwork,
  type Bitmap,
  type Edit,
  type PhotoLight,
  type PhotoSurface,
  type PlacementNode,
} from '@core';
import type { MeasuredGrain } from '../../../workers/photo.worker';
import { newId } from '../../platform/ids';
import { MessageStore } from '../../platform/messages.store';
import { PhotoWorkService } from '../../platform/photo-work.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { PhotosService } from './photos.service';
import { inOrder } from './surface-parts';

/** Times that artwork may be larger than the lattice, or smaller, to lie in its own size at first. */
const OWN_SIZE = { most: 3, least: 0.08 };

/** Levels of noise below which nobody sees any. */
const LEAST_NOISE = 0.15;

/** Artwork on photographed surfaces: laid there, lit as the photograph is, and ended where the surface does. */
@Injectable({ providedIn: 'root' })
export class PhotoDressService {
  private readonly photos = inject(PhotosService);
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);
  private readonly work = inject(PhotoWorkService);

  /** Lays artwork on the surface: in its true size in the middle of the lattice, or as wide as it where it has none that fits. */
  lay(artwork: Artwork): void {
    const there = this.photos.there();
    const { cell } = this.documents.whole().grid;
    if (!there?.surface.fit) return void this.messages.say('info', 'Fit the surface first', ['Artwork lies on it in true size then.']);
    const { columns, rows, box } = there.surface.fit.lattice;
    const size = sizeMm(artwork);
    const [wide, tall] = [columns * box, rows * box];
    const ratio = size.height / size.width;
    const fits = artwork.bitmap === undefined && size.width < OWN_SIZE.most * wide && size.width > OWN_SIZE.least * wide;
    const width = fits ? size.width : Math.min(wide, tall / ratio);
    const height = width * ratio;
    const at = { a: exactCells((wide - width) / 2 / cell), b: exactCells((tall - height) / 2 / cell), h: 0 };
    const node: PlacementNode = {
      kind: 'placement',
      id: newId(),
      name: `${artwork.name}, ${there.surface.name}`,
      hidden: false,
      locked: false,
      artwork: artwork.id,
      target: { kind: 'plane', plane: SHEET_PLANE, photographed: there.surface.id },
      anchor: { at, width: exactCells(width / cell), height: exactCells(height / cell) },
    };
    if (!this.documents.commit({ kind: 'add', nodes: [node], artworks: [] }, `lay ${artwork.name} on ${there.surface.name}`, 'drawing')) return;
    this.view.select([node.id]);
    this.view.patch({ artwork: artwork.id });
  }

  /** Puts another artwork in the place of one on the surface, its place kept. */
  exchange(id: string, artwork: Artwork): void {
    const node = findNode(this.documents.whole(), id);
    if (node?.kind === 'placement')
      this.documents.commit({ kind: 'change', nodes: [{ ...node, artwork: artwork.id }] }, `put ${artwork.name} on it`, 'drawing');
  }

  /** How strongly the light is laid on artwork. */
  setLight(part: Partial<Pick<PhotoLight, 'shadeStrength' | 'glossStrength'>>): void {
    this.photos.change((surface) => (surface.light ? { ...surface, light: { ...surface.light, ...part } } : surface), 'change the light on artwork');
  }

  private readonly lookedAt = signal<Edit | null>(null);
  /** Whether artwork is shown without light: until the next change. */
  readonly unlit = computed(() => this.lookedAt() !== null && this.documents.preview() === this.lookedAt());

  /** Shows artwork without light, or with it again; no step. */
  toggleLight(): void {
    const there = this.photos.there();
    if (!there?.surface.light) return void this.messages.say('info', 'There is no light to leave out', ['Fit a surface first, and take its light.']);
    if (this.unlit()) return this.documents.show(null);
    const off = (surface: PhotoSurface): PhotoSurface =>
      surface.light ? { ...surface, light: { ...surface.light, shadeStrength: 0, glossStrength: 0 } } : surface;
    this.documents.show({ kind: 'photos', photos: withSurface(this.documents.whole(), there.surface.id, off) });
    this.lookedAt.set(this.documents.preview());
  }

  /** Grain as the photograph has it over artwork, or none. */
  async setGrain(on: boolean): Promise<void> {
    if (!on) return this.setTaken('lay no grain on artwork', ({ grain: _, ...light }) => light);
    await this.measure(async (made) => {
      if (made.noise < LEAST_NOISE) return void this.messages.say('info', 'The photograph has hardly any grain', ['There is nothing of it to lay on artwork.']);
      const { part, bitmap } = await this.photos.part(made.part);
      this.setTaken('lay grain on artwork', (light) => ({ ...light, grain: part }), [bitmap]);
      this.messages.say('good', `Noise of ${made.noise.toFixed(1)} levels, as the photograph has it, is on the artwork`);
    });
  }

  /** Artwork as soft as the photograph, or sharp. */
  async setSoft(on: boolean): Promise<void> {
    if (!on) return this.setTaken('make artwork sharp', ({ blur: _, ...light }) => light);
    await this.measure(({ blur }) => {
      this.setTaken('make artwork as soft as the photograph', (light) => ({ ...light, blur }));
      this.messages.say('good', `Edges of artwork are ${blur.toFixed(1)}\u2009px soft now, as those of the photograph`);
    });
  }

  /** What the photograph has of grain and softness. */
  private async measure(take: (made: MeasuredGrain) => void | Promise<void>): Promise<void> {
    const there = this.photos.there();
    const fit = there?.surface.fit;
    if (!fit || !there.surface.light) return;
    await this.photos.busy(
      'Measuring the photograph …',
      async () => {
        const made = await this.work.run('grain', await this.photos.blobOf(there.photo.bitmap), fit);
        if (made) await take(made);
      },
      'The photograph was not measured',
    );
  }

  private setTaken(label: string, part: (light: PhotoLight) => PhotoLight, bitmaps: readonly Bitmap[] = []): void {
    this.photos.change((own) => (own.light ? inOrder({ ...own, light: part(own.light) }) : own), label, bitmaps);
  }

  /** An outline that artwork is seen within, in px of the photograph; null for none. */
  setOutline(outline: readonly number[] | null): void {
    this.photos.change(
      ({ outline: _, ...surface }) => inOrder(outline ? { ...surface, outline } : surface),
      outline ? 'draw the outline' : 'take the outline away',
    );
  }

  /** Something in front, by its outline in px of the photograph. */
  async addMask(points: readonly number[], soft: number): Promise<void> {
    const there = this.photos.there();
    if (!there) return;
    await this.photos.busy(
      'Cutting out what is in front …',
      async () => {
        const made = await this.work.run('mask', await this.photos.blobOf(there.photo.bitmap), points, soft);
        if (!made) return;
        const { part, bitmap } = await this.photos.part(made);
        this.photos.change((own) => inOrder({ ...own, masks: [...(own.masks ?? []), { id: newId(), points, soft, part }] }), 'put something in front', [
          bitmap,
        ]);
      },
      'Nothing was put in front',
    );
  }

  removeMask(id: string): void {
    this.photos.change((own) => ({ ...own, masks: (own.masks ?? []).filter((mask) => mask.id !== id) }), 'put nothing in front');
  }
}
