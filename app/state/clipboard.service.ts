import { effect, inject, Injectable } from '@angular/core';
import {
  apply33,
  idsWithin,
  isSettled,
  invert33,
  outlineBox,
  movedAll,
  PART_TYPE,
  partOf,
  pastePart,
  readColour,
  readPart,
  type CheminDocument,
  type DocumentNode,
  type GroupMark,
  type SingleEdit,
  type PlanePoint,
  type Problem,
  type ShapeNode,
} from '@core';
import { ArrangingService } from './arranging.service';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { PaintingService } from './painting.service';
import { PictureService } from './picture.service';
import { ViewStore } from './view.store';
import { moveOnPlane } from '../tools/pick.tool';
import { newId } from '../platform/ids';
import { movedWithin } from './laid-things';
import { ImportsService } from './imports.service';
import { SvgReaderService } from '../platform/svg-reader.service';

/** Mm of a px of SVG. */
const MM_PER_PX = 25.4 / 96;

/** Copies between drawings with everything exact, and as SVG to and from other software. What comes in is checked. */
@Injectable({ providedIn: 'root' })
export class ClipboardService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly arranging = inject(ArrangingService);
  private readonly pictures = inject(PictureService);
  private readonly messages = inject(MessageStore);
  private readonly imports = inject(ImportsService);
  private readonly painting = inject(PaintingService);
  private readonly svg = inject(SvgReaderService);

  /** Writes SVG; it comes when something is first selected. */
  private writeSvg: ((document: CheminDocument, marks: readonly GroupMark[]) => string) | null = null;

  constructor() {
    effect(() => {
      if (this.view.selection().length > 0) void this.load();
    });
  }

  private async load(): Promise<void> {
    const { inGroups, svgFromSheet, trimmedSheet } = await import('@later');
    // What is pasted elsewhere is as large as what was copied, not as the sheet that it lay on.
    this.writeSvg ??= ({ sheet, nodes, name }, marks) => svgFromSheet(trimmedSheet({ sheet, background: false, marks: inGroups(nodes, marks) }), name);
  }

  /** What was copied last in this window, for browsers that keep our own type from other pages. */
  private last: { readonly svg: string; readonly part: string } | null = null;

  /** Puts the selection on the clipboard; whether it could. */
  async copy(): Promise<boolean> {
    await this.load();
    await this.pictures.settled('Copying waits for solids that are being joined');
    const texts = this.texts();
    if (!texts) return false;
    try {
      await navigator.clipboard.write([
        new ClipboardItem({
          'text/plain': new Blob([texts.svg], { type: 'text/plain' }),
          [`web ${PART_TYPE}`]: new Blob([texts.part], { type: PART_TYPE }),
        }),
      ]);
    } catch {
      // Without the right to the clipboard, copying still works within this window.
    }
    return true;
  }

  /** Gives a copy event what is selected. */
  fill(event: ClipboardEvent): boolean {
    const texts = this.texts();
    if (!texts || !event.clipboardData) return false;
    // Until what writes SVG is there, and all solids are joined, the event has our own part alone, or as it is now; the rest follows.
    if (!this.writeSvg || !isSettled(this.documents.kept())) void this.copy();
    event.clipboardData.setData('text/plain', texts.svg);
    event.clipboardData.setData('image/svg+xml', texts.svg);
    event.clipboardData.setData(PART_TYPE, texts.part);
    return true;
  }

  private texts(): { readonly svg: string; readonly part: string } | null {
    const document = this.documents.kept();
    const ids = this.arranging.nodes().map((node) => node.id);
    if (ids.length === 0) return null;
    const inside = new Set(this.arranging.nodes().flatMap(idsWithin));
    const marks = this.pictures.exact().marks.filter((mark) => mark.node !== null && inside.has(mark.node));
    const svg = this.writeSvg?.(document, marks) ?? '';
    this.last = { svg, part: JSON.stringify(partOf(document, ids)) };
    return this.last;
  }

  /** Takes a paste event: our own things, SVG, a picture, or a colour; false where there is nothing for a drawing. */
  take(event: ClipboardEvent): boolean {
    const data = event.clipboardData;
    if (!data) return false;
    const file = [...data.files].find((f) => f.type.startsWith('image/') && f.type !== 'image/svg+xml');
    if (file) {
      void this.imports.takeDropped([file]);
      return true;
    }
    return this.takeTexts(data.getData(PART_TYPE), data.getData('image/svg+xml') || data.getData('text/plain'));
  }

  /** Asks the browser for the clipboard, for the command without the key. */
  async pasteFromBrowser(): Promise<void> {
    try {
      const [item] = await navigator.clipboard.read();
      const text = async (type: string): Promise<string> => (item?.types.includes(type) ? (await item.getType(type)).text() : '');
      if (this.takeTexts(await text(`web ${PART_TYPE}`), await text('text/plain'))) return;
    } catch {
      if (this.last && this.takeTexts(this.last.part, this.last.svg)) return;
    }
    this.messages.say('info', 'There is nothing on the clipboard that a drawing could take');
  }

  private takeTexts(part: string, text: string): boolean {
    const own = part || (text !== '' && this.last?.svg === text ? this.last.part : '');
    if (own) this.pastePart(own);
    else if (/<svg[\s>]/i.test(text)) void this.pasteSvg(text);
    else {
      const colour = text.length < 80 ? readColour(text) : null;
      if (!colour) return false;
      this.painting.setColour(this.view.colourSlot(), colour);
    }
    return true;
  }

  private pastePart(text: string): void {
    this.insert(text, null);
  }

  /**
   * Adds a part of a drawing, as text, to this one, at its true size.
   * @param label what the step is called; null for pasting
   */
  insert(text: string, label: string | null): void {
    const read = readPart(text);
    if (!read.ok) return this.refuse(read.problems);
    const document = this.documents.kept();
    const pasted = pastePart(document, read.value, newId);
    const lost = read.value.nodes.length - pasted.nodes.length;
    if (lost > 0) this.messages.say('warn', 'Artwork was copied without the face that it lies on', [pasted.nodes.length === 0 ? 'Copy its solid with it.' : `${lost === 1 ? 'One of them was' : `${lost} of them were`} left out: copy its solid with it.`]); // prettier-ignore
    if (pasted.nodes.length === 0) return;
    // A cell aside of what is there already, so that it is seen to be new.
    const taken = new Set(document.nodes.map((node) => JSON.stringify(placeOf(node))));
    const aside = pasted.nodes.some((node) => taken.has(JSON.stringify(placeOf(node))));
    const nodes = aside ? movedWithin(pasted.nodes, { a: 1, b: 1, h: 0 }) : pasted.nodes;
    const edits: SingleEdit[] = [{ kind: 'add', nodes, artworks: pasted.artworks, ...(pasted.bitmaps.length > 0 && { bitmaps: pasted.bitmaps }) }];
    if (pasted.swatches.length > document.swatches.length) edits.unshift({ kind: 'swatches', swatches: pasted.swatches });
    this.documents.commit({ kind: 'all', edits }, label ?? `paste ${nodes.length === 1 ? nodes[0]!.name : `${nodes.length} things`}`);
    this.view.select(nodes.map((node) => node.id));
  }

  /** SVG as shapes on the plane that is drawn on, in the middle of what is seen. */
  private async pasteSvg(text: string): Promise<void> {
    const read = await this.svg.read(text);
    if (!read.ok) return this.refuse(read.problems);
    const { cell } = this.documents.kept().grid;
    const plane = this.view.plane();
    const { shapesFromArtwork } = await import('@later');
    const shapes = shapesFromArtwork(read.value.flat, plane, { u: 0, v: 0 }, cell, MM_PER_PX, newId);
    if (!shapes.ok) return this.refuse(shapes.problems);
    const by = this.toMiddle(shapes.value);
    const nodes = movedAll(shapes.value, moveOnPlane(plane, by.u, by.v));
    this.documents.commit({ kind: 'add', nodes, artworks: [] }, `paste ${nodes.length === 1 ? nodes[0]!.name : `${nodes.length} shapes`}`);
    this.view.select(nodes.map((node) => node.id));
    const notes = [...read.notes, ...shapes.notes];
    if (notes.length > 0) this.messages.say('warn', 'Some of the SVG was left out', notes.slice(0, 4).map((n) => (n.path && !n.message.includes(n.path) ? `${n.path}: ${n.message}` : n.message))); // prettier-ignore
  }

  /** Whole cells from where shapes lie to the middle of what is seen of their plane. */
  private toMiddle(shapes: readonly ShapeNode[]): PlanePoint {
    const plane = this.view.plane();
    const boxes = shapes.flatMap((shape) => outlineBox(shape.outline) ?? []);
    const inverse = invert33(this.pictures.planeContext(plane).options.sheetFromPlane);
    const [x, y] = [(this.view.width() / 2 - this.view.panX()) / this.view.zoom(), (this.view.height() / 2 - this.view.panY()) / this.view.zoom()];
    const at = inverse && apply33(inverse, x, y);
    if (!at || boxes.length === 0) return { u: 0, v: 0 };
    const middle = (low: number, high: number): number => (low + high) / 2;
    const u = middle(Math.min(...boxes.map((b) => b.minU)), Math.max(...boxes.map((b) => b.maxU)));
    const v = middle(Math.min(...boxes.map((b) => b.minV)), Math.max(...boxes.map((b) => b.maxV)));
    return { u: Math.round(at.x - u), v: Math.round(at.y - v) };
  }

  private refuse(problems: readonly Problem[]): void {
    const lines = problems.slice(0, 4).map(({ path, message }) => (path && !message.includes(path) ? `${path}: ${message}` : message));
    this.messages.say('bad', 'What was copied cannot be pasted', [...lines, 'The drawing is untouched.']);
  }
}

/** What tells whether two things lie in one place. */
function placeOf(node: DocumentNode): unknown {
  if (node.kind === 'shape') return [node.plane, node.outline];
  if (node.kind === 'group') return node.children.map(placeOf);
  return node.kind === 'placement' ? [node.target, node.anchor] : node.kind === 'copy' ? [node.of, node.by, node.axes, node.turn] : [node.from, node.to];
}
