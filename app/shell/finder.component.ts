import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { InputTextModule } from 'primeng/inputtext';
import { DialogComponent } from '../controls/dialog.component';
import { TakeFocusDirective } from '../controls/take-focus.directive';
import { CommandsService } from '../state/commands.service';
import { COMMANDS, type CommandId } from '../state/keys';
import { ViewStore } from '../state/view.store';

/** Finds any command by words and runs it. */
@Component({
  selector: 'chemin-finder',
  imports: [DialogComponent, InputTextModule, TakeFocusDirective],
  template: `
    <chemin-dialog title="Find a command" [top]="true" (closed)="close()">
      <input
        pInputText
        type="text"
        class="question"
        role="combobox"
        aria-label="Words of the command"
        aria-expanded="true"
        aria-controls="found"
        [attr.aria-activedescendant]="'found-' + at()"
        cheminTakeFocus
        (input)="ask($any($event.target).value)"
        (keydown)="press($event)"
      />
      <ul id="found" role="listbox" aria-label="Commands">
        @for (id of found(); track id; let i = $index) {
          <li
            role="option"
            tabindex="-1"
            [id]="'found-' + i"
            [attr.aria-selected]="i === at()"
            [class.off]="!commands.enabled(id)"
            (click)="run(id)"
            (keydown.enter)="run(id)"
          >
            <span>{{ table[id].title }}</span>
            @for (key of table[id].keys; track key) {
              <kbd>{{ key }}</kbd>
            }
          </li>
        } @empty {
          <li class="none">No command has these words.</li>
        }
      </ul>
    </chemin-dialog>
  `,
  styles: `
    .question {
      width: 100%;
    }
    ul {
      display: grid;
      gap: 1px;
      margin-top: 8px;
      max-height: 46vh;
      overflow: auto;
    }
    li {
      display: flex;
      align-items: center;
      gap: 6px;
      padding: 6px 8px;
      border-radius: 3px;
      cursor: pointer;
    }
    li span {
      flex: 1;
    }
    li[aria-selected='true'] {
      background: var(--violet-wash);
    }
    li.off span,
    .none {
      color: var(--ink-2);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FinderComponent {
  protected readonly commands = inject(CommandsService);
  private readonly view = inject(ViewStore);
  protected readonly table: Readonly<Record<CommandId, { readonly title: string; readonly keys: readonly string[] }>> = COMMANDS;
  private readonly question = signal('');
  protected readonly at = signal(0);
  protected readonly found = computed(() => this.commands.find(this.question()));

  protected ask(text: string): void {
    this.question.set(text);
    this.at.set(0);
  }

  protected press(event: KeyboardEvent): void {
    const last = this.found().length - 1;
    if (event.key === 'ArrowDown') this.at.set(Math.min(last, this.at() + 1));
    else if (event.key === 'ArrowUp') this.at.set(Math.max(0, this.at() - 1));
    else if (event.key === 'Enter') {
      const id = this.found()[this.at()];
      if (id) this.run(id);
    } else return;
    event.preventDefault();
    queueMicrotask(() => document.getElementById(`found-${this.at()}`)?.scrollIntoView({ block: 'nearest' }));
  }

  protected run(id: CommandId): void {
    this.close();
    if (this.commands.enabled(id)) this.commands.run(id);
  }

  protected close(): void {
    this.view.patch({ panel: 'none' });
  }
}
