import { patchState, signalStore, withMethods, withState } from '@ngrx/signals';

export type MessageTone = 'info' | 'good' | 'warn' | 'bad';

/** Something that the person should know: what happened, to what, and what to do. */
export interface Message {
  readonly id: number;
  readonly tone: MessageTone;
  readonly title: string;
  readonly lines: readonly string[];
  readonly action: { readonly label: string; readonly run: () => void } | null;
}

const SHOWN_FOR_MS = 6000;
/** Most messages at once, besides those that offer a way out. */
const MOST = 4;

/** Messages at the edge of the drawing. Good news leaves by itself; trouble stays until it is closed. */
export const MessageStore = signalStore(
  { providedIn: 'root' },
  withState<{ readonly messages: readonly Message[]; readonly next: number }>({ messages: [], next: 1 }),
  withMethods((store) => {
    const close = (id: number): void => patchState(store, { messages: store.messages().filter((m) => m.id !== id) });
    return {
      close,
      say(tone: MessageTone, title: string, lines: readonly string[] = [], action: Message['action'] = null): number {
        const id = store.next();
        const all = [...store.messages().filter((m) => m.title !== title), { id, tone, title, lines: lines.slice(0, 6), action }];
        // What offers a way out is pushed out by nothing.
        const pushed = all.filter((m) => !m.action).slice(0, -MOST);
        patchState(store, { messages: all.filter((m) => !pushed.includes(m)), next: id + 1 });
        if (tone === 'good' || tone === 'info') setTimeout(() => close(id), SHOWN_FOR_MS);
        return id;
      },
    };
  }),
);
