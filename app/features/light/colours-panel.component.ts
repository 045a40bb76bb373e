import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { PALETTES, recolourEdits, type Palette } from '@later';
import { MessageStore } from '../../platform/messages.store';
import { ArrangingService } from '../../state/arranging.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';

/** Palettes in which all, or what is selected, is painted anew, and how the drawing looks to other eyes. */
@Component({
  selector: 'chemin-colours-panel',
  template: `
    <h3 class="panel-title">Palettes</h3>
    <p class="note">{{ what() }} is painted anew, darker colours staying darker. Tones and shadows follow.</p>
    @for (palette of palettes; track palette.name) {
      <button type="button" class="plain bordered palette" (click)="paint(palette)">
        <span class="colours" aria-hidden="true">
          @for (colour of palette.colours; track colour) {
            <i [style.background]="colour"></i>
          }
        </span>
        {{ palette.name }}
      </button>
    }
    <h3 class="panel-title">Seen by</h3>
    <div class="chips" role="group" aria-label="Colours seen by">
      @for (eye of eyes; track eye.title) {
        <button type="button" class="plain" [attr.aria-pressed]="view.vision() === eye.key" (click)="view.patch({ vision: eye.key })">{{ eye.title }}</button>
      }
    </div>
    <p class="note">The screen alone changes: files keep the colours.</p>
  `,
  styleUrl: '../../styles/bench.css',
  styles: `
    :host {
      gap: 8px;
    }
    .palette {
      display: flex;
      align-items: center;
      gap: 8px;
      justify-self: stretch;
      font-size: 13px;
    }
    .colours {
      display: flex;
    }
    .colours i {
      width: 16px;
      height: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ColoursPanelComponent {
  private readonly documents = inject(DocumentStore);
  private readonly arranging = inject(ArrangingService);
  private readonly messages = inject(MessageStore);
  protected readonly view = inject(ViewStore);
  protected readonly palettes = PALETTES;
  protected readonly eyes = [
    { key: null, title: 'All cones' },
    { key: 'protan', title: 'No red cones' },
    { key: 'deutan', title: 'No green cones' },
    { key: 'tritan', title: 'No blue cones' },
  ] as const;

  protected readonly what = computed(() => {
    const nodes = this.arranging.nodes();
    return nodes.length === 0 ? 'Everything' : nodes.length === 1 ? nodes[0]!.name : `What is selected (${nodes.length} things)`;
  });

  protected paint({ name, colours }: Palette): void {
    const nodes = this.arranging.nodes();
    const edits = recolourEdits(this.documents.kept(), nodes.length > 0 ? nodes : null, colours);
    if (edits.length === 0) return void this.messages.say('info', 'There is nothing to be painted');
    this.documents.commit({ kind: 'all', edits: [...edits] }, `paint in ${name}`);
  }
}
