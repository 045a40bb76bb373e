import { inject, Injectable, signal } from '@angular/core';
import { readSetup, writeSetup, type GridSettings, type ProjectionSetup } from '@core';
import { MessageStore } from './messages.store';
import { CheminDatabase, type StoredSetup } from './database';
import { storageWords } from './storage-words';
import { chooseFile, textOfFile, downloadText, fileName } from './files';
import { newId } from './ids';

/** Kept set-ups in the browser's storage, and as files. */
@Injectable({ providedIn: 'root' })
export class SetupsService {
  private readonly db = new CheminDatabase();
  private readonly messages = inject(MessageStore);
  private readonly list = signal<readonly StoredSetup[]>([]);
  readonly kept = this.list.asReadonly();

  constructor() {
    void this.attempt(() => Promise.resolve());
  }

  keep(name: string, projection: ProjectionSetup, grid: GridSettings): Promise<void> {
    return this.attempt(async () => void (await this.db.setups.put({ id: newId(), name: name.slice(0, 200), projection, grid })));
  }

  delete({ id }: StoredSetup): Promise<void> {
    return this.attempt(() => this.db.setups.delete(id));
  }

  export({ name, projection, grid }: StoredSetup): void {
    downloadText(fileName(name, 'chemin-setup'), writeSetup({ name, projection, grid }), 'application/json');
    this.messages.say('good', 'The set-up was saved as a file', [fileName(name, 'chemin-setup')]);
  }

  async import(): Promise<void> {
    const file = await chooseFile('.chemin-setup,application/json');
    if (!file) return;
    const text = await textOfFile(file);
    const read = text.ok ? readSetup(text.value) : text;
    if (!read.ok) {
      this.messages.say('bad', `“${file.name}” was not opened`, [...read.problems.slice(0, 4).map((p) => p.message), 'Nothing was changed.']);
      return;
    }
    await this.keep(read.value.name, read.value.projection, read.value.grid);
    this.messages.say('good', `The set-up “${read.value.name}” was added`);
  }

  private async attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
      this.list.set(await this.db.setups.orderBy('name').toArray());
    } catch (error) {
      this.messages.say('bad', 'The browser’s storage did not take it', [storageWords(error)]);
    }
  }
}
