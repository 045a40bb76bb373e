import { inject, Injectable, Injector } from '@angular/core';
import type { Artwork, Edit, Problem } from '@core';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { StagesService } from './stages.service';
import { ViewStore } from './view.store';
import { chooseFile, chooseFiles } from '../platform/files';
import { newId } from '../platform/ids';
import { KeepingService } from './keeping.service';
import { PICTURE_FILES, ReferencesService } from './references.service';
import { ProjectsService } from '../platform/projects.service';
import { SvgReaderService } from '../platform/svg-reader.service';

const FONT_FILES = /\.(ttf|otf|woff2?)$/i;

/** Files from outside: project files and artwork. What is refused is refused whole, with every reason and its place. */
@Injectable({ providedIn: 'root' })
export class ImportsService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly stages = inject(StagesService);
  private readonly messages = inject(MessageStore);
  private readonly keeping = inject(KeepingService);
  private readonly svg = inject(SvgReaderService);
  private readonly projects = inject(ProjectsService);
  private readonly references = inject(ReferencesService);
  private readonly injector = inject(Injector);

  async openProject(): Promise<void> {
    const file = await chooseFile('.chemin,application/json');
    if (file) await this.takeProject(file);
  }

  async addArtwork(): Promise<void> {
    for (const file of await chooseFiles('.svg,image/svg+xml')) await this.takeArtwork(file);
  }

  /** Takes files that were dropped on the drawing, each by its kind. */
  async takeDropped(files: readonly File[]): Promise<void> {
    for (const file of files) {
      const picture = PICTURE_FILES.test(file.name) || file.type.startsWith('image/');
      const svg = /\.svg$/i.test(file.name) || file.type === 'image/svg+xml';
      // While tracing, every picture is one to look at; elsewhere SVG is artwork.
      if (picture && (!svg || this.view.tool() === 'trace')) await this.references.take(file);
      else if (svg) await this.takeArtwork(file);
      else if (FONT_FILES.test(file.name)) await this.takeFont(file);
      else await this.takeProject(file);
    }
  }

  private async takeProject(file: File): Promise<void> {
    const read = await this.projects.read(file);
    if (!read.ok) {
      this.refuse(`“${file.name}” was not opened`, read.problems, 'The open drawing is untouched.');
      return;
    }
    if (!(await this.keeping.adopt(read.value))) return;
    this.messages.say(read.notes.length > 0 ? 'warn' : 'good', `“${read.value.name}” was opened`, read.notes.slice(0, 4).map(placed));
  }

  private async takeArtwork(file: File): Promise<void> {
    const read = await this.svg.read(await file.text());
    if (!read.ok) {
      this.refuse(`“${file.name}” was not added`, read.problems, 'Nothing was changed.');
      return;
    }
    const { svg, flat } = read.value;
    const artwork: Artwork = { id: newId(), name: file.name.replace(/\.svg$/i, '').slice(0, 200) || 'artwork', svg, width: flat.width, height: flat.height };
    const edit: Edit = { kind: 'add', nodes: [], artworks: [artwork] };
    this.documents.commit(edit, `add artwork ${artwork.name}`);
    this.view.patch({ artwork: artwork.id });
    this.stages.go('artwork', 'place');
    this.messages.say(
      read.notes.length ? 'warn' : 'good',
      `“${file.name}” was added`,
      read.notes.length ? read.notes.map(placed) : ['Press a face to place it there.'],
    );
  }

  private async takeFont(file: File): Promise<void> {
    try {
      const { TextService } = await import('../platform/text.service');
      const { title } = await this.injector.get(TextService).bring(file);
      this.messages.say('good', `The font “${title}” was brought in`, ['Lettering in Build can be written in it.']);
    } catch (error) {
      this.messages.say('bad', `“${file.name}” was not brought in`, [error instanceof Error ? error.message : String(error), 'Nothing was changed.']);
    }
  }

  private refuse(title: string, problems: readonly Problem[], rest: string): void {
    const more = problems.length > 4 ? [`and ${problems.length - 4} more`] : [];
    this.messages.say('bad', title, [...problems.slice(0, 4).map(placed), ...more, rest]);
  }
}

/** A problem with its place, where the message does not name it already. */
function placed({ path, message }: Problem): string {
  return path && !message.includes(path) ? `${path}: ${message}` : message;
}
