import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { findNode, flatSheetOf, pickAt, sizeMm, spotsOnSheet, spotUnder, type Plane, type PlacementNode, type SheetPoint } from '@core';
import { DocumentStore } from './document.store';
import { PictureService } from './picture.service';
import { PointerStore } from './pointer.store';
import { StagesService } from './stages.service';
import { ViewStore } from './view.store';

/** How one of the two views is looked at, and what is chosen in it. */
interface Looked {
  readonly zoom: number;
  readonly panX: number;
  readonly panY: number;
  readonly plane: Plane;
  readonly selection: readonly string[];
}

/** Stages whose work is about space: they are of the drawing, not of a flat sheet. */
const SPACE_STAGES: ReadonlySet<string> = new Set(['projection', 'light', 'photo']);

/** Part of the room that the drawing has beside a flat sheet: least, most, and at first. */
const LEAST_SHARE = 0.2;
const MOST_SHARE = 0.8;

/** The sheet of an artwork beside the drawing: which is worked on, how each is looked at, and spots that are pointed at in both. */
@Injectable({ providedIn: 'root' })
export class FlatService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);
  private readonly stages = inject(StagesService);
  private readonly pointer = inject(PointerStore);
  private readonly opened = signal<string | null>(null);
  private readonly looks = new Map<string, Looked>();
  /** How the drawing was looked at before a sheet was opened beside it. */
  private before: (Looked & { readonly drawing: string }) | null = null;

  /** The artwork whose sheet is beside the drawing; null where there is none, or it is gone. */
  readonly artwork = computed(() => this.documents.whole().artworks.find(({ id }) => id === this.opened()) ?? null);
  /** Whether the sheet is worked on rather than the drawing. */
  readonly worked = computed(() => this.artwork() !== null && this.documents.sheetOf() !== null);
  /** The part of the room that the drawing has. */
  readonly share = signal(0.5);
  /** How the view that is not worked on is looked at; fitted when it is first shown. */
  readonly besideLook = signal<Pick<Looked, 'zoom' | 'panX' | 'panY'> | null>(null);
  /** The spot that is pointed at in the view that is not worked on, in mm of its sheet. */
  readonly besidePointer = signal<SheetPoint | null>(null);

  constructor() {
    // An artwork that is gone, by undo or by another drawing, has no sheet.
    effect(() => {
      if (this.opened() !== null && !this.artwork()) untracked(() => this.close());
    });
    effect(() => {
      if (SPACE_STAGES.has(this.view.stage()) && this.documents.sheetOf() !== null) untracked(() => this.work('drawing'));
    });
    // Flat sheets have no planes.
    effect(() => {
      if (this.documents.sheetOf() !== null && this.view.plane().kind !== 'sheet') untracked(() => this.view.setPlane('sheet'));
    });
  }

  /** Shows an artwork's sheet beside the drawing, to be worked on with the tools of Draw. */
  open(artwork: string): void {
    if (this.documents.sheetOf() !== null) this.work('drawing');
    if (this.opened() === null) this.before = { ...this.looked(), drawing: this.documents.whole().id };
    this.opened.set(artwork);
    this.view.patch({ artwork });
    this.looks.delete('flat');
    this.besideLook.set(null);
    this.work('flat');
    this.besideLook.set(null);
    if (this.view.stage() !== 'draw') this.stages.go('draw', 'pick');
  }

  close(): void {
    if (this.documents.sheetOf() !== null) this.work('drawing');
    this.opened.set(null);
    // Another drawing has its own look.
    if (this.before?.drawing === this.documents.whole().id) this.view.look(this.before.zoom, this.before.panX, this.before.panY);
    this.before = null;
    this.besideLook.set(null);
    this.besidePointer.set(null);
  }

  /** Works on the sheet, or on the drawing; each is looked at as it was before. */
  work(on: 'drawing' | 'flat'): void {
    const artwork = this.opened();
    const now = this.documents.sheetOf() === null ? 'drawing' : 'flat';
    if (now === on || (on === 'flat' && artwork === null)) return;
    this.view.setTool('pick');
    this.looks.set(now, this.looked());
    const known = this.looks.get(on) ?? null;
    const beside = this.besideLook();
    this.besideLook.set({ zoom: this.view.zoom(), panX: this.view.panX(), panY: this.view.panY() });
    this.besidePointer.set(null);
    this.documents.work(on === 'flat' ? artwork : null);
    this.view.select(known?.selection ?? []);
    this.view.patch({ alone: null, points: [], edge: null, lookBefore: null });
    this.view.putPlane(on === 'flat' ? { kind: 'sheet', offset: 0 } : (known?.plane ?? { kind: 'floor', offset: 0 }));
    if (beside) this.view.look(beside.zoom, beside.panX, beside.panY);
    else this.view.patch({ refit: this.view.refit() + 1 });
  }

  private looked(): Looked {
    const { zoom, panX, panY, plane, selection } = this.view;
    return { zoom: zoom(), panX: panX(), panY: panY(), plane: plane(), selection: selection() };
  }

  setShare(share: number): void {
    this.share.set(Math.max(LEAST_SHARE, Math.min(MOST_SHARE, share)));
  }

  /** The place of a px of the worked view on its sheet. */
  private onSheet({ x, y }: SheetPoint): SheetPoint {
    return { x: (x - this.view.panX()) / this.view.zoom(), y: (y - this.view.panY()) / this.view.zoom() };
  }

  /** Where what is pointed at in one view lies in the other: in mm of the other's sheet. */
  readonly marks = computed((): { readonly worked: readonly SheetPoint[]; readonly beside: readonly SheetPoint[] } => {
    const none = { worked: [], beside: [] };
    if (!this.artwork()) return none;
    const [px, beside] = [this.pointer.at(), this.besidePointer()];
    if (beside) return { worked: this.across(beside, this.worked() ? 'drawing' : 'flat'), beside: [beside] };
    return px ? { worked: [], beside: this.across(this.onSheet(px), this.worked() ? 'flat' : 'drawing') } : none;
  });

  /** Places of the other view that show what lies at a place of one of them. */
  private across(at: SheetPoint, from: 'drawing' | 'flat'): readonly SheetPoint[] {
    const artwork = this.artwork();
    if (!artwork) return [];
    const document = this.documents.wholeShown();
    const stage = this.pictures.wholeStage();
    const { width, height } = sizeMm(artwork);
    if (from === 'flat') {
      const inside = at.x >= 0 && at.y >= 0 && at.x <= width && at.y <= height;
      return inside ? spotsOnSheet(stage, document, artwork.id, { x: at.x / width, y: at.y / height }) : [];
    }
    const placement = this.placementAt(at);
    const spot = placement && spotUnder(stage, document, placement, at);
    return spot && spot.x >= 0 && spot.y >= 0 && spot.x <= 1 && spot.y <= 1 ? [{ x: spot.x * width, y: spot.y * height }] : [];
  }

  /** The placement of the artwork that is seen at a place of the drawing. */
  placementAt(at: SheetPoint): PlacementNode | null {
    const document = this.documents.wholeShown();
    const artwork = this.opened();
    const hit = pickAt(this.pictures.wholePicture(), at, 0, (id) => {
      const node = findNode(document, id);
      return node?.kind !== 'placement' || node.artwork !== artwork;
    });
    const node = hit && findNode(document, hit.node);
    return node?.kind === 'placement' ? node : null;
  }

  /** The sheet of the view that is not worked on, in mm. */
  readonly besideSheet = computed(() => {
    const document = this.documents.wholeShown();
    if (this.worked()) return document.sheet;
    const artwork = this.artwork();
    return (artwork && flatSheetOf(document, artwork.id)?.sheet) ?? document.sheet;
  });

  /** Goes to the other view: what was pressed there is chosen. */
  goTo(at: SheetPoint | null): void {
    const toDrawing = this.worked();
    const placement = at && toDrawing ? this.placementAt(at) : null;
    this.work(toDrawing ? 'drawing' : 'flat');
    if (placement) this.view.select([placement.id]);
  }

  /** The artwork of the first placement that is selected. */
  readonly selectedArtwork = computed(() => {
    const document = this.documents.kept();
    for (const id of this.view.selection()) {
      const node = findNode(document, id);
      if (node?.kind === 'placement') return node.artwork;
    }
    return null;
  });
}
