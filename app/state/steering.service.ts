import { computed, inject, Injectable, signal } from '@angular/core';
import {
  calmer,
  cornerOf,
  frameFamily,
  usualPlanes,
  boxMiddle,
  horizonOf,
  lookFrom,
  roomForAnother,
  subjectOf,
  subjectRoom,
  vanishingPoints,
  type FamilyKey,
  type GridSettings,
  type PerspectiveSetup,
  type ProjectionSetup,
  type SheetPoint,
  type Steered,
} from '@core';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { PictureService } from './picture.service';
import { AidsStore, type SteeredName } from './aids.store';

/** What a locked handle is called in a refusal. */
const LOCKED_NAMES: Readonly<Record<SteeredName, string>> = {
  a: 'vanishing point a',
  b: 'vanishing point b',
  h: 'vanishing point h',
  horizon: 'the horizon',
  roll: 'the roll',
  corner: 'the origin',
};

const VANISHING: readonly SteeredName[] = ['a', 'b', 'h'];

/** Changes the projection: shows it while a gesture lasts, makes it one step at the end, says why something cannot be. */
@Injectable({ providedIn: 'root' })
export class SteeringService {
  private readonly documents = inject(DocumentStore);
  private readonly aids = inject(AidsStore);
  private readonly pictures = inject(PictureService);
  private readonly messages = inject(MessageStore);

  /** Why the last wish was not followed to its end; empty where it was. */
  readonly refusal = signal('');

  /** The message that offers the nearest to what was refused. */
  private offer: number | null = null;

  readonly setup = computed(() => this.documents.shown().projection);
  readonly perspective = computed((): PerspectiveSetup | null => {
    const setup = this.setup();
    return setup.kind === 'perspective' ? setup : null;
  });
  /** What the projection is to show: the box around everything drawn. */
  readonly subject = computed(() => subjectOf(this.documents.shown(), this.pictures.geometry()));

  /** The set-up of a family with the subject where it is now. */
  framed(family: FamilyKey): ProjectionSetup {
    const document = this.documents.kept();
    const subject = this.subject();
    return frameFamily(family, subject, roomForAnother(document, subject));
  }

  choose(family: FamilyKey): void {
    const { projection, grid } = this.documents.kept();
    const framed = this.framed(family);
    // A grid that is shown as that of its family usually is comes to be shown as the other's is.
    const usual = (setup: ProjectionSetup): GridSettings['planes'] => usualPlanes(setup.kind === 'axonometric' ? setup.chosen : '');
    const planes = usualPlanes(family);
    if (String(grid.planes) !== String(usual(projection)) || String(planes) === String(grid.planes)) return this.set(framed, `choose ${family}`);
    this.forgive();
    this.documents.commit({ kind: 'setup', projection: framed, grid: { ...grid, planes } }, `choose ${family}`);
  }

  /** Makes a set-up the drawing's. */
  set(projection: ProjectionSetup, label = 'set projection'): void {
    this.forgive();
    if (JSON.stringify(projection) !== JSON.stringify(this.documents.kept().projection)) this.documents.commit({ kind: 'projection', projection }, label);
    else this.documents.show(null);
  }

  /** What was refused counts no longer: the projection is another, or what was locked is free. */
  private forgive(): void {
    this.refusal.set('');
    this.documents.refuse('');
    if (this.offer !== null) this.messages.close(this.offer);
    this.offer = null;
  }

  show(projection: ProjectionSetup): void {
    this.documents.show({ kind: 'projection', projection });
  }

  /**
   * Follows what a hand or a field wants of a perspective. Where it cannot be, a hand gets the nearest that can; a
   * field gets the reason, and the nearest as an offer.
   * @param moves what may change: locks on anything else refuse the change
   * @param how while a gesture lasts, at its end, or from a field
   */
  follow(steered: Steered, moves: readonly SteeredName[], label: string, how: 'dragging' | 'dragged' | 'typed'): void {
    const before = this.documents.kept().projection;
    const setup = steered.ok ? steered.setup : steered.nearest;
    const locked = before.kind === 'perspective' ? this.lockedChange(before, setup, moves) : null;
    if (locked) {
      this.refusal.set(`${LOCKED_NAMES[locked]} is locked`);
      this.documents.show(null);
      if (how === 'typed') this.documents.refuse(`${capital(LOCKED_NAMES[locked])} is locked and would move.`);
      return;
    }
    this.refusal.set(steered.ok ? '' : steered.reason);
    if (how === 'dragging') this.show(setup);
    else if (how === 'dragged' || steered.ok) this.set(setup, label);
    else {
      const [reason, offer] = [`${capital(steered.reason)}.`, { label: 'Use the nearest possible', run: () => this.set(steered.nearest, label) }];
      // Where it was typed, the field says it and has the offer.
      this.offer = this.messages.say('warn', 'Not possible here', [reason], offer);
      this.documents.refuse(reason, this.offer, offer);
    }
  }

  /** A locked handle that a change would move, other than those that it is about. */
  private lockedChange(before: PerspectiveSetup, after: PerspectiveSetup, moves: readonly SteeredName[]): SteeredName | null {
    return (
      this.aids.locks().find((name) => !moves.includes(name) && moved(name, before, after)) ?? this.aids.locks().find((name) => moves.includes(name)) ?? null
    );
  }

  calmer(factor: number): void {
    const setup = this.perspective();
    if (setup) this.follow(calmer(setup, factor, boxMiddle(this.subject())), [], factor > 1 ? 'calmer perspective' : 'stronger perspective', 'typed');
  }

  /** Looks from a height in mm of the world, the subject kept in its room. */
  lookFrom(height: number, name: string): void {
    const setup = this.perspective();
    if (setup) this.follow({ ok: true, setup: lookFrom(setup, height, this.subject()) }, [], `look from ${name}`, 'typed');
  }

  toggleLock(name: SteeredName): void {
    const locks = this.aids.locks();
    this.forgive();
    this.aids.patch({ locks: locks.includes(name) ? locks.filter((other) => other !== name) : [...locks, name] });
  }

  /** Whether all three vanishing points stay where they are. */
  readonly allLocked = computed(() => VANISHING.every((name) => this.aids.locks().includes(name)));

  /** Locks all three vanishing points at once, or lets all go. */
  toggleAllLocks(): void {
    const others = this.aids.locks().filter((name) => !VANISHING.includes(name));
    this.forgive();
    this.aids.patch({ locks: this.allLocked() ? others : [...others, ...VANISHING] });
  }

  /** Puts the subject in the middle of the sheet; nothing but its place changes. */
  centre(): void {
    const { sheet } = this.documents.kept();
    const setup = this.documents.kept().projection;
    const { middle } = subjectRoom(this.documents.kept(), this.subject());
    const by: SheetPoint = { x: sheet.width / 2 - middle.x, y: sheet.height / 2 - middle.y };
    const moved = (p: SheetPoint): SheetPoint => ({ x: p.x + by.x, y: p.y + by.y });
    this.set(setup.kind === 'perspective' ? { ...setup, principal: moved(setup.principal) } : { ...setup, origin: moved(setup.origin) }, 'centre the drawing');
  }
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Whether a handle is at another place after a change, by more than a thousandth of a mm or degree. */
function moved(name: SteeredName, before: PerspectiveSetup, after: PerspectiveSetup): boolean {
  const apart = (p: SheetPoint | null, q: SheetPoint | null): boolean =>
    (p === null) !== (q === null) || (p !== null && q !== null && Math.hypot(p.x - q.x, p.y - q.y) > 1e-3);
  if (name === 'roll') return Math.abs(before.rollDeg - after.rollDeg) > 1e-3;
  if (name === 'corner') return apart(cornerOf(before)?.at ?? null, cornerOf(after)?.at ?? null);
  if (name === 'horizon') return apart(horizonOf(before)?.at ?? null, horizonOf(after)?.at ?? null) && offLine(before, after);
  const [p, q] = [vanishingPoints(before)[name], vanishingPoints(after)[name]];
  return p.w !== q.w || (p.w === 1 && apart(p, q));
}

/** Whether the horizon as a line has moved, wherever along it its named point lies. */
function offLine(before: PerspectiveSetup, after: PerspectiveSetup): boolean {
  const [p, q] = [horizonOf(before), horizonOf(after)];
  if (!p || !q) return true;
  const across = (q.at.x - p.at.x) * -p.along.y + (q.at.y - p.at.y) * p.along.x;
  return Math.abs(across) > 1e-3 || Math.abs(p.along.x * q.along.y - p.along.y * q.along.x) > 1e-6;
}
