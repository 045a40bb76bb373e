import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { IconComponent } from '../controls/icon.component';
import { MessageStore, type Message } from '../state/messages.store';

/** Messages over the drawing's lower edge: what happened, to what, and what to do. */
@Component({
  selector: 'chemin-messages',
  imports: [IconComponent],
  template: `
    <div class="stack" aria-live="polite">
      @for (message of store.messages(); track message.id) {
        <div class="message" [class]="message.tone" [attr.role]="message.tone === 'bad' ? 'alert' : null">
          <div>
            <strong>{{ message.title }}</strong>
            @for (line of message.lines; track $index) {
              <p>{{ line }}</p>
            }
            @if (message.action; as action) {
              <button type="button" class="act" (click)="act(message)">{{ action.label }}</button>
            }
          </div>
          <button type="button" class="plain" aria-label="Close message" (click)="store.close(message.id)"><chemin-icon name="close" /></button>
        </div>
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
    .message {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      padding: 9px 8px 9px 12px;
      border-left: 4px solid var(--ink-2);
      border-radius: 3px;
      background: var(--paper);
      box-shadow: var(--shadow);
      font-size: 13px;
      overflow-wrap: anywhere;
    }
    .good {
      border-left-color: var(--good);
    }
    .warn {
      border-left-color: var(--warn);
    }
    .bad {
      border-left-color: var(--bad);
    }
    strong {
      font-weight: 600;
    }
    p {
      margin-top: 2px;
      color: var(--ink-2);
    }
    .act {
      margin-top: 6px;
      padding: 4px 10px;
      border: 1px solid var(--violet);
      border-radius: 3px;
      background: none;
      color: var(--violet);
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MessagesComponent {
  protected readonly store = inject(MessageStore);

  protected act(message: Message): void {
    this.store.close(message.id);
    message.action?.run();
  }
}
