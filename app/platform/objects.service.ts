import { inject, Injectable, signal } from '@angular/core';
import { emptyDocument, gridOf, readPart, type CheminDocument, type DocumentPart } from '@core';
import { MessageStore } from './messages.store';
import { CheminDatabase, type StoredObject } from './database';
import { storageWords } from './storage-words';
import { chooseFile, textOfFile, downloadText, fileName } from './files';
import { newId } from './ids';

/** A kept object with a drawing that shows it alone. */
export interface KeptObject extends StoredObject {
  readonly document: CheminDocument;
}

/** What the file of an object is called after its name. */
const ENDING = 'chemin-object';

/** Objects kept by name in the browser's storage, apart from any drawing, and as files. */
@Injectable({ providedIn: 'root' })
export class ObjectsService {
  private readonly db = new CheminDatabase();
  private readonly messages = inject(MessageStore);
  private readonly list = signal<readonly KeptObject[]>([]);
  readonly kept = this.list.asReadonly();
  private readonly shown = new Map<string, KeptObject>();

  constructor() {
    void this.attempt(() => Promise.resolve());
  }

  keep(name: string, part: DocumentPart): Promise<void> {
    return this.attempt(async () => void (await this.db.objects.put({ id: newId(), name: name.slice(0, 200), part: JSON.stringify(part) })));
  }

  delete({ id }: StoredObject): Promise<void> {
    return this.attempt(() => this.db.objects.delete(id));
  }

  export({ name, part }: StoredObject): void {
    downloadText(fileName(name, ENDING), part, 'application/json');
    this.messages.say('good', 'The object was saved as a file', [fileName(name, ENDING)]);
  }

  async import(): Promise<void> {
    const file = await chooseFile(`.${ENDING},application/json`);
    if (!file) return;
    const text = await textOfFile(file);
    const read = text.ok ? readPart(text.value) : text;
    if (!read.ok) {
      const lines = read.problems.slice(0, 4).map(({ path, message }) => (path ? `${path}: ${message}` : message));
      this.messages.say('bad', `“${file.name}” was not opened`, [...lines, 'Nothing was changed.']);
      return;
    }
    await this.keep(file.name.replace(/\.[^.]*$/, ''), read.value);
  }

  private async attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
      const stored = await this.db.objects.orderBy('name').toArray();
      this.list.set(stored.flatMap((object) => this.withDocument(object)));
    } catch (error) {
      this.messages.say('bad', 'The browser’s storage did not take it', [storageWords(error)]);
    }
  }

  /** An object as it was shown before, or with a drawing of its own; none where it cannot be read (any more). */
  private withDocument(object: StoredObject): readonly KeptObject[] {
    const known = this.shown.get(object.id);
    if (known?.part === object.part) return [known];
    const read = readPart(object.part);
    if (!read.ok) return [];
    const { cell, nodes, artworks, swatches } = read.value;
    const made = { ...object, document: { ...emptyDocument(object.id, object.name), grid: gridOf(cell), nodes, artworks, swatches } };
    this.shown.set(object.id, made);
    return [made];
  }
}
