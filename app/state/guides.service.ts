import { computed, inject, Injectable } from '@angular/core';
import { exactCells, guideThrough, nextGuideName, type Guide, type Plane, type PlanePoint } from '@core';
import { newId } from '../platform/ids';
import { MessageStore } from '../platform/messages.store';
import { AidsStore } from './aids.store';
import { DocumentStore } from './document.store';

/** The drawing's guides: set, moved by number, hidden, locked and removed, each as one step. */
@Injectable({ providedIn: 'root' })
export class GuidesService {
  private readonly documents = inject(DocumentStore);
  private readonly messages = inject(MessageStore);
  private readonly aids = inject(AidsStore);

  readonly guides = computed((): readonly Guide[] => this.documents.shown().guides ?? []);
  /** The guide that is chosen in the list. */
  readonly chosen = computed(() => this.guides().find(({ id }) => id === this.aids.guide()) ?? null);

  choose(id: string | null): void {
    this.aids.patch({ guide: id });
  }

  /** One guide changed. @param keep whether the step is made, or only shown */
  change(id: string, part: Partial<Guide>, label: string, keep = true): void {
    const guides = this.kept().map((guide) => (guide.id === id ? { ...guide, ...part } : guide));
    this.put(guides, label, keep);
  }

  /** A guide through another place. */
  moveTo(id: string, at: PlanePoint, keep = true): void {
    const guide = this.kept().find((one) => one.id === id);
    if (guide && !guide.locked) this.change(id, { at: { u: exactCells(at.u), v: exactCells(at.v) } }, `move ${guide.name}`, keep);
  }

  /** A guide in another direction of its plane. @param deg from u to v */
  turnTo(id: string, deg: number): void {
    const guide = this.kept().find((one) => one.id === id);
    const run = guide && guideThrough(guide.plane, guide.at, { u: Math.cos((deg * Math.PI) / 180), v: Math.sin((deg * Math.PI) / 180) });
    if (guide && run && !guide.locked) this.change(id, { along: run.along }, `turn ${guide.name}`);
  }

  /** A further guide. @param keep whether the step is made, or only shown */
  add(plane: Plane, at: PlanePoint, along: Guide['along'], keep = true): void {
    const run = guideThrough(plane, at, along);
    if (!run) return;
    const name = nextGuideName(this.kept());
    this.put([...this.kept(), { id: newId(), name, ...run, hidden: false, locked: false }], `draw ${name}`, keep);
  }

  /** Takes back what is only shown. */
  drop(): void {
    this.documents.show(null);
  }

  remove(id: string): void {
    const guide = this.kept().find((one) => one.id === id);
    if (guide?.locked) return void this.messages.say('info', `“${guide.name}” is locked`, ['Unlock it first to remove it.']);
    if (guide) this.put(this.kept().filter((one) => one.id !== id), `remove ${guide.name}`); // prettier-ignore
  }

  /** Hides or locks all of them where any is not, else shows or frees all. */
  toggleAll(what: 'hidden' | 'locked'): void {
    const guides = this.kept();
    if (guides.length === 0) return this.none();
    const to = !guides.every((guide) => guide[what]);
    const verb = what === 'hidden' ? (to ? 'hide' : 'show') : to ? 'lock' : 'unlock';
    this.put(guides.map((guide) => ({ ...guide, [what]: to })), `${verb} all guides`); // prettier-ignore
  }

  clear(): void {
    const locked = this.kept().filter((guide) => guide.locked);
    if (this.kept().length === 0) return this.none();
    if (locked.length === this.kept().length) return void this.messages.say('info', 'All guides are locked', ['Unlock them first to remove them.']);
    this.put(locked, 'remove all guides');
    if (locked.length > 0) this.messages.say('info', `${locked.length} locked ${locked.length === 1 ? 'guide was' : 'guides were'} kept`);
  }

  private none(): void {
    this.messages.say('info', 'There are no guides', ['Pull one out of a ruler, or draw one with the tool “Guide”.']);
  }

  private kept(): readonly Guide[] {
    return this.documents.kept().guides ?? [];
  }

  private put(guides: readonly Guide[], label: string, keep = true): void {
    if (keep) this.documents.commit({ kind: 'guides', guides }, label);
    else this.documents.show({ kind: 'guides', guides });
  }
}
