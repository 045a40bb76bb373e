import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { TooltipModule } from 'primeng/tooltip';
import { nameProjection } from '@core';
import { MissingDirective } from '../controls/missing.directive';
import { IconComponent } from '../controls/icon.component';
import { KeepingService } from '../state/keeping.service';
import { CommandsService } from '../state/commands.service';
import { DocumentStore } from '../state/document.store';
import { AidsStore } from '../state/aids.store';
import { ViewStore } from '../state/view.store';
import { TextFieldDirective } from '../controls/text-field.directive';

/** The head: the drawing's name, how it is kept, undo and redo, finding. */
@Component({
  selector: 'chemin-head',
  imports: [IconComponent, MissingDirective, TextFieldDirective, TooltipModule],
  template: `
    <header>
      <strong class="mark">Chemin</strong>
      <button type="button" class="plain" (click)="commands.run('document.list')"><chemin-icon name="drawings" />Drawings</button>
      <span class="drawing">
        <label class="visually-hidden" for="title">Name of the drawing</label>
        <input id="title" class="title" [value]="store.whole().name" (change)="rename($any($event.target).value)" cheminText />
        @if (keeping.stuck()) {
          <button type="button" class="saved trouble" aria-haspopup="dialog" (click)="view.patch({ panel: 'unsaved' })">{{ keeping.words() }}</button>
        } @else {
          <span class="saved">{{ keeping.words() }}</span>
        }
      </span>
      <span class="visually-hidden" role="status">{{ keeping.stuck() ? keeping.words() : '' }}</span>
      <button type="button" class="plain naming" [title]="naming().reason" (click)="commands.run('stage.projection')">
        <span class="visually-hidden">Projection: </span><strong>{{ naming().changed ?? naming().name }}</strong
        ><small>{{ naming().reason }}</small>
      </button>
      <span class="gap"></span>
      <button
        type="button"
        class="plain"
        aria-label="Undo"
        [pTooltip]="store.canUndo() ? 'Undo ' + store.undoLabel() + ' (Ctrl+Z)' : 'Nothing to undo'"
        tooltipPosition="bottom"
        [cheminMissing]="commands.why('undo')"
        (click)="commands.run('undo')"
      >
        <chemin-icon name="undo" />
      </button>
      <button
        type="button"
        class="plain"
        aria-label="Redo"
        [pTooltip]="store.canRedo() ? 'Redo ' + store.redoLabel() + ' (Ctrl+Shift+Z)' : 'Nothing to redo'"
        tooltipPosition="bottom"
        [cheminMissing]="commands.why('redo')"
        (click)="commands.run('redo')"
      >
        <chemin-icon name="redo" />
      </button>
      <button type="button" class="plain" aria-haspopup="dialog" (click)="commands.run('steps')">Steps</button>
      <button type="button" class="plain" [attr.aria-pressed]="aids.comparing()" (click)="commands.run('view.compare')">Compare</button>
      <button type="button" class="plain find" (click)="commands.run('find')"><chemin-icon name="find" />Find <kbd>Ctrl+K</kbd></button>
      <button type="button" class="plain" (click)="commands.run('keys')"><chemin-icon name="keys" />Keys</button>
      <button
        type="button"
        class="plain"
        [attr.aria-label]="view.theme() === 'dark' ? 'Use the light theme' : 'Use the dark theme'"
        (click)="commands.run('view.theme')"
      >
        <chemin-icon [name]="view.theme() === 'dark' ? 'bright' : 'dark'" />
      </button>
    </header>
  `,
  styles: `
    header {
      display: flex;
      align-items: center;
      gap: 6px;
      height: 44px;
      padding: 0 12px 0 16px;
      overflow: auto hidden;
      scrollbar-width: none;
    }
    .mark {
      font-weight: 600;
      font-size: 16px;
      letter-spacing: -0.01em;
      color: var(--violet);
      margin-right: 8px;
    }
    .drawing {
      display: grid;
      justify-items: start;
      width: 196px;
      line-height: 1.2;
    }
    .title {
      width: 100%;
      padding: 1px 6px;
      border: 1px solid transparent;
      border-radius: 3px;
      background: none;
      font-weight: 500;
      text-overflow: ellipsis;
    }
    .title:hover {
      border-color: var(--stone-3);
    }
    .title:focus {
      border-color: var(--violet);
      background: var(--field);
    }
    .saved {
      padding-left: 7px;
      font-size: 12px;
      color: var(--ink-2);
      white-space: nowrap;
    }
    .saved.trouble {
      padding: 0 6px;
      border: 0;
      background: none;
      color: var(--bad);
      font-weight: 600;
      text-decoration: underline;
      cursor: pointer;
    }
    .naming {
      display: grid;
      gap: 0;
      min-width: 0;
      flex: 0 10 auto;
      overflow: hidden;
      padding-block: 1px;
      text-align: left;
      line-height: 1.2;
    }
    .naming strong {
      font-size: 13px;
      font-weight: 500;
    }
    .naming small {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      font-size: 12px;
      color: var(--ink-2);
    }
    header > .plain:not(.naming),
    .mark {
      flex: none;
    }
    .naming {
      flex: 0 1 auto;
    }
    .drawing {
      flex: none;
    }
    .saved {
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    /* On narrow windows words give way to what is pressed. */
    @media (max-width: 1180px) {
      .find kbd,
      .naming small {
        display: none;
      }
      .drawing {
        width: 180px;
      }
    }
    @media (max-width: 1100px) {
      header {
        gap: 2px;
        padding: 0 8px;
      }
      .drawing {
        width: 176px;
      }
      header > .plain:not(.naming) {
        padding-inline: 4px;
      }
    }
    @media (max-width: 900px) {
      header > * {
        flex-shrink: 0;
      }
      .naming {
        flex-shrink: 0;
      }
    }
    .gap {
      flex: 1;
    }
    .find kbd {
      margin-left: 4px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HeadComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly aids = inject(AidsStore);
  protected readonly keeping = inject(KeepingService);
  protected readonly commands = inject(CommandsService);

  /** What the projection is called, and why. */
  protected readonly naming = computed(() => nameProjection(this.store.wholeShown().projection));

  protected rename(text: string): void {
    const name = text.trim().slice(0, 200);
    if (name && name !== this.store.whole().name) this.store.commit({ kind: 'title', name }, undefined, 'drawing');
  }
}
