import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  automaticName,
  paintSeenOn,
  findNode,
  flattenTree,
  planeName,
  shapesIn,
  type CellLettering,
  type FontLettering,
  type GroupNode,
  type Lettering,
  type ShapeNode,
} from '@core';
import { type TextLine } from '@later';
import { frameWithin, scaledLettering, shareThatFits } from '@later';
import { frameOfLettering, letterFrame, letteringGroup, type LetterFrame, type LetterLook } from '@later';
import { MessageStore } from '../../platform/messages.store';
import type { TextDraft } from '../../platform/database';
import { newId } from '../../platform/ids';
import { TextService } from '../../platform/text.service';
import { SupersededError } from '../../platform/worker-runner';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import type { WritingPlace } from './text-ground';
import { keepTyped, typedFor } from './typed-text';

/** Text that is being written and is not in the drawing yet. */
export interface Writing extends Pick<WritingPlace, 'along' | 'around' | 'face'> {
  readonly id: string;
  readonly frame: LetterFrame;
}

/** What is set for both kinds of letters, so that one can be changed into the other. */
export interface LetterSettings {
  readonly kind: Lettering['kind'];
  readonly font: Omit<FontLettering, 'text' | 'kind'>;
  readonly cells: Omit<CellLettering, 'text' | 'kind'>;
  readonly depth: number;
}

const USUAL: LetterSettings = {
  kind: 'font',
  font: { font: 'grotesque', cap: 4, letter: 0, word: 0, line: 6, align: 'left' },
  cells: { stem: 1, width: 5, height: 7, corner: 'square', letter: 0, line: 9, align: 'left' },
  depth: 0,
};

/** A recipe whose baseline is straight. */
export function onNoLine(lettering: Lettering): Lettering {
  const { bend: _, along: __, around: ___, marks: ____, ...rest } = lettering as Lettering & { readonly marks?: unknown };
  return rest as Lettering;
}

/** The text that is written or selected, and what it is drawn by. */
@Injectable({ providedIn: 'root' })
export class LetteringStore {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly texts = inject(TextService);
  private readonly messages = inject(MessageStore);

  /** What the next lettering is made with. */
  readonly next = signal<LetterSettings>(USUAL);
  /** Where text is begun; null while none is. */
  readonly writing = signal<Writing | null>(null);
  /** What is not in the font, and what keeps the text from being drawn. */
  readonly said = signal<string | null>(null);

  /** The lettering that is selected, or one of whose letters is. */
  readonly selected = computed((): GroupNode | null => {
    const document = this.documents.shown();
    const chosen = this.view.selection();
    if (chosen.length === 0) return null;
    const entries = flattenTree(document.nodes);
    const byId = new Map(entries.map((entry) => [entry.node.id, entry]));
    for (let at = byId.get(chosen[0]!); at; at = at.parent === null ? undefined : byId.get(at.parent)) {
      if (at.node.kind === 'group' && at.node.lettering) return at.node;
    }
    return null;
  });

  private last: Promise<unknown> = Promise.resolve();

  constructor() {
    // What was being typed when the page went away comes into the drawing that it was for.
    const drawing = computed(() => this.documents.history().base.id);
    effect(() => {
      const id = drawing();
      const draft = typedFor(id) ?? untracked(this.documents.draft);
      if (draft && 'lettering' in draft) untracked(() => void this.queue(() => this.takeUp(draft, id)));
    });
  }

  private async takeUp({ lettering, changes, writing: begun }: TextDraft, drawing: string): Promise<void> {
    const writing = begun as Writing | null;
    const before = changes === null ? null : findNode(this.documents.kept(), changes);
    const frame = before?.kind === 'group' && before.lettering ? frameOfLettering(before) : (writing?.frame ?? null);
    if (!frame || lettering.text.trim() === '') return this.nothingTyped();
    if (before?.kind === 'group') return this.redraw(before, lettering, true, frame);
    const group = writing && (await this.draw(lettering, writing.id, null, frame, writing.face));
    // Where it cannot be laid out now, as with its worker gone, it is kept for the next time.
    if (!group || this.documents.history().base.id !== drawing) return;
    // In a copy of the drawing it is not written on as well.
    if (this.writing()?.id === writing?.id) this.writing.set(null);
    this.nothingTyped();
    this.documents.commit({ kind: 'add', nodes: [group], artworks: [] }, `write ${group.name}`);
  }

  /** Remembers what is being typed until it is in the drawing. */
  typing(lettering: Lettering): void {
    const [writing, selected] = [this.writing(), this.selected()];
    const changes = selected?.id ?? null;
    if (!writing && selected?.lettering!.text === lettering.text) return this.nothingTyped();
    if (!writing && changes === null) return;
    const draft = { lettering, writing, changes: writing ? null : changes };
    keepTyped(this.documents.history().base.id, draft);
    this.documents.setDraft(draft);
  }

  /** What was being typed is in the drawing, or given up. */
  private nothingTyped(): void {
    keepTyped('', null);
    const draft = this.documents.draft();
    if (draft && 'lettering' in draft) this.documents.setDraft(null);
  }

  /** One act after the other: what is changed while a text is still being laid out is changed in what comes of it. */
  queue(act: () => unknown): Promise<void> {
    const next = this.last.then(act).then(() => undefined);
    this.last = next.catch(() => undefined);
    return next;
  }

  /** The lettering that the next press of a line takes there; null while none is. */
  readonly moving = signal<string | null>(null);

  /** Begins text at a place, or takes there what waits for one. @returns whether text is begun */
  begin({ plane, at, along, around, face }: WritingPlace): boolean {
    this.said.set(null);
    const frame = letterFrame(plane, at);
    const id = this.moving();
    this.moving.set(null);
    const group = id === null ? null : findNode(this.documents.kept(), id);
    if (along && group?.kind === 'group' && group.lettering) {
      this.view.select([group.id]);
      void this.queue(() => this.redraw(group, { ...onNoLine(group.lettering!), along }, true, frame));
      return false;
    }
    this.writing.set({ id: newId(), frame, ...(along && { along }), ...(around && { around }), ...(face && { face }) });
    this.view.select([]);
    return true;
  }

  /** What is being written stands on no line any more. */
  straighten(): void {
    const writing = this.writing();
    if (writing) this.writing.set({ id: writing.id, frame: writing.frame });
  }

  /** What is being written runs along a line. */
  run(along: TextLine): void {
    const writing = this.writing();
    if (writing) this.writing.set({ id: writing.id, frame: writing.frame, along });
  }

  /** Ends writing; what was written stays. */
  end(): void {
    this.nothingTyped();
    this.writing.set(null);
  }

  /** The recipe of the next lettering with a text. */
  recipe(text: string): Lettering {
    const { kind, font, cells } = this.next();
    const { along, around } = this.writing() ?? {};
    const own: Lettering = kind === 'font' ? { kind, text, ...font } : { kind, text, ...cells };
    if (!along && !around) return own;
    return { ...onNoLine(own), ...(along && { along }), ...(around && { around }) };
  }

  /** Shows a text where it is begun, or keeps it there. */
  async write(text: string, keep: boolean): Promise<void> {
    const writing = this.writing();
    if (!writing) return;
    if (text.trim() === '') return this.documents.show(null);
    const group = await this.draw(this.recipe(text), writing.id, null, writing.frame, writing.face);
    const still = this.writing()?.id === writing.id;
    if (!group || (!keep && !still)) return;
    if (!keep) return this.documents.show({ kind: 'add', nodes: [group], artworks: [] });
    this.nothingTyped();
    this.documents.commit({ kind: 'add', nodes: [group], artworks: [] }, `write ${group.name}`);
    // Where another text was begun meanwhile, that is what is written now.
    if (!still) return;
    this.writing.set(null);
    this.view.select([group.id]);
  }

  /** Draws the selected lettering anew by another recipe. */
  async change(lettering: Lettering, keep: boolean): Promise<void> {
    const before = this.selected();
    const kept = before && findNode(this.documents.kept(), before.id);
    if (kept?.kind !== 'group' || !kept.lettering) return;
    const frame = frameOfLettering(kept);
    if (!frame) return void this.messages.say('warn', `“${kept.name}” cannot be written anew`, ['Its first letter was drawn over by hand.']);
    // Off a round side, the text stands on the plane of its first letter.
    const { plane, origin } = frame;
    await this.redraw(kept, lettering, keep, kept.lettering.around && !lettering.around ? letterFrame(plane, origin) : frame);
  }

  private async redraw(kept: GroupNode, lettering: Lettering, keep: boolean, frame: LetterFrame): Promise<void> {
    const group = await this.draw(lettering, kept.id, kept, frame);
    if (!group || findNode(this.documents.kept(), kept.id) !== kept) return;
    if (keep) this.nothingTyped();
    if (keep) this.documents.commit({ kind: 'change', nodes: [group] }, `change ${group.name}`);
    else this.documents.show({ kind: 'change', nodes: [group] });
  }

  private async draw(wanted: Lettering, id: string, before: GroupNode | null, from: LetterFrame, face?: Writing['face']): Promise<GroupNode | null> {
    try {
      let [lettering, frame, laid] = [wanted, from, await this.texts.lay(wanted, id)];
      // Text on a face is no larger than that, and lies on it.
      if (face && !wanted.along && !wanted.around && !wanted.bend) {
        const share = shareThatFits(laid, face.box, frame);
        if (share < 1) laid = await this.texts.lay((lettering = scaledLettering(wanted, share)), id);
        frame = frameWithin(laid, face.box, frame);
      }
      this.said.set(laid.missing.length > 0 ? `Not in this font: ${laid.missing.join(' ')}` : null);
      if (laid.letters.length === 0) return null;
      const head = before ?? { id, name: this.nameOf(lettering.text), hidden: false, locked: false };
      const { name, hidden, locked } = head;
      return letteringGroup(
        { id, name: before ? this.renamed(before, lettering.text) : name, hidden, locked },
        lettering,
        laid,
        frame,
        this.lookOf(before, face?.colour),
        before,
      );
    } catch (error) {
      if (!(error instanceof SupersededError)) this.said.set(error instanceof Error ? error.message : String(error));
      return null;
    }
  }

  /** Why a lettering cannot be drawn; null where it can. */
  async whyNot(lettering: Lettering): Promise<string | null> {
    try {
      await this.texts.lay(lettering, 'trial');
      return null;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  }

  private nameOf(text: string): string {
    const line = text.split('\n')[0]!.trim().slice(0, 40);
    return line === '' ? automaticName(this.documents.kept(), 'lettering', planeName('floor', this.documents.kept().projection)) : `“${line}”`;
  }

  /** A name that was the text follows it; one that was given stays. */
  private renamed({ name, lettering }: GroupNode, text: string): string {
    return lettering && name === this.nameOf(lettering.text) ? this.nameOf(text) : name;
  }

  /** @param on the colour of the face that new letters lie on: they are seen on it */
  private lookOf(before: GroupNode | null, on?: string): LetterLook {
    const [first] = before ? shapesIn(before.children) : [];
    const round = before?.lettering?.around !== undefined;
    if (!first)
      return { depth: this.next().depth, paint: on === undefined ? this.view.paint() : paintSeenOn(this.view.paint(), on, this.documents.shown().swatches) };
    const { depth, start, lean, taper, paint, surfaces } = first;
    return {
      depth,
      paint,
      ...(surfaces && { surfaces }),
      ...(start !== undefined && !round && { start }),
      ...(lean && { lean }),
      ...(taper !== undefined && { taper }),
    };
  }

  /** Changes every letter of the selected lettering. */
  eachLetter(label: string, change: (shape: ShapeNode) => ShapeNode): void {
    const group = this.selected();
    const kept = group && findNode(this.documents.kept(), group.id);
    if (kept?.kind !== 'group') return;
    const nodes = shapesIn(kept.children).map(change);
    this.documents.commit({ kind: 'change', nodes }, `${label} ${kept.name}`);
  }

  /** The selected lettering as plain shapes. */
  intoShapes(): void {
    const group = this.selected();
    const kept = group && findNode(this.documents.kept(), group.id);
    if (kept?.kind !== 'group') return;
    const { lettering: _, ...plain } = kept;
    this.documents.commit({ kind: 'change', nodes: [plain] }, `make ${kept.name} into shapes`);
  }
}
