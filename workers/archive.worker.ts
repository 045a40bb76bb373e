import { transfer } from 'comlink';
import { readArchive, writeArchive, type Packed } from '../core/document/archive';
import type { Assets } from '../core/document/named-artworks';
import type { CheminDocument } from '../core/document/types';
import type { Checked } from '../core/math/errors';
import { offer } from './offer';

/** Writes and reads project files away from the page: bytes, hashes, and the checks of what comes in. */
const api = {
  write: async (document: CheminDocument, assets: Assets): Promise<Uint8Array> => {
    const bytes = await writeArchive(document, assets);
    return transfer(bytes, [bytes.buffer as ArrayBuffer]);
  },
  read: (bytes: Uint8Array): Promise<Checked<Packed>> => readArchive(bytes),
};

export type ArchiveWorker = typeof api;

offer(api);
