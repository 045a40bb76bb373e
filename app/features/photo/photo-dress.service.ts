import { inject, Injectable, signal } from '@angular/core';
import { exactCells, findNode, SHEET_PLANE, sizeMm, withSurface, type Artwork, type Edit, type PhotoLight, type PhotoSurface, type PlacementNode } from '@core';
import { newId } from '../../platform/ids';
import { MessageStore } from '../../platform/messages.store';
import { PhotoWorkService } from '../../platform/photo-work.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { PhotosService } from './photos.service';
import { inOrder } from './surface-parts';

/** Times that artwork may be larger than the lattice, or smaller, to lie in its own size at first. */
const OWN_SIZE = { most: 3, least: 0.08 };

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

  /** Shows artwork without light, or with it again; no step. */
  readonly unlit = signal(false);
  toggleLight(): void {
    const there = this.photos.there();
    if (!there?.surface.light) return;
    this.unlit.set(!this.unlit());
    const off = (surface: PhotoSurface): PhotoSurface =>
      surface.light ? { ...surface, light: { ...surface.light, shadeStrength: 0, glossStrength: 0 } } : surface;
    const photos = withSurface(this.documents.whole(), there.surface.id, off);
    this.documents.show(this.unlit() ? ({ kind: 'photos', photos } as Edit) : null);
  }

  /** Grain as the photograph has it over artwork, or none. */
  async setGrain(on: boolean): Promise<void> {
    const there = this.photos.there();
    if (!there?.surface.fit || !there.surface.light) return;
    const { photo, surface } = there;
    if (!on) return void this.photos.change((own) => (own.light ? { ...own, light: withoutGrain(own.light) } : own), 'lay no grain on artwork');
    await this.photos.busy(
      'Measuring the grain …',
      async () => {
        const made = await this.work.run('grain', await this.photos.blobOf(photo.bitmap), surface.fit!);
        if (!made) return;
        const { part, bitmap } = await this.photos.part(made.part);
        const done = this.photos.change((own) => (own.light ? { ...own, light: { ...own.light, grain: part } } : own), 'lay grain on artwork', [bitmap]);
        if (done) this.messages.say('good', `The photograph’s grain is on the artwork`, [`Noise of ${made.noise.toFixed(1)} levels; its edges are ${made.blur.toFixed(1)}\u2009px soft.`]); // prettier-ignore
      },
      'The grain was not measured',
    );
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

const withoutGrain = ({ grain: _, ...light }: PhotoLight): PhotoLight => light;
