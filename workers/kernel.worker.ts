import type { Body } from '../core/geometry/body';
import type { JoinKind, Part } from '../core/geometry/joined-recipe';
import { joinedBody } from '../core/joining/join';
import { loadKernel } from './load-kernel';
import { offer } from './offer';

/** Joins solids away from the page. */
const api = {
  /** @throws CoreError where a part does not close */
  join: async (parts: readonly Part[], how: JoinKind): Promise<Body | null> => joinedBody(await loadKernel(), parts, how),
};

export type KernelWorker = typeof api;

offer(api);
