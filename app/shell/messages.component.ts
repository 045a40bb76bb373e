import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { MessageModule } from 'primeng/message';
import { HandlesService } from '../drawing/handles.service';
import { MessageStore, type Message } from '../platform/messages.store';
import { PictureService } from '../state/picture.service';
import { ViewStore } from '../state/view.store';
import { freeCorner, MARGIN, type Box, type Corner } from './message-place';

/** What the library calls the tones of messages. */
const SEVERITIES: { readonly [tone in Message['tone']]: 'success' | 'info' | 'warn' | 'error' } = { good: 'success', info: 'info', warn: 'warn', bad: 'error' };

/** Px that a stack of messages is wide at most, and about as high as its titles, lines and actions are. */
const WIDTH = 400;
const TITLE = 48;
const LINE = 22;
const ACTION = 38;

/** Messages in the corner of the drawing in which they cover least: what happened, to what, and what to do. */
@Component({
  selector: 'chemin-messages',
  imports: [ButtonModule, MessageModule],
  template: `
    <div class="stack" [class.right]="corner().endsWith('right')" [class.top]="corner().startsWith('top')">
      @for (message of store.messages(); track message.id) {
        <p-message [class]="message.tone" [severity]="SEVERITIES[message.tone]" [closable]="true" (onClose)="store.close(message.id)">
          <div>
            <strong>{{ message.title }}</strong>
            @for (line of message.lines; track $index) {
              <p>{{ line }}</p>
            }
            @if (message.action; as action) {
              <button pButton type="button" size="small" severity="secondary" [outlined]="true" (click)="act(message)">{{ action.label }}</button>
            }
          </div>
        </p-message>
      }
    </div>
  `,
  styles: `
    .stack {
      position: absolute;
      left: 12px;
      bottom: 12px;
      display: grid;
      gap: 8px;
      width: min(400px, calc(100% - 24px));
    }
    .stack.right {
      left: auto;
      right: 12px;
    }
    .stack.top {
      top: 12px;
      bottom: auto;
    }
    p-message {
      border-left: 4px solid var(--ink-2);
      border-radius: 3px;
      overflow-wrap: anywhere;
    }
    p-message.good {
      border-left-color: var(--good);
    }
    p-message.warn {
      border-left-color: var(--warn);
    }
    p-message.bad {
      border-left-color: var(--bad);
    }
    strong {
      font-weight: 600;
    }
    p {
      margin-top: 2px;
      color: var(--ink-2);
    }
    button {
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MessagesComponent {
  protected readonly store = inject(MessageStore);
  protected readonly SEVERITIES = SEVERITIES;
  private readonly pictures = inject(PictureService);
  private readonly handles = inject(HandlesService);
  private readonly view = inject(ViewStore);
  /** Told anew with every message, and kept while it stands: nothing jumps under the hand. */
  protected readonly corner = signal<Corner>('low left');
  private readonly height = computed(() =>
    this.store.messages().reduce((sum, { lines, action }) => sum + TITLE + LINE * lines.length + (action ? ACTION : 0), 0),
  );

  constructor() {
    effect(() => {
      const height = this.height();
      if (height > 0) untracked(() => this.corner.set(this.free(height)));
    });
  }

  private free(height: number): Corner {
    const [zoom, panX, panY] = [this.view.zoom(), this.view.panX(), this.view.panY()];
    const area = { width: this.view.width(), height: this.view.height() };
    const drawn = this.pictures.picture().visible.map(({ polygon }): Box => {
      let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
      for (let i = 0; i + 1 < polygon.length; i += 2) {
        [minX, maxX] = [Math.min(minX, polygon[i]!), Math.max(maxX, polygon[i]!)];
        [minY, maxY] = [Math.min(minY, polygon[i + 1]!), Math.max(maxY, polygon[i + 1]!)];
      }
      return { x: minX * zoom + panX, y: minY * zoom + panY, width: (maxX - minX) * zoom, height: (maxY - minY) * zoom };
    });
    return freeCorner(area, { width: Math.min(WIDTH, area.width - 2 * MARGIN), height }, drawn, this.handles.handles());
  }

  protected act(message: Message): void {
    this.store.close(message.id);
    message.action?.run();
  }
}
