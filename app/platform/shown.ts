import { Subject } from 'rxjs';

/** Tells when the first drawing is there: what is fetched ahead for work without a network waits for it. */
export const shown = new Subject<void>();
