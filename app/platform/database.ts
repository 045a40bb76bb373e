import Dexie, { type Table } from 'dexie';
import { bytesOf, type CheminDocument, type GridSettings, type Lettering, type Plane, type PlanePoint, type ProjectionSetup, type Step } from '@core';

/** An outline that is being drawn. */
export interface OutlineDraft {
  readonly plane: Plane;
  readonly points: readonly PlanePoint[];
}

/** Text that is being typed. */
export interface TextDraft {
  readonly lettering: Lettering;
  /** Where it is begun, as the one that writes it tells; of text that is changed, null. */
  readonly writing: unknown;
  /** The lettering that is changed. */
  readonly changes: string | null;
}

/** What is in hand: kept with the drawing and in one with it, so that leaving the page loses none of it. */
export type Draft = OutlineDraft | TextDraft;

/** A kept drawing without its steps. */
export interface StoredDrawing {
  readonly id: string;
  readonly name: string;
  /** Milliseconds since 1970 of the last change, and of the deletion or 0. */
  readonly changed: number;
  readonly deleted: number;
  /** Grows with every save, so that a second page notices that it is behind. */
  readonly revision: number;
  readonly document: CheminDocument;
  readonly base: CheminDocument;
  readonly position: number;
  readonly stepCount: number;
  readonly draft: Draft | null;
}

export interface StoredStep {
  readonly drawing: string;
  readonly index: number;
  readonly step: Step;
}

/** A projection and grid kept by name, to be used in any drawing. */
export interface StoredSetup {
  readonly id: string;
  readonly name: string;
  readonly projection: ProjectionSetup;
  readonly grid: GridSettings;
}

/** An object kept by name, apart from any drawing: its part of a drawing as text. */
export interface StoredObject {
  readonly id: string;
  readonly name: string;
  readonly part: string;
}

/** Bytes that drawings name. */
export interface StoredAsset {
  readonly hash: string;
  readonly bytes: Uint8Array;
}

/** The browser's own storage: drawings, their steps, and a few settings. */
export class CheminDatabase extends Dexie {
  readonly drawings!: Table<StoredDrawing, string>;
  readonly steps!: Table<StoredStep, [string, number]>;
  readonly settings!: Table<{ readonly key: string; readonly value: unknown }, string>;
  /** Bytes by their SHA-256, kept once and apart from the drawings that name them, which are written at every change. */
  readonly assets!: Table<StoredAsset, string>;
  readonly setups!: Table<StoredSetup, string>;
  readonly objects!: Table<StoredObject, string>;

  constructor(name = 'chemin') {
    super(name);
    this.version(1).stores({ drawings: 'id, changed, deleted', steps: '[drawing+index], drawing', settings: 'key' });
    this.version(2).stores({ bitmaps: 'id', setups: 'id, name' });
    // Bitmaps were kept as base64, named by the first half of the hash of what they hold.
    this.version(3)
      .stores({ assets: 'hash' })
      .upgrade(async (all) => {
        await all.table('bitmaps').each(({ id, data }: { id: string; data: string }) => all.table('assets').put({ hash: id, bytes: bytesOf(data) }));
      });
    this.version(4).stores({ bitmaps: null });
    this.version(5).stores({ objects: 'id, name' });
  }
}
