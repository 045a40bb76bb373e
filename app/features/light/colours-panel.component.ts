import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { faceNamed, figure, findNode, surfaceWord } from '@core';
import { faceContrasts, PALETTES, recolourEdits, type FaceContrast, type Palette } from '@later';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { MessageStore } from '../../platform/messages.store';
import { ArrangingService } from '../../state/arranging.service';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { ViewStore } from '../../state/view.store';
import { LightService } from './light.service';

/** Pairs of faces that are told at once, and how much of the sheet is shown about one, in mm. */
const MOST_PAIRS = 6;
const NEAR = 25;

/** Palettes in which all, or what is selected, is painted anew, and how the drawing looks to other eyes. */
@Component({
  selector: 'chemin-colours-panel',
  imports: [CheckboxModule, ColourFieldComponent, FormsModule, MeasureFieldComponent],
  template: `
    <h3 class="panel-title">Palettes</h3>
    <p class="note">Paints {{ what() }} anew; darker colours stay darker, tones and shadows follow.</p>
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
    @if (lights.chosen().length > 0) {
      <div class="check">
        <p-checkbox inputId="tint" [binary]="true" [ngModel]="!!tint()" (ngModelChange)="lights.setOwn('tint', $event ? usualTint : null)" />
        <label for="tint">A tint over {{ what() }}</label>
      </div>
      @if (tint(); as over) {
        <chemin-colour
          label="Tint"
          [value]="over.colour"
          (shown)="lights.setOwn('tint', { colour: $event, strength: over.strength }, false)"
          (taken)="lights.setOwn('tint', { colour: $event, strength: over.strength })"
        />
        <chemin-measure
          in="number"
          label="Strength of the tint"
          unit="%"
          [least]="0"
          [most]="100"
          [value]="over.strength * 100"
          (taken)="lights.setOwn('tint', { colour: over.colour, strength: $event / 100 })"
        />
      }
    }
    <h3 class="panel-title">Seen by</h3>
    <div class="chips" role="group" aria-label="Colours seen by">
      @for (eye of eyes; track eye.title) {
        <button type="button" class="plain" [attr.aria-pressed]="view.vision() === eye.key" (click)="view.patch({ vision: eye.key })">{{ eye.title }}</button>
      }
    </div>
    <p class="note">The screen alone changes: files keep the colours.</p>
    <h3 class="panel-title">Contrast</h3>
    <button type="button" class="plain bordered" (click)="weigh()">Find the weakest contrasts</button>
    @for (pair of weakest(); track $index) {
      <button type="button" class="plain bordered pair" (click)="goTo(pair)">
        <span class="colours" aria-hidden="true"><i [style.background]="pair.colours[0]"></i><i [style.background]="pair.colours[1]"></i></span>
        <span>{{ wordsOf(pair) }}</span>
      </button>
    } @empty {
      @if (weighed()) {
        <p class="note">No two faces meet.</p>
      }
    }
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
    .pair {
      display: grid;
      grid-template-columns: auto 1fr;
      align-items: center;
      gap: 8px;
      justify-self: stretch;
      font-size: 12.5px;
      text-align: left;
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
  private readonly pictures = inject(PictureService);
  protected readonly view = inject(ViewStore);
  protected readonly lights = inject(LightService);
  protected readonly usualTint = { colour: '#3a5f8a', strength: 0.35 };
  protected readonly tint = computed(() => this.lights.own().tint);
  protected readonly palettes = PALETTES;
  protected readonly eyes = [
    { key: null, title: 'All cones' },
    { key: 'protan', title: 'No red cones' },
    { key: 'deutan', title: 'No green cones' },
    { key: 'tritan', title: 'No blue cones' },
  ] as const;

  protected readonly what = computed(() => {
    const nodes = this.arranging.nodes();
    return nodes.length === 0 ? 'everything' : nodes.length === 1 ? nodes[0]!.name : `what is selected (${nodes.length} things)`;
  });

  /** The pairs of neighbouring faces that are told apart worst. */
  protected readonly weakest = signal<readonly FaceContrast[]>([]);
  protected readonly weighed = signal(false);

  protected weigh(): void {
    this.weakest.set(faceContrasts(this.pictures.exact(), MOST_PAIRS));
    this.weighed.set(true);
  }

  /** Selects both things, and shows where they meet. */
  protected goTo({ faces, at }: FaceContrast): void {
    this.view.select([...new Set(faces.map(({ node }) => node))]);
    this.view.showBox(at.x - NEAR, at.y - NEAR, at.x + NEAR, at.y + NEAR);
  }

  protected wordsOf({ faces, ratio }: FaceContrast): string {
    const document = this.documents.shown();
    const words = faces.map(({ node, face }) => {
      const surface = faceNamed(document, node, face!)?.surface;
      return `${findNode(document, node)?.name ?? ''}${surface ? `, ${surfaceWord(surface)}` : ''}`;
    });
    return `${figure(Math.round(ratio * 100) / 100)}\u2009:\u20091 ${words.join(' and ')}`;
  }

  protected paint({ name, colours }: Palette): void {
    const nodes = this.arranging.nodes();
    const edits = recolourEdits(this.documents.kept(), nodes.length > 0 ? nodes : null, colours);
    if (edits.length === 0) return void this.messages.say('info', 'There is nothing to be painted');
    this.documents.commit({ kind: 'all', edits: [...edits] }, `paint in ${name}`);
  }
}
