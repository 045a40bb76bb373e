import Dexie from 'dexie';
import { openKept, svgsOfKept, type KeptDrawing, type OpenedKept } from '../core/document/kept';
import type { Step } from '../core/document/history';
import { offer } from './offer';

/** What storage has beside a drawing and its steps. */
interface Rest {
  readonly name: string;
  readonly draft: unknown;
  readonly revision: number;
}

/** Opens kept drawings away from the page: read from storage, checked, their steps replayed. */
const api = {
  /** @param name of the database, which the page has opened before @returns null where there is no such drawing */
  open: async (name: string, id: string): Promise<{ readonly opened: OpenedKept; readonly rest: Rest } | null> => {
    const db = await new Dexie(name).open();
    try {
      const kept = (await db.table('drawings').get(id)) as (KeptDrawing & Rest) | undefined;
      if (!kept) return null;
      const rows = (await db.table('steps').where('drawing').equals(id).sortBy('index')) as { readonly step: Step }[];
      const steps = rows.map(({ step }) => step);
      const found = (await db.table('assets').bulkGet([...svgsOfKept(kept, steps)])) as ({ readonly hash: string; readonly bytes: Uint8Array } | undefined)[];
      const text = new TextDecoder();
      const svgs = new Map(found.flatMap((asset) => (asset ? [[asset.hash, text.decode(asset.bytes)] as const] : [])));
      const { name: title, draft, revision } = kept;
      return { opened: openKept(kept, steps, svgs), rest: { name: title, draft, revision } };
    } finally {
      db.close();
    }
  },
};

export type OpeningWorker = typeof api;

offer(api);
