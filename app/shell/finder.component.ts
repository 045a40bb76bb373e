import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { InputTextModule } from 'primeng/inputtext';
import { DialogComponent } from '../controls/dialog.component';
import { TakeFocusDirective } from '../controls/take-focus.directive';
import { FindingService, type Found } from '../state/finding.service';
import { ViewStore } from '../state/view.store';

/** Finds any command or setting by words and goes there; what cannot be done now says what is missing. */
@Component({
  selector: 'chemin-finder',
  imports: [DialogComponent, InputTextModule, TakeFocusDirective],
  template: `
    <chemin-dialog title="Find a command or a setting" [top]="true" (closed)="close()">
      <input
        pInputText
        type="text"
        class="question"
        role="combobox"
        aria-label="Words of the command or setting"
        aria-expanded="true"
        aria-controls="found"
        [attr.aria-activedescendant]="'found-' + at()"
        cheminTakeFocus
        (input)="ask($any($event.target).value)"
        (keydown)="press($event)"
      />
      <ul id="found" role="listbox" aria-label="Commands and settings">
        @for (item of found(); track item.title + item.keys.join(); let i = $index) {
          <li
            role="option"
            tabindex="-1"
            [id]="'found-' + i"
            [attr.aria-selected]="i === at()"
            [class.off]="item.why !== null"
            [attr.aria-disabled]="item.why !== null || null"
            (click)="run(item)"
            (keydown.enter)="run(item)"
          >
            <span
              >{{ item.title }}
              @if (item.why) {
                <small>{{ item.why }}</small>
              }
            </span>
            @for (key of item.keys; track key) {
              <kbd>{{ key }}</kbd>
            }
          </li>
        } @empty {
          <li class="none">No command and no setting has these words.</li>
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
    small {
      display: block;
      color: var(--warn);
    }
    li.off span,
    .none {
      color: var(--ink-2);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FinderComponent {
  private readonly finding = inject(FindingService);
  private readonly view = inject(ViewStore);
  private readonly question = signal('');
  protected readonly at = signal(0);
  protected readonly found = computed(() => this.finding.find(this.question()));

  protected ask(text: string): void {
    this.question.set(text);
    this.at.set(0);
  }

  protected press(event: KeyboardEvent): void {
    const last = this.found().length - 1;
    if (event.key === 'ArrowDown') this.at.set(Math.min(last, this.at() + 1));
    else if (event.key === 'ArrowUp') this.at.set(Math.max(0, this.at() - 1));
    else if (event.key === 'Enter') {
      const item = this.found()[this.at()];
      if (item) this.run(item);
    } else return;
    event.preventDefault();
    queueMicrotask(() => document.getElementById(`found-${this.at()}`)?.scrollIntoView({ block: 'nearest' }));
  }

  /** What cannot be done now stays listed, with what is missing. */
  protected run(item: Found): void {
    if (item.why !== null) return;
    this.close();
    item.go();
  }

  protected close(): void {
    this.view.patch({ panel: 'none' });
  }
}
