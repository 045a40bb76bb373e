import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { flattenTree, type PlacementNode } from '@core';
import { IconComponent } from '../../controls/icon.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { FlatService } from '../../state/flat.service';
import { ViewStore } from '../../state/view.store';
import { PhotoDressService } from './photo-dress.service';
import { PhotoFilesService } from './photo-files.service';
import { PhotosService } from './photos.service';

/** Artwork on the surface, and the photograph's own light on it. */
@Component({
  selector: 'chemin-photo-artwork-panel',
  imports: [ButtonModule, FormsModule, IconComponent, MeasureFieldComponent, SelectModule, ToggleSwitchModule],
  template: `
    <section aria-label="Artwork on it">
      <h3 class="panel-title">Artwork on it</h3>
      <button pButton type="button" severity="secondary" [outlined]="true" (click)="files.lay()"><chemin-icon name="add" />Lay a file on it</button>
      @if (artworks().length > 0) {
        <p-select
          [options]="artworks()"
          optionLabel="name"
          placeholder="Lay an artwork on it"
          ariaLabel="Lay an artwork on it"
          appendTo="body"
          [ngModel]="null"
          (ngModelChange)="dress.lay($event)"
        />
      }
      @for (node of laid(); track node.id) {
        <div class="chips">
          <button type="button" class="plain" [attr.aria-pressed]="view.selection().includes(node.id)" (click)="view.select([node.id])">{{ node.name }}</button>
          <button type="button" class="plain bordered" [attr.aria-label]="'Edit flat: ' + node.name" (click)="flat.open(node.artwork)">Edit flat</button>
          <button type="button" class="plain bordered" [attr.aria-label]="'Put another file in the place of ' + node.name" (click)="files.exchange(node.id)">
            Another file
          </button>
        </div>
      }
    </section>
    @if (light(); as light) {
      <section aria-label="Light on it">
        <h3 class="panel-title">The photograph’s light</h3>
        <chemin-measure
          in="number"
          label="Shade"
          unit="%"
          [least]="0"
          [most]="100"
          [value]="light.shadeStrength * 100"
          (taken)="dress.setLight({ shadeStrength: $event / 100 })"
        />
        <chemin-measure
          in="number"
          label="Highlights"
          unit="%"
          [least]="0"
          [most]="100"
          [value]="light.glossStrength * 100"
          (taken)="dress.setLight({ glossStrength: $event / 100 })"
        />
        <div class="row">
          <label for="photo-grain">Grain of the photograph</label>
          <p-toggleswitch inputId="photo-grain" [ngModel]="light.grain !== undefined" (ngModelChange)="dress.setGrain($event)" />
        </div>
        <div class="row">
          <label for="photo-soft">As soft as the photograph</label>
          <p-toggleswitch inputId="photo-soft" [ngModel]="light.blur !== undefined" (ngModelChange)="dress.setSoft($event)" />
        </div>
        <button type="button" class="plain bordered" [attr.aria-pressed]="dress.unlit()" (click)="dress.toggleLight()">Look at it without light</button>
      </section>
    }
    <section aria-label="Edges of it">
      <h3 class="panel-title">Where it ends</h3>
      <div class="chips">
        <button type="button" class="plain bordered" (click)="view.setTool('photo-outline')">
          {{ surface()?.outline ? 'Draw the outline again' : 'Draw its outline' }}
        </button>
        @if (surface()?.outline) {
          <button type="button" class="plain bordered" (click)="dress.setOutline(null)">No outline</button>
        }
        <button type="button" class="plain bordered" (click)="view.setTool('front')">Put something in front</button>
      </div>
      @for (mask of surface()?.masks ?? []; track mask.id; let i = $index) {
        <div class="row">
          <span>In front, {{ i + 1 }}</span>
          <button type="button" class="plain bordered" [attr.aria-label]="'Remove what is in front, ' + (i + 1)" (click)="dress.removeMask(mask.id)">
            Remove
          </button>
        </div>
      }
    </section>
  `,
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhotoArtworkPanelComponent {
  private readonly photos = inject(PhotosService);
  protected readonly dress = inject(PhotoDressService);
  protected readonly files = inject(PhotoFilesService);
  protected readonly view = inject(ViewStore);
  protected readonly flat = inject(FlatService);
  private readonly documents = inject(DocumentStore);
  protected readonly surface = computed(() => this.photos.there()?.surface ?? null);
  protected readonly light = computed(() => this.surface()?.light ?? null);
  protected readonly artworks = computed(() => [...this.documents.whole().artworks]);
  /** What lies on the surface. */
  protected readonly laid = computed(() => {
    const id = this.surface()?.id;
    return flattenTree(this.documents.whole().nodes).flatMap(({ node }): readonly PlacementNode[] =>
      node.kind === 'placement' && node.target.kind === 'plane' && node.target.photographed !== undefined && node.target.photographed === id ? [node] : [],
    );
  });
}
