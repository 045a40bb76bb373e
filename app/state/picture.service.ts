import { computed, effect, inject, Injectable, signal } from '@angular/core';
import {
  axesAt,
  catchSource,
  cellsFromPlane,
  drawnCorners,
  exactCells,
  flatSheetOf,
  everyEdge,
  geometry,
  planeKey,
  PictureMaker,
  sheetDistance,
  settled,
  sheetFromPlane,
  sheetFromWorld,
  type CatchSource,
  type CheminDocument,
  type DocumentNode,
  type Picture,
  type Plane,
  type PlanePoint,
  type SheetPoint,
  type Unjoined,
  type WorldPoint,
} from '@core';
import { MessageStore } from '../platform/messages.store';
import { catchPointer } from '../tools/catching';
import type { PlaneContext } from '../tools/tool';
import { DocumentStore } from './document.store';
import { ViewStore } from './view.store';

const NOTHING: CatchSource = { points: [], edges: [], centres: [], chords: [] };

/** Most points that are remembered of those passed over. */
const MOST_HINTS = 6;

/** Things of a drawing above which its first picture is made in pieces, and the ms that the page is kept by one of them. */
const MANY = 200;
const PIECE_MS = 12;
/** Mm within which corners are drawn at one place. */
const SAME_ON_SHEET = 1e-6;
/** Ms that a drawing waits to be opened for the solids that are joined in it. */
const LONGEST_WAIT_MS = 1500;
/** Ms after which a person is told what is waited for. */
const WAIT_SAID_MS = 300;

/** The picture of the shown document, and what can be caught in it; made once a change. */
@Injectable({ providedIn: 'root' })
export class PictureService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);
  private maker = new PictureMaker();
  /** The one of an artwork's sheet, while that is worked on or beside. */
  private readonly flatMaker = new PictureMaker();

  /** The document as it is looked at: without what is hidden for the moment. */
  private readonly seen = computed(() => {
    const document = this.documents.shown();
    const alone = this.view.alone();
    return alone ? onlyThese(document, new Set(alone)) : document;
  });
  /** Counts what a kernel has made since: the picture is then another though the document is the same. */
  private readonly made = signal(0);
  private readonly haste = computed(() => (this.documents.preview() === null ? 'soon' : 'quick'));
  /** What is worked on. */
  readonly picture = computed(() => (this.documents.sheetOf() === null ? this.drawingPicture() : this.flatPicture()));
  private readonly drawingPicture = computed(() => {
    this.made();
    return this.maker.make(this.documents.sheetOf() === null ? this.seen() : this.documents.wholeShown(), this.haste());
  });
  private readonly flatPicture = computed(() => {
    this.made();
    return this.flatMaker.make(this.seen(), this.haste());
  });
  /** The drawing, also while a flat sheet is worked on. */
  readonly wholePicture = this.drawingPicture;
  readonly wholeStage = computed(() => this.maker.stageOf(this.documents.wholeShown()));

  /** The picture of an artwork's sheet that is beside the drawing. */
  flatBeside(artwork: string): Picture | null {
    const flat = flatSheetOf(this.documents.wholeShown(), artwork);
    return flat && this.flatMaker.make(flat, this.haste());
  }

  /** The picture as it is handed over: nothing of it is still to be made exact. */
  exact(): Picture {
    const picture = this.picture();
    return picture.later || this.haste() === 'quick' ? this.own().make(this.seen()) : picture;
  }

  /**
   * Once everything that a kernel makes of what is worked on is made: the things for which that failed.
   * @param waiting what is said where a person has to wait for it
   */
  async settled(waiting: string): Promise<readonly Unjoined[]> {
    let said: number | null = null;
    const timer = setTimeout(() => (said = this.messages.say('info', waiting)), WAIT_SAID_MS);
    try {
      return await settled(this.documents.kept());
    } finally {
      clearTimeout(timer);
      if (said !== null) this.messages.close(said);
    }
  }

  /** The maker of what is worked on. */
  private own(): PictureMaker {
    return this.documents.sheetOf() === null ? this.maker : this.flatMaker;
  }

  /** Every edge in space, hidden ones too, while the drawing is looked through. */
  readonly edges = computed(() => {
    this.made();
    return this.view.seeThrough() ? everyEdge(this.seen(), this.own().stageOf(this.documents.shown())) : [];
  });
  readonly geometry = computed(() => this.own().stageOf(this.documents.shown()));

  constructor() {
    geometry.listen(() => this.made.update((count) => count + 1));
    // What was left for later is made between what the page has to do, unless another picture is wanted meanwhile.
    effect((onCleanup) => {
      const { later } = this.picture();
      if (!later) return;
      let wanted = true;
      onCleanup(() => (wanted = false));
      void inPieces(later, () => wanted).then((done) => done && this.made.update((count) => count + 1));
    });
  }

  /**
   * Makes the first picture of a document that is about to be opened, in pieces between which the page goes on with what
   * it shows. What solids are joined to is waited for a little, so that a drawing does not open with its parts unjoined.
   * @returns what to call right before the document is shown
   */
  async prepare(document: CheminDocument): Promise<() => void> {
    await Promise.race([settled(document), new Promise((go) => setTimeout(go, LONGEST_WAIT_MS))]);
    if (document.nodes.length < MANY) return () => undefined;
    const maker = new PictureMaker();
    await inPieces(maker.making(document, 'soon'), () => true);
    return () => void (this.maker = maker);
  }

  /** Catch sources by plane, of the document as it is kept; emptied with it. */
  private readonly contexts = computed(() => {
    this.documents.kept();
    this.made();
    this.view.zoom();
    this.view.snapping();
    this.view.catchOff();
    this.view.parts();
    return new Map<string, PlaneContext>();
  });

  /** What can be caught by plane, whatever the look; emptied when the drawing or its projection is another. */
  private readonly sources = computed(() => {
    this.documents.kept();
    this.made();
    this.geometry();
    return new Map<string, CatchSource>();
  });

  private sourceOn(plane: Plane, key: string): CatchSource {
    if (!this.view.snapping()) return NOTHING;
    const sources = this.sources();
    let source = sources.get(key);
    if (!source) sources.set(key, (source = catchSource(this.documents.kept(), plane)));
    return source;
  }

  planeContext(plane: Plane): PlaneContext {
    const key = planeKey(plane);
    const contexts = this.contexts();
    let context = contexts.get(key);
    if (!context) {
      const geometry = this.geometry();
      context = {
        plane,
        options: {
          sheetFromPlane: sheetFromPlane(geometry.sight.projection, plane, geometry.cell),
          pxPerUnit: this.view.zoom(),
          grid: this.view.snapping(),
          off: new Set(this.view.catchOff()),
          parts: this.view.parts(),
          hints: this.hintsOn(key),
          ...(plane.kind === 'sheet' && { axes: (at: PlanePoint) => axesAt(geometry.sight.projection, geometry.cell, at) }),
        },
        source: this.sourceOn(plane, key),
      };
      contexts.set(key, context);
    }
    return context;
  }

  /** Points that the pointer passed over, by plane: what comes next may be aligned with them. */
  private readonly hints = new Map<string, PlanePoint[]>();

  private hintsOn(key: string): PlanePoint[] {
    let hints = this.hints.get(key);
    if (!hints) this.hints.set(key, (hints = []));
    return hints;
  }

  /** Remembers a point that the pointer has caught. */
  passOver(plane: Plane, { u, v }: PlanePoint): void {
    const hints = this.hintsOn(planeKey(plane));
    const known = hints.findIndex((p) => p.u === u && p.v === v);
    if (known >= 0) hints.splice(known, 1);
    hints.push({ u, v });
    if (hints.length > MOST_HINTS) hints.shift();
  }

  /** Corners of everything drawn in space, with their places on the sheet. */
  private readonly corners = computed(() => {
    this.made();
    const geometry = this.geometry();
    return drawnCorners(this.documents.kept(), geometry).flatMap((world) => {
      const on = sheetFromWorld(geometry.sight.projection, world);
      return on ? [{ on, world }] : [];
    });
  });

  /** What is nearest to a place of the sheet in space, in cells: a corner within reach, else what is caught on a plane. */
  spaceAt(at: SheetPoint, plane: Plane, reach: number): { readonly at: WorldPoint; readonly word: string } | null {
    const { cell, sight } = this.geometry();
    const [a, b, h, w] = sight.projection.eye;
    const nearness = (p: WorldPoint): number => (w === 0 ? p.a * a + p.b * b + p.h * h : -Math.hypot(p.a - a / w, p.b - b / w, p.h - h / w));
    let best: WorldPoint | null = null;
    let least = reach;
    for (const { on, world } of this.corners()) {
      const d = sheetDistance(on, at);
      // Of corners that are drawn at one place, the one that is seen.
      const same = best !== null && Math.abs(d - least) < SAME_ON_SHEET;
      if (same ? nearness(world) > nearness(best!) : d < least) [best, least] = [world, d];
    }
    if (best) return { at: { a: exactCells(best.a / cell), b: exactCells(best.b / cell), h: exactCells(best.h / cell) }, word: 'corner' };
    const caught = catchPointer(this.planeContext(plane), at, [], { lock: false, free: false });
    return caught && { at: cellsFromPlane(plane, caught), word: caught.kind };
  }
}

/** Runs work in pieces between which the page goes on. @returns whether it came to its end; not where it was no longer wanted */
async function inPieces(work: Iterator<undefined, unknown>, wanted: () => boolean): Promise<boolean> {
  let until = performance.now() + PIECE_MS;
  while (!work.next().done) {
    if (performance.now() < until) continue;
    await new Promise((go) => setTimeout(go));
    if (!wanted()) return false;
    until = performance.now() + PIECE_MS;
  }
  return wanted();
}

/** A document in which everything but some things is hidden. */
function onlyThese(document: CheminDocument, ids: ReadonlySet<string>): CheminDocument {
  const visit = (nodes: readonly DocumentNode[]): readonly DocumentNode[] =>
    nodes.map((node) => {
      if (ids.has(node.id)) return node;
      return node.kind === 'group' ? { ...node, children: visit(node.children) } : { ...node, hidden: true };
    });
  return { ...document, nodes: visit(document.nodes) };
}
