import { computed, inject, Injectable } from '@angular/core';
import {
  apply33,
  automaticName,
  boundsAll,
  drawnBody,
  drawnNodes,
  emptyDocument,
  exactCells,
  faceNamed,
  findShape,
  holds,
  idsWithin,
  invert33,
  rectangleOutline,
  sheetFromPlane,
  sunOf,
  viewerDeg,
  type DocumentNode,
  type Edit,
  type Light,
  type Paint,
  type ShapeNode,
  type Shadows,
  type Sun,
  type SurfaceName,
} from '@core';
import { newId } from '../../platform/ids';
import { MessageStore } from '../../platform/messages.store';
import { ViewStore } from '../../state/view.store';
import { ArrangingService } from '../../state/arranging.service';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';

/** What shadows are before anything is said about them. */
const UNTOUCHED = emptyDocument('', '').light.sun;
/** Degrees from the viewer's place, seen from above, at which a sun throws shadows aside. */
const BESIDE = -75;
const sameSun = (p: Sun, q: Sun): boolean => p.azimuthDeg === q.azimuthDeg && p.elevationDeg === q.elevationDeg;
const NO_SHADOWS: Shadows = { on: false };
/** The edge of a key of tones as a part of the sheet. */
const KEY_SHARE = 0.07;
const FLOOR = { kind: 'floor', offset: 0 } as const;

/** Changes the light of the drawing: where it comes from, its shadows, and which things throw them. Each is one step. */
@Injectable({ providedIn: 'root' })
export class LightService {
  private readonly documents = inject(DocumentStore);
  private readonly arranging = inject(ArrangingService);
  private readonly messages = inject(MessageStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);

  readonly light = computed(() => this.documents.shown().light);
  readonly shadows = computed(() => this.light().shadows ?? NO_SHADOWS);
  /** Where the sun stands in the world, wherever it is kept to. */
  readonly sun = computed((): Sun => sunOf(this.documents.shown()));

  /** @param keep makes it a step; else it is only shown */
  set(light: Light, keep: boolean, label: string): void {
    const edit: Edit = { kind: 'light', light };
    if (keep) this.documents.commit(edit, label);
    else this.documents.show(edit);
  }

  /** The light as it is kept, with a sun at a place of the world's sky and no lamp. */
  lightWithSun(sun: Sun): Light {
    const { lamp: _, ...light } = this.documents.kept().light;
    return { ...light, sun: this.asKept(sun, light.keep) };
  }

  private asKept({ azimuthDeg, elevationDeg }: Sun, keep: Light['keep']): Sun {
    const turn = keep === 'picture' ? viewerDeg(this.documents.kept().projection) : 0;
    const degrees = Math.round((((azimuthDeg - turn) % 360) + 360) * 1000) / 1000;
    return { azimuthDeg: degrees % 360, elevationDeg };
  }

  /** Keeps the sun to the picture, or to the world: it stays where it is now. */
  keepTo(picture: boolean): void {
    const { keep: _, ...light } = this.documents.kept().light;
    const now = sunOf(this.documents.kept());
    const kept = picture ? ({ keep: 'picture' } as const) : {};
    this.set({ ...light, ...kept, sun: this.asKept(now, kept.keep) }, true, picture ? 'keep the sun to the picture' : 'keep the sun to the world');
  }

  setShadows(part: Partial<Shadows>, without: readonly (keyof Shadows)[] = [], label = 'change the shadows', keep = true): void {
    const { light } = this.documents.kept();
    const all = Object.entries({ ...(light.shadows ?? NO_SHADOWS), ...part });
    const shadows = Object.fromEntries(all.filter(([name]) => !without.some((other) => other === name))) as unknown as Shadows;
    this.set({ ...light, shadows }, keep, label);
  }

  /** Switches all shadows on or off. Where nothing lies below what is drawn they fall on an endless floor at first. */
  castShadows(on: boolean): void {
    const { light, projection } = this.documents.kept();
    const first = light.shadows === undefined;
    if (first && on && !light.lamp && sameSun(light.sun, UNTOUCHED)) {
      // Nobody has said where the sun stands: the first shadow falls beside what throws it, where it is seen.
      const seen = this.lightWithSun({ azimuthDeg: (BESIDE + viewerDeg(projection) + 720) % 360, elevationDeg: light.sun.elevationDeg });
      return this.set({ ...seen, shadows: { ...NO_SHADOWS, on, floor: this.lowest() } }, true, 'cast shadows');
    }
    this.setShadows({ on, ...(first && on && { floor: this.lowest() }) }, [], on ? 'cast shadows' : 'cast no shadows');
  }

  /** The height in cells of the lowest thing. */
  private lowest(): number {
    const box = boundsAll(drawnNodes(this.documents.kept()).flatMap((drawn) => (drawn.hidden ? [] : (drawnBody(drawn) ?? []))));
    return box ? exactCells(box.min.h) : 0;
  }

  /** The selected things as they are shown. */
  readonly chosen = computed((): readonly DocumentNode[] => this.arranging.nodes());

  setFlag(name: 'casts' | 'receives' | 'lined', on: boolean): void {
    const nodes = this.chosen();
    if (nodes.length === 0) return void this.messages.say('info', 'Select what is meant first');
    const changed = nodes.map(({ [name]: _, ...node }) => ({ ...node, ...(!on && { [name]: false as const }) }) as DocumentNode);
    const what = nodes.length === 1 ? nodes[0]!.name : `${nodes.length} things`;
    const labels = {
      casts: `${on ? 'let' : 'let no'} shadows fall from ${what}`,
      receives: `${on ? 'show' : 'hide'} shadows on ${what}`,
      lined: `${on ? 'draw' : 'draw no'} lines round ${what}`,
    };
    this.documents.commit({ kind: 'change', nodes: changed }, labels[name]);
  }

  /** Changes what the selected things have of their own in the light; null takes it away. */
  setOwn<K extends 'ramp' | 'tint' | 'contour'>(name: K, value: NonNullable<DocumentNode[K]> | null, keep = true): void {
    const nodes = this.chosen();
    if (nodes.length === 0) return void this.messages.say('info', 'Select what is meant first');
    const changed = nodes.map(({ [name]: _, ...node }) => ({ ...node, ...(value && { [name]: value }) }) as unknown as DocumentNode);
    const what = nodes.length === 1 ? nodes[0]!.name : `${nodes.length} things`;
    const words = { ramp: 'tones', tint: 'tint', contour: 'contour' };
    const edit: Edit = { kind: 'change', nodes: changed };
    if (keep) this.documents.commit(edit, `${value ? 'change' : 'take away'} the ${words[name]} of ${what}`);
    else this.documents.show(edit);
  }

  /** What the selected things have of their own, where all have it: the first one's. */
  readonly own = computed(() => {
    const nodes = this.chosen();
    const first = <K extends 'ramp' | 'tint' | 'contour'>(name: K): NonNullable<DocumentNode[K]> | null => (nodes.length > 0 && nodes.every((node) => node[name] !== undefined) ? nodes[0]![name]! : null); // prettier-ignore
    return { ramp: first('ramp'), tint: first('tint'), contour: first('contour') };
  });

  /** Lays the floor that shadows fall on under all that is drawn, or on top of what is selected. */
  layFloor(): void {
    const nodes = new Set(this.arranging.nodes().flatMap(idsWithin));
    const bodies = drawnNodes(this.documents.kept()).flatMap((drawn) => (drawn.hidden || (nodes.size > 0 && !nodes.has(drawn.owner)) ? [] : (drawnBody(drawn) ?? []))); // prettier-ignore
    const box = boundsAll(bodies);
    if (!box) return void this.messages.say('info', 'Nothing of it lies in space');
    this.setShadows({ floor: exactCells(nodes.size > 0 ? box.max.h : box.min.h) }, [], 'lay the floor');
  }

  /** What the lamp stands inside of; it shines through that. */
  readonly around = computed((): readonly string[] => {
    const document = this.documents.shown();
    const { lamp, shadows } = document.light;
    if (!lamp || !shadows?.on) return [];
    const names = drawnNodes(document).flatMap((drawn) => {
      const body = drawn.hidden ? null : drawnBody(drawn);
      return body && holds(body, lamp.at) ? [drawn.node.name] : [];
    });
    return [...new Set(names)];
  });

  /** Puts a small solid into a corner of the sheet, which shows what the light makes of a colour, and goes on doing so. */
  putKey(fill: string): void {
    const document = this.documents.kept();
    const { sheet, grid } = document;
    const { cell, sight } = this.pictures.geometry();
    const size = Math.max(1, Math.round((KEY_SHARE * sheet.height) / cell));
    const back = invert33(sheetFromPlane(sight.projection, FLOOR, cell));
    const at = back && apply33(back, KEY_SHARE * sheet.width * 1.5, sheet.height * (1 - 1.5 * KEY_SHARE));
    const [u, v] = [Math.round(at?.x ?? 0), Math.round(at?.y ?? 0)];
    const place = Math.max(Math.abs(u), Math.abs(v)) * grid.cell < 100 * (sheet.width + sheet.height) ? { u, v } : { u: 0, v: 0 };
    const node: ShapeNode = {
      kind: 'shape',
      id: newId(),
      name: automaticName(document, 'key of tones', ''),
      hidden: false,
      locked: false,
      casts: false,
      receives: false,
      plane: FLOOR,
      outline: rectangleOutline(place, { u: place.u + size, v: place.v + size }),
      depth: size,
      paint: { fill, line: null },
    };
    this.documents.commit({ kind: 'add', nodes: [node], artworks: [] }, 'put a key of tones on the sheet');
    this.view.select([node.id]);
  }

  /** What can keep its colour: the face that was pressed, of solids that are one too, else all shapes that are selected. */
  private readonly coloured = computed((): { readonly shapes: readonly ShapeNode[]; readonly face: SurfaceName | null } => {
    const document = this.documents.kept();
    const [name, chosen] = [this.view.face(), this.view.selection()];
    const seen = name !== null && chosen.length === 1 ? faceNamed(document, chosen[0]!, name) : null;
    const host = seen && findShape(document, seen.shape);
    if (host && host.depth !== 0) return { shapes: [host], face: seen.face };
    return {
      shapes: this.arranging.shapes().filter(({ paint, surfaces }) => [paint, ...Object.values(surfaces ?? {})].some(({ fill }) => fill !== null)),
      face: null,
    };
  });

  /** Whether all, some or none of what is selected keeps its colour in any light; null where nothing could. */
  readonly unlit = computed((): 'all' | 'some' | 'none' | null => {
    const { shapes, face } = this.coloured();
    const paints = shapes.flatMap((shape) => (face !== null ? [paintOfFace(shape, face)] : [shape.paint, ...Object.values(shape.surfaces ?? {})]));
    const count = paints.filter(({ unlit }) => unlit === true).length;
    return paints.length === 0 ? null : count === 0 ? 'none' : count === paints.length ? 'all' : 'some';
  });

  /** What that speaks of, in words. */
  readonly unlitWords = computed(() => {
    const { shapes, face } = this.coloured();
    return shapes.length > 1
      ? `Keep these ${shapes.length} colours in any light`
      : face !== null
        ? 'This face keeps its colour in any light'
        : 'Keeps this colour in any light';
  });

  /** The thing of whose faces one was pressed, for acts on all of them; null where none was. */
  readonly faceOf = computed(() => {
    if (this.coloured().face === null) return null;
    const paints = this.arranging.shapes().flatMap(({ paint, surfaces }) => [paint, ...Object.values(surfaces ?? {})]);
    return { name: this.arranging.nodes()[0]?.name ?? '', kept: paints.every(({ unlit }) => unlit === true) };
  });

  /** Keeps the colours of all faces of the thing of which one was pressed, or lets them go. */
  setAllUnlit(on: boolean): void {
    const face = this.view.face();
    this.view.select(this.view.selection());
    this.setUnlit(on);
    this.view.select(this.view.selection(), face);
  }

  /** Keeps the colour of the face that was pressed, or of everything selected, as it is whatever the light does. */
  setUnlit(on: boolean): void {
    const { shapes, face } = this.coloured();
    if (shapes.length === 0) return;
    const kept = ({ unlit: _, ...plain }: Paint): Paint => (on ? { ...plain, unlit: true } : plain);
    const nodes = shapes.map((shape): ShapeNode => {
      if (face !== null) return { ...shape, surfaces: { ...shape.surfaces, [face]: kept(paintOfFace(shape, face)) } };
      const surfaces = shape.surfaces && Object.fromEntries(Object.entries(shape.surfaces).map(([name, paint]) => [name, kept(paint)]));
      return { ...shape, paint: kept(shape.paint), ...(surfaces && { surfaces }) };
    });
    const what = nodes.length === 1 ? nodes[0]!.name : `${nodes.length} things`;
    this.documents.commit({ kind: 'change', nodes }, `${on ? 'keep' : 'tone'} the colour of ${what}`);
  }
}

const paintOfFace = ({ surfaces, paint }: ShapeNode, face: SurfaceName): Paint => surfaces?.[face] ?? paint;
