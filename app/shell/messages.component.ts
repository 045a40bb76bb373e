import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { MessageModule } from 'primeng/message';
import { MessageStore, type Message } from '../platform/messages.store';

/** What the library calls the tones of messages. */
const SEVERITIES: { readonly [tone in Message['tone']]: 'success' | 'info' | 'warn' | 'error' } = { good: 'success', info: 'info', warn: 'warn', bad: 'error' };

/** Messages over the drawing's lower edge: what happened, to what, and what to do. */
@Component({
  selector: 'chemin-messages',
  imports: [ButtonModule, MessageModule],
  template: `
    <div class="stack">
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

  protected act(message: Message): void {
    this.store.close(message.id);
    message.action?.run();
  }
}
