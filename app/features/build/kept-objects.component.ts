import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { partOf } from '@core';
import { IconComponent } from '../../controls/icon.component';
import { SmallPictureComponent } from '../../controls/small-picture.component';
import { ObjectsService, type KeptObject } from '../../platform/objects.service';
import { ArrangingService } from '../../state/arranging.service';
import { ClipboardService } from '../../state/clipboard.service';
import { DocumentStore } from '../../state/document.store';

/** Objects kept by name: dropped into any drawing at their true size, handed on as files. */
@Component({
  selector: 'chemin-kept-objects',
  imports: [IconComponent, SmallPictureComponent],
  template: `
    <section aria-label="Kept objects">
      <h3 class="panel-title">Kept objects</h3>
      @if (chosen().length > 0) {
        <form (submit)="keep(field); $event.preventDefault()">
          <input #field class="name" aria-label="Name of the object" autocomplete="off" [placeholder]="chosen()[0]!.name" />
          <button type="submit" class="plain bordered">Keep the selection</button>
        </form>
      }
      <ul>
        @for (object of objects.kept(); track object.id) {
          <li>
            <button type="button" class="plain use" [attr.aria-label]="'Drop ' + object.name + ' into the drawing'" (click)="drop(object)">
              <chemin-small-picture kind="family" [width]="120" [height]="90" [document]="object.document" />
              <span>{{ object.name }}</span>
            </button>
            <button type="button" class="plain" [attr.aria-label]="'Export ' + object.name" (click)="objects.export(object)">
              <chemin-icon name="export" />
            </button>
            <button type="button" class="plain" [attr.aria-label]="'Delete ' + object.name" (click)="objects.delete(object)">
              <chemin-icon name="delete" />
            </button>
          </li>
        } @empty {
          <li class="note">None yet. Select a thing and keep it: it can then be dropped into any drawing at its true size.</li>
        }
      </ul>
      <button type="button" class="plain" (click)="objects.import()"><chemin-icon name="import" />Open an object file</button>
    </section>
  `,
  styles: `
    form,
    li {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    .name {
      flex: 1;
      min-width: 0;
      min-height: 28px;
      padding: 2px 6px;
      border: 1px solid var(--stone-3);
      border-radius: 3px;
      background: var(--field);
      color: var(--ink);
    }
    .use {
      display: flex;
      flex: 1;
      align-items: center;
      gap: 8px;
      min-width: 0;
      text-align: left;
    }
    .use span {
      overflow-wrap: anywhere;
    }
    chemin-small-picture {
      flex: none;
      width: 60px;
      height: 45px;
    }
    ul {
      display: grid;
      gap: 4px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
  `,
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeptObjectsComponent {
  protected readonly objects = inject(ObjectsService);
  private readonly arranging = inject(ArrangingService);
  private readonly clipboard = inject(ClipboardService);
  private readonly documents = inject(DocumentStore);

  protected readonly chosen = computed(() => this.arranging.nodes());

  protected keep(field: HTMLInputElement): void {
    const nodes = this.chosen();
    const part = partOf(
      this.documents.kept(),
      nodes.map(({ id }) => id),
    );
    void this.objects.keep(field.value.trim() || nodes[0]!.name, part);
    field.value = '';
  }

  protected drop({ name, part }: KeptObject): void {
    this.clipboard.insert(part, `drop in ${name}`);
  }
}
