import { computed, inject, Injectable } from '@angular/core';
import {
  followSwatch,
  LOOSE_BOX,
  mapColours,
  outlineBox,
  plainColour,
  readPalette,
  swatchOf,
  type Checked,
  type Colour,
  type Edit,
  type SingleEdit,
  type Gradient,
  type Paint,
  type PlaneBox,
  type ShapeNode,
  type Swatch,
} from '@core';
import { newId } from '../platform/ids';
import { ArrangingService } from './arranging.service';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { ViewStore, type ColourSlot } from './view.store';

/** Paints the selection, and nothing else by that, or what is drawn next where nothing is selected; and keeps the palette. */
@Injectable({ providedIn: 'root' })
export class PaintingService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly arranging = inject(ArrangingService);
  private readonly messages = inject(MessageStore);

  /** Whether painting changes the selection, or else what comes next. */
  readonly ofSelection = computed(() => this.arranging.shapes().length > 0);
  readonly paint = computed((): Paint => (this.ofSelection() ? (this.arranging.shown()[0]?.paint ?? this.view.paint()) : this.view.paint()));
  readonly swatches = computed(() => this.documents.shown().swatches);

  /** Another paint for every selected shape, or for what comes next. @param keep whether the step is made, or only shown */
  change(change: (paint: Paint, shape: ShapeNode | null) => Paint, label = 'paint', keep = true): void {
    if (!this.ofSelection()) {
      if (keep) this.view.patch({ paint: change(this.view.paint(), null) });
      return;
    }
    const shapes = this.arranging.shapes();
    const items = shapes.map((shape) => ({ id: shape.id, paint: change(shape.paint, shape) }));
    const edit: Edit = { kind: 'paints', items };
    if (keep) this.documents.commit(edit, `${label} ${shapes.length === 1 ? shapes[0]!.name : `${shapes.length} shapes`}`);
    else this.documents.show(edit);
  }

  /** What is drawn next is painted as the first selected shape is, all of it: fill with its stops, line, strength and blend. */
  nextLikeThis(): void {
    const [shape] = this.arranging.shapes();
    if (!shape) return void this.messages.say('info', 'Select a shape first', ['What is drawn next is then painted like it.']);
    this.view.patch({ paint: shape.paint });
    this.messages.say('good', `What is drawn next is painted like “${shape.name}”`);
  }

  /** A colour for the fill, the line or a stop. */
  setColour(slot: ColourSlot, colour: Colour, keep = true): void {
    if (keep) this.view.noteColour(colour);
    this.change((paint) => withColour(paint, slot, colour), 'paint', keep);
  }

  colourOf(slot: ColourSlot): Colour | null {
    const { fill, line } = this.paint();
    if (slot.kind === 'line') return line?.colour ?? null;
    if (slot.kind === 'stop') return fill && typeof fill !== 'string' ? (fill.stops[slot.index]?.colour ?? null) : null;
    return typeof fill === 'string' ? fill : null;
  }

  plain(colour: Colour): string {
    return plainColour(colour, this.swatches());
  }

  /** Fills with nothing, one colour, or a gradient that runs across each shape; colours are taken over. */
  fillWith(kind: 'none' | 'colour' | Gradient['kind']): void {
    this.change((paint, shape) => ({ ...paint, fill: filled(paint, kind, (shape && outlineBox(shape.outline)) ?? LOOSE_BOX) }), 'fill');
  }

  setSwatches(swatches: readonly Swatch[], label: string): void {
    this.documents.commit({ kind: 'swatches', swatches }, label);
  }

  /** A new swatch of a colour, which what is painted with it then follows. */
  addSwatch(slot: ColourSlot): void {
    const colour = this.colourOf(slot);
    if (colour === null || swatchOf(colour)) return;
    const swatch: Swatch = { id: newId(), name: `colour ${this.swatches().length + 1}`, colour };
    this.setSwatches([...this.documents.kept().swatches, swatch], `add swatch ${swatch.name}`);
    this.setColour(slot, followSwatch(swatch.id));
  }

  changeSwatch(id: string, part: Partial<Pick<Swatch, 'name' | 'colour'>>, keep = true): void {
    const swatches = this.documents.kept().swatches.map((s) => (s.id === id ? { ...s, ...part } : s));
    const edit: Edit = { kind: 'swatches', swatches };
    if (keep) this.documents.commit(edit, `change swatch ${swatches.find((s) => s.id === id)?.name ?? ''}`);
    else this.documents.show(edit);
  }

  /** Takes a swatch away; what followed it keeps its colour as its own. */
  removeSwatch(id: string): void {
    const { swatches } = this.documents.kept();
    const fixed = (colour: Colour): Colour => (swatchOf(colour)?.id === id ? plainColour(colour, swatches) : colour);
    const items = this.documents.entries().flatMap(({ node }) => {
      if (node.kind !== 'shape') return [];
      const paint = mapColours(node.paint, fixed);
      return JSON.stringify(paint) === JSON.stringify(node.paint) ? [] : [{ id: node.id, paint }];
    });
    const edits: SingleEdit[] = [{ kind: 'swatches', swatches: swatches.filter((s) => s.id !== id) }];
    if (items.length > 0) edits.unshift({ kind: 'paints', items });
    this.documents.commit({ kind: 'all', edits }, 'remove swatch');
    this.view.patch({ paint: mapColours(this.view.paint(), fixed) });
  }

  /** The swatches of a text added to the palette. */
  importPalette(text: Checked<string>, name: string): void {
    const read = text.ok ? readPalette(text.value, newId) : text;
    if (!read.ok)
      return void this.messages.say(
        'bad',
        `“${name}” holds no palette`,
        read.problems.map((p) => p.message),
      );
    this.setSwatches([...this.documents.kept().swatches, ...read.value].slice(0, 500), `import ${read.value.length} swatches`);
    this.messages.say(read.notes.length > 0 ? 'warn' : 'good', `${read.value.length} swatches were added`, read.notes.slice(0, 4).map((n) => n.message)); // prettier-ignore
  }
}

function withColour(paint: Paint, slot: ColourSlot, colour: Colour): Paint {
  if (slot.kind === 'line') return { ...paint, line: paint.line ? { ...paint.line, colour } : { colour, width: 0.4 } };
  if (slot.kind === 'fill') return { ...paint, fill: colour };
  const { fill } = paint;
  if (fill === null || typeof fill === 'string') return paint;
  return { ...paint, fill: { ...fill, stops: fill.stops.map((stop, i) => (slot.kind === 'stop' && i === slot.index ? { ...stop, colour } : stop)) } };
}

function filled(paint: Paint, kind: 'none' | 'colour' | Gradient['kind'], box: PlaneBox): Paint['fill'] {
  const { fill } = paint;
  const first = fill === null ? '#c98a4b' : typeof fill === 'string' ? fill : (fill.stops[0]?.colour ?? '#c98a4b');
  if (kind === 'none') return null;
  if (kind === 'colour') return first;
  const stops = fill !== null && typeof fill !== 'string' ? fill.stops : [{ at: 0, colour: first, strength: 1 }, { at: 1, colour: '#f1ede5', strength: 1 }]; // prettier-ignore
  const middle = { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 };
  if (kind === 'linear') return { kind, from: { u: box.minU, v: middle.v }, to: { u: box.maxU, v: middle.v }, stops };
  // Around a point the end meets the start: with two stops it runs there and back.
  const around = fill === null || typeof fill === 'string' ? [...stops.map((stop) => ({ ...stop, at: stop.at / 2 })), { ...stops[0]!, at: 1 }] : stops;
  if (kind === 'conic') return { kind, centre: middle, edge: { u: box.maxU, v: middle.v }, stops: around };
  return { kind, centre: middle, edge: { u: box.maxU, v: middle.v }, stops };
}
