import { computed, inject, Injectable, signal } from '@angular/core';
import {
  photographed,
  photoSide,
  photoToSheet,
  applyAffine,
  withSurface,
  type Bitmap,
  type Edit,
  type KeptCrossing,
  type KeptFit,
  type Photo,
  type PhotoLight,
  type PhotoPart,
  type PhotoSurface,
  type SheetPoint,
} from '@core';
import { openedFit, PRACTICE_LATTICE, type KindTried, type LatticeSettings, type Miss, type Registration, type SurfaceKind } from '@later';
import type { WrittenPart } from '../../../workers/photo.worker';
import { DrawingsService } from '../../platform/drawings.service';
import { chooseFiles } from '../../platform/files';
import { newId } from '../../platform/ids';
import { MessageStore } from '../../platform/messages.store';
import { PhotoWorkService } from '../../platform/photo-work.service';
import { BitmapFilesService } from '../../state/bitmap-files.service';
import { sayRemoved } from '../../state/removed-words';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { KIND_WORDS, STEP_WORDS, UNSOLVED_WORDS } from './photo-words';
import { inOrder, px } from './surface-parts';

const PHOTO_FILES = '.png,.jpg,.jpeg,.webp,image/png,image/jpeg,image/webp';
/** Largest photographs that are kept as they are. */
const LIMITS = { side: 16_384, px: 40_000_000 };
/** px to the inch at which a photograph takes up a sheet of its own. */
const RESOLUTION = 300;
/** How light is laid on artwork at first. */
const AT_FIRST = { shadeStrength: 1, glossStrength: 0.8 };

/** A miss with the crossing that it is of, and how long it is in px. */
export interface SeenMiss extends Miss {
  readonly crossing: KeptCrossing;
  readonly far: number;
}

/** Photographs and the surfaces on them: found, fitted, lit, and artwork laid on them. Each act is one step. */
@Injectable({ providedIn: 'root' })
export class PhotosService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);
  private readonly work = inject(PhotoWorkService);
  private readonly files = inject(BitmapFilesService);
  private readonly drawings = inject(DrawingsService);

  readonly photos = computed(() => this.documents.wholeShown().photos ?? []);
  private readonly wished = signal<string | null>(null);
  /** The surface that is worked on: the chosen one, or the last. */
  readonly there = computed(() => {
    const document = this.documents.wholeShown();
    const id = this.wished();
    return (id !== null && photographed(document, id)) || photographed(document, this.photos().at(-1)?.surfaces.at(-1)?.id ?? '');
  });
  /** What is being done, in words; null while nothing is. */
  readonly doing = signal<string | null>(null);
  /** The message that tells what came of the last fit. */
  private outcome = 0;
  /** What each kind of surface comes to, by the surface's id. */
  private readonly triedBy = signal<ReadonlyMap<string, readonly KindTried[]>>(new Map());
  readonly tried = computed(() => this.triedBy().get(this.there()?.surface.id ?? '') ?? []);
  readonly chosenCrossing = signal<{ readonly column: number; readonly row: number } | null>(null);
  /** Misses are drawn so many times as long as they are. */
  readonly enlarged = signal(40);
  readonly arrows = signal(true);
  readonly guide = signal(true);

  readonly fit = computed(() => {
    const surface = this.there()?.surface;
    return surface?.fit && surface.crossings.length > 0 ? openedFit(surface.fit, surface.crossings) : null;
  });
  /** All misses, the worst first: wrong crossings before all others. */
  readonly misses = computed((): readonly SeenMiss[] => {
    const crossings = this.there()?.surface.crossings ?? [];
    const all = (this.fit()?.misses ?? []).map((miss, i) => ({ ...miss, crossing: crossings[i]!, far: Math.hypot(miss.dx, miss.dy) }));
    return all.sort((p, q) => Number(q.wrong) - Number(p.wrong) || q.far - p.far);
  });

  choose(id: string): void {
    this.wished.set(id);
    this.chosenCrossing.set(null);
  }

  /** Asks for one or two photographs. */
  async takeFiles(): Promise<void> {
    await this.take(await chooseFiles(PHOTO_FILES));
  }

  /** Whether the two photographs are being compared. */
  readonly comparing = signal(false);
  compare(): void {
    if (this.there()?.surface.latticed === undefined)
      return void this.messages.say('info', 'There is no second photograph', ['Take a pair: the bare thing, and the thing with the lattice on it.']);
    this.comparing.set(true);
  }

  goToWorst(): void {
    const [worst] = this.misses();
    if (worst) this.jumpTo(worst);
    else this.messages.say('info', 'Nothing is off yet', ['Fit a surface first.']);
  }

  /**
   * Takes photographs from files: the first is the bare one, a second shows the lattice; which is which is seen when it is
   * looked for. One that comes alone is the second of a pair of which only one was taken yet.
   */
  async take(files: readonly File[]): Promise<void> {
    const [first, second] = files;
    if (!first) return;
    try {
      const own = this.there()?.surface;
      if (!second && own && own.latticed === undefined && !own.fit && own.crossings.length === 0) {
        const { bitmap } = await this.files.take(await this.files.look(first), LIMITS);
        if (this.change((surface) => inOrder({ ...surface, latticed: bitmap.id }), 'take the second photograph', [bitmap]))
          this.messages.say('good', `“${first.name}” is the second photograph of the pair`);
        return;
      }
      const bare = (await this.files.take(await this.files.look(first), LIMITS)).bitmap;
      const latticed = second && (await this.files.take(await this.files.look(second), LIMITS)).bitmap;
      this.add(first.name.replace(/\.\w+$/, ''), bare, latticed ?? null, PRACTICE_LATTICE);
    } catch (error) {
      this.refuse('The photographs were not taken', error);
    }
  }

  /** Takes another photograph of the same thing, with a lattice on another of its surfaces. */
  async takeSurface(file: File): Promise<void> {
    const there = this.there();
    if (!there) return;
    try {
      const { bitmap } = await this.files.take(await this.files.look(file), LIMITS);
      const surface = this.newSurface(there.photo.surfaces.length + 1, there.surface.lattice, bitmap.id);
      const photos = this.photos().map((photo) => (photo.id === there.photo.id ? { ...photo, surfaces: [...photo.surfaces, surface] } : photo));
      if (this.commit(photos, 'add a surface', [bitmap])) this.choose(surface.id);
    } catch (error) {
      this.refuse('The photograph was not taken', error);
    }
  }

  /** A pair from the practice camera, in the place of a camera. */
  async practise(thing: 'funnel' | 'cup' | 'hatch' | 'pennant'): Promise<void> {
    this.doing.set('Taking two photographs …');
    try {
      const lattice = PRACTICE_LATTICE;
      const wish = { thing, lattice, width: 1000, height: 750, arc: thing === 'hatch' || thing === 'pennant' ? 1 : 2, noise: 1.5, blur: 0.7 };
      const pair = await this.work.run('practice', wish, 1 + Math.floor(Math.random() * 1e6));
      if (!pair) return;
      const [bare, latticed] = await Promise.all([pair.bare, pair.latticed].map((bytes) => this.files.kept(bytes, 'image/png', wish)));
      this.add(`practice ${thing}`, bare!, latticed!, lattice);
    } catch (error) {
      this.refuse('No photographs were taken', error);
    } finally {
      this.doing.set(null);
    }
  }

  private newSurface(count: number, lattice: LatticeSettings, latticed?: string): PhotoSurface {
    return { id: newId(), name: `surface ${count}`, ...(latticed !== undefined && { latticed }), lattice, crossings: [] };
  }

  private add(name: string, bare: Bitmap, latticed: Bitmap | null, lattice: LatticeSettings): void {
    const document = this.documents.whole();
    const surface = this.newSurface(this.photos().flatMap(({ surfaces }) => surfaces).length + 1, lattice, latticed?.id);
    const own = { width: (bare.width * 25.4) / RESOLUTION, height: (bare.height * 25.4) / RESOLUTION };
    const empty = document.nodes.length === 0 && this.photos().length === 0;
    // An empty sheet becomes as large as the photograph; on others it is shown whole.
    const room = empty ? own : document.sheet;
    const k = Math.min(room.width / own.width, room.height / own.height);
    const [width, height] = [own.width * k, own.height * k];
    const photo: Photo = { id: newId(), name, bitmap: bare.id, x: (room.width - width) / 2, y: (room.height - height) / 2, width, height, surfaces: [surface] };
    const bitmaps = latticed ? [bare, latticed] : [bare];
    const photos: Edit = { kind: 'photos', photos: [...this.photos(), photo], bitmaps };
    const sheet: Edit = { kind: 'sheet', sheet: { ...document.sheet, ...own, resolution: RESOLUTION } };
    const edit: Edit = empty ? { kind: 'all', edits: [sheet, photos] } : photos;
    if (!this.documents.commit(edit, `take ${name}`, 'drawing')) return;
    this.choose(surface.id);
    this.view.patch({ refit: this.view.refit() + 1, ...(empty && { grid: false }) });
  }

  /** Makes photographs what they are from now on. */
  commit(photos: readonly Photo[], label: string, bitmaps: readonly Bitmap[] = []): boolean {
    return this.documents.commit({ kind: 'photos', photos, ...(bitmaps.length > 0 && { bitmaps }) } as Edit, label, 'drawing');
  }

  /** Changes the surface that is worked on. */
  change(part: (surface: PhotoSurface) => PhotoSurface, label: string, bitmaps: readonly Bitmap[] = []): boolean {
    const there = this.there();
    return there !== null && this.commit(withSurface(this.documents.whole(), there.surface.id, part), label, bitmaps);
  }

  /** What the lattice is said to be; another one is fitted anew. */
  setLattice(part: Partial<LatticeSettings>): void {
    const known = this.there()?.surface.lattice;
    if (!known || Object.entries(part).every(([key, value]) => known[key as keyof LatticeSettings] === value)) return;
    this.change(({ fit: _, ...surface }) => ({ ...surface, lattice: { ...surface.lattice, ...part }, crossings: [] }), 'say what the lattice is');
  }

  async blobOf(bitmap: string): Promise<Blob> {
    const asset = this.documents.whole().bitmaps.find(({ id }) => id === bitmap)?.asset;
    const blob = asset === undefined ? null : await this.drawings.assetBlob(asset);
    if (!blob) throw new Error('The photograph is not there any more.');
    return blob;
  }

  /** Runs something in the worker, saying what, with what goes wrong said. */
  async busy(words: string, run: () => Promise<void>, failed: string): Promise<void> {
    this.doing.set(words);
    try {
      await run();
    } catch (error) {
      this.refuse(failed, error);
    } finally {
      this.doing.set(null);
    }
  }

  stop(): void {
    this.work.stop();
    this.doing.set(null);
  }

  /** Finds the lattice, fits the surface that explains it best, and takes its light: one step. @param asTaken whether nothing moved between the two photographs */
  async solve(asTaken = false): Promise<void> {
    const there = this.there();
    if (!there) return void this.messages.say('info', 'Take a photograph first');
    const { photo, surface } = there;
    // What came of the time before is said no more, nor can it be acted on.
    this.messages.close(this.outcome);
    await this.busy(
      'Reading the photographs …',
      async () => {
        const told = (step: keyof typeof STEP_WORDS): void => this.doing.set(STEP_WORDS[step]);
        const [bare, latticed] = [await this.blobOf(photo.bitmap), surface.latticed === undefined ? null : await this.blobOf(surface.latticed)];
        // What was set by hand stays, and the others are counted from it.
        const byHand = surface.crossings.filter(({ hand }) => hand);
        let [found, swapped] = [await this.work.run('solve', bare, latticed, surface.lattice, byHand, told, asTaken), false];
        if (typeof found === 'string' && found !== 'different-sizes' && found !== 'place-unsure' && latticed && photo.surfaces.length === 1) {
          // Perhaps they were given the other way round.
          const other = await this.work.run('solve', latticed, bare, surface.lattice, byHand, told, asTaken);
          if (other === 'place-unsure' || (other !== null && typeof other !== 'string')) [found, swapped] = [other, true];
        }
        if (found === null) return;
        if (typeof found === 'string') {
          const [title, advice] = UNSOLVED_WORDS[found];
          const moved = found === 'place-unsure' || found === 'different-things';
          const still = { label: 'Nothing moved between them', run: (): void => this.solveAsTaken(surface.id) };
          this.outcome = this.messages.say('warn', title, [advice], moved ? still : null);
          return;
        }
        const [best] = found.kinds;
        if (!best) return;
        this.triedBy.set(new Map(this.triedBy()).set(surface.id, found.kinds));
        const [picture, other] = swapped ? [surface.latticed!, photo.bitmap] : [photo.bitmap, surface.latticed];
        const [own, second] = swapped ? [latticed!, bare] : [bare, latticed];
        const lit = await this.lightOf(own, best.fit, surface.light, { photo: second ?? own, registration: found.registration });
        const { registration: _, ...rest } = surface;
        const next: PhotoSurface = {
          ...rest,
          ...(other !== undefined && { latticed: other }),
          crossings: found.crossings,
          fit: best.fit,
          ...(found.registration && { registration: found.registration }),
          ...(lit && { light: lit.light }),
        };
        const photos = this.photos().map((one) => (one.id === photo.id ? { ...one, bitmap: picture, surfaces: one.surfaces.map((own) => (own.id === surface.id ? inOrder(next) : own)) } : one)); // prettier-ignore
        if (!this.commit(photos, `fit ${surface.name}`, lit?.bitmaps)) return;
        const wrong = best.fit.wrong.length;
        const told2 = wrong === 0 ? [] : [`${wrong} of them ${wrong === 1 ? 'is' : 'are'} left out: ${wrong === 1 ? 'it' : 'they'} cannot be right.`];
        this.outcome = this.messages.say(
          wrong > 0 ? 'warn' : 'good',
          `${KIND_WORDS[best.kind]}: ${found.crossings.length} crossings, ${px(best.mean)} off in the mean`,
          told2,
        );
      },
      'The lattice was not looked for',
    );
  }

  /** Fits a pair between which nothing moved, if it is still there. */
  private solveAsTaken(surface: string): void {
    if (!this.photos().some(({ surfaces }) => surfaces.some(({ id }) => id === surface)))
      return void this.messages.say('info', 'These photographs are not in the drawing any more');
    this.choose(surface);
    void this.solve(true);
  }

  /** The light on a surface as pictures that the drawing keeps, as strong as it was before. @param latticed the photograph in which its lattice is seen, and how it lies on the bare one */
  async lightOf(
    bare: Blob,
    fit: KeptFit,
    before: PhotoLight | undefined,
    latticed: { readonly photo: Blob; readonly registration: Registration | null } | null = null,
  ): Promise<{ readonly light: PhotoLight; readonly bitmaps: readonly Bitmap[] } | null> {
    this.doing.set('Taking the light …');
    const made = await this.work.run('light', bare, fit, latticed);
    if (!made) return null;
    const [shade, gloss] = [await this.part(made.shade), await this.part(made.gloss)];
    return { light: { ...AT_FIRST, ...before, shade: shade.part, gloss: gloss.part }, bitmaps: [shade.bitmap, gloss.bitmap] };
  }

  async part({ bytes, px: size, x, y, width, height }: WrittenPart): Promise<{ readonly part: PhotoPart; readonly bitmap: Bitmap }> {
    const bitmap = await this.files.kept(bytes, 'image/png', size);
    return { part: { bitmap: bitmap.id, x, y, width, height }, bitmap };
  }

  /** Another kind of surface in the place of the one that was chosen. */
  async useKind(kind: SurfaceKind): Promise<void> {
    const there = this.there();
    if (!there) return;
    await this.busy(
      'Fitting surfaces …',
      () => this.refit(there.surface.crossings, kind, `take it for a ${KIND_WORDS[kind].toLowerCase()}`),
      'The surface was not fitted',
    );
  }

  /** Fits crossings anew. @param kind the one that is kept to; the best where none is given; @param registration how the photographs lie on each other, where that was found */
  async refit(crossings: readonly KeptCrossing[], kind: SurfaceKind | undefined, label: string, registration?: Registration | null): Promise<void> {
    const there = this.there();
    if (!there) return;
    const { surface, width, height } = there;
    const kinds = crossings.length < 4 ? [] : await this.work.run('kinds', crossings, surface.lattice, { width, height });
    if (!kinds) return;
    this.triedBy.set(new Map(this.triedBy()).set(surface.id, kinds));
    const chosen = kinds.find((one) => one.kind === kind) ?? kinds[0];
    const lit = chosen && surface.light?.shade ? null : chosen && (await this.lightByHand(chosen.fit, registration ?? surface.registration ?? null));
    this.change(
      ({ fit: _, ...own }) =>
        inOrder({ ...own, ...(registration && { registration }), crossings, ...(chosen && { fit: chosen.fit }), ...(lit && { light: lit.light }) }),
      label,
      lit?.bitmaps,
    );
  }

  private async lightByHand(fit: KeptFit, registration: Registration | null): ReturnType<PhotosService['lightOf']> {
    const there = this.there();
    if (!there) return null;
    const { photo, surface } = there;
    const bare = await this.blobOf(photo.bitmap);
    // Of a pair that does not lie on each other yet the paper tells nothing.
    const paper = surface.latticed === undefined ? bare : registration && (await this.blobOf(surface.latticed));
    return this.lightOf(bare, fit, surface.light, paper && { photo: paper, registration: surface.latticed === undefined ? null : registration });
  }

  /** Where the fit has a crossing, in px of the bare photograph. */
  predicted(column: number, row: number): SheetPoint | null {
    const fit = this.there()?.surface.fit;
    return fit ? photoSide(fit).shown(column * fit.lattice.box, row * fit.lattice.box) : null;
  }

  /** Looks at a crossing closely. */
  jumpTo({ column, row }: { readonly column: number; readonly row: number }): void {
    const there = this.there();
    const at = there?.surface.crossings.find((one) => one.column === column && one.row === row) ?? this.predicted(column, row);
    if (!there || !at) return;
    this.chosenCrossing.set({ column, row });
    const p = applyAffine(photoToSheet(there), at.x, at.y);
    // Some sixty px of the photograph across.
    const half = (30 * there.photo.width) / there.width;
    this.view.showBox(p.x - half, p.y - half, p.x + half, p.y + half);
  }

  rename(name: string): void {
    this.change((surface) => ({ ...surface, name }), 'name a surface');
  }

  removeSurface(): void {
    const there = this.there();
    if (!there) return;
    const photos = this.photos().flatMap((photo) => {
      const surfaces = photo.surfaces.filter(({ id }) => id !== there.surface.id);
      return surfaces.length > 0 ? [{ ...photo, surfaces }] : [];
    });
    const before = this.documents.whole();
    if (!this.commit(photos, `remove ${there.surface.name}`)) return;
    this.wished.set(null);
    sayRemoved(this.messages, there.surface.name, before, this.documents.whole());
  }

  private refuse(title: string, error: unknown): void {
    this.messages.say('bad', title, [error instanceof Error ? error.message : String(error), 'Nothing was changed.']);
  }
}
