import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { derivedName, type CheminDocument } from '@core';
import { DialogComponent } from '../controls/dialog.component';
import { IconComponent } from '../controls/icon.component';
import { SmallPictureComponent } from '../controls/small-picture.component';
import type { StoredDrawing } from '../platform/database';
import { DrawingsService } from '../platform/drawings.service';
import { ImportsService } from '../state/imports.service';
import { KeepingService } from '../state/keeping.service';
import { CommandsService } from '../state/commands.service';
import { DocumentStore } from '../state/document.store';
import { MessageStore } from '../platform/messages.store';
import { ViewStore } from '../state/view.store';
import { NewDrawingComponent } from './new-drawing.component';
import { TextFieldDirective } from '../controls/text-field.directive';

/** All drawings in this browser with living thumbnails: opened, renamed, copied, deleted and brought back. */
@Component({
  selector: 'chemin-drawings-dialog',
  imports: [TextFieldDirective, ButtonModule, DialogComponent, IconComponent, NewDrawingComponent, SmallPictureComponent],
  templateUrl: './drawings-dialog.component.html',
  styleUrl: './drawings-dialog.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawingsDialogComponent {
  private readonly drawings = inject(DrawingsService);
  protected readonly keeping = inject(KeepingService);
  private readonly imports = inject(ImportsService);
  private readonly messages = inject(MessageStore);
  private readonly view = inject(ViewStore);
  protected readonly commands = inject(CommandsService);
  protected readonly store = inject(DocumentStore);

  protected readonly kept = signal<readonly StoredDrawing[]>([]);
  protected readonly gone = signal<readonly StoredDrawing[]>([]);

  /** Ids of drawings that are too damaged to be shown. */
  protected readonly damaged = signal<ReadonlySet<string>>(new Set());

  constructor() {
    void this.refresh();
  }

  protected damage({ id }: StoredDrawing): void {
    this.damaged.update((known) => new Set([...known, id]));
  }

  protected when({ changed }: StoredDrawing): string {
    return new Date(changed).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  }

  protected async refresh(): Promise<void> {
    await this.attempt(async () => {
      await this.keeping.saveNow();
      this.kept.set(await this.drawings.list(false));
      this.gone.set(await this.drawings.list(true));
    });
  }

  protected async open(drawing: StoredDrawing): Promise<void> {
    await this.attempt(async () => {
      await this.keeping.open(drawing.id);
      this.close();
    });
  }

  protected async rename(drawing: StoredDrawing, text: string): Promise<void> {
    const name = text.trim().slice(0, 200);
    if (!name || name === drawing.name) return;
    if (drawing.id === this.store.whole().id) this.store.commit({ kind: 'title', name }, undefined, 'drawing');
    else await this.attempt(() => this.drawings.rename(drawing.id, name));
    await this.refresh();
  }

  protected async copy(drawing: StoredDrawing): Promise<void> {
    await this.attempt(async () =>
      this.drawings.add({ ...(await this.drawings.whole(drawing)), id: crypto.randomUUID(), name: derivedName(drawing.name, ', copy') }),
    );
    await this.refresh();
  }

  /** Deletes a drawing; where it is the open one, another is opened first. */
  protected async setDeleted(drawing: StoredDrawing, deleted: boolean): Promise<void> {
    await this.attempt(async () => {
      if (deleted && drawing.id === this.store.whole().id) {
        const other = this.kept().find((d) => d.id !== drawing.id);
        if (other) await this.keeping.open(other.id);
        else await this.keeping.startEmpty();
        // Whoever chose to stay with unsaved work keeps the drawing too.
        if (drawing.id === this.store.whole().id) return;
      }
      await this.drawings.setDeleted(drawing.id, deleted);
    });
    await this.refresh();
  }

  protected readonly demos = [
    { key: 'quay9', title: 'QUAY 9' },
    { key: 'deck', title: 'Deck plan' },
    { key: 'lighthouse', title: 'Lighthouse' },
    { key: 'hoarding', title: 'Timetable hoarding' },
    { key: 'funnel', title: 'Funnel livery' },
  ] as const;

  protected async erase(drawing: StoredDrawing): Promise<void> {
    await this.attempt(() => this.drawings.erase(drawing.id));
    await this.refresh();
  }

  protected async start(what: 'empty' | 'demo' | 'file'): Promise<void> {
    this.close();
    if (what === 'empty') await this.keeping.startEmpty();
    else if (what === 'demo') await this.keeping.addDemos();
    else await this.imports.openProject();
  }

  protected async startFrom(document: CheminDocument): Promise<void> {
    this.close();
    await this.keeping.startEmpty(document);
  }

  protected save(): void {
    this.commands.run('document.save-file');
  }

  protected close(): void {
    this.view.patch({ panel: 'none' });
  }

  private async attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      this.messages.say('bad', 'The browser’s storage did not answer', [error instanceof Error ? error.message : String(error)]);
    }
  }
}
