import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { IconComponent } from '../../controls/icon.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { TextFieldDirective } from '../../controls/text-field.directive';
import { BenchSettings } from '../../state/bench-settings';
import { CommandsService } from '../../state/commands.service';
import { HandOverService } from '../../state/hand-over.service';
import { ViewStore } from '../../state/view.store';
import { PhotoAids } from './photo-aids';
import { PhotoArtworkPanelComponent } from './photo-artwork-panel.component';
import { PhotoCompareComponent } from './photo-compare.component';
import { PhotoFitPanelComponent } from './photo-fit-panel.component';
import { PhotoSettings } from './photo.settings';
import { PhotosService } from './photos.service';
import { chooseFile } from '../../platform/files';

/** Photographs, the lattice on them, the surfaces that were fitted, and the artwork on these. */
@Component({
  selector: 'chemin-photo-bench',
  imports: [
    ButtonModule,
    FormsModule,
    IconComponent,
    MeasureFieldComponent,
    PhotoArtworkPanelComponent,
    PhotoCompareComponent,
    PhotoFitPanelComponent,
    SelectModule,
    TextFieldDirective,
  ],
  providers: [PhotoAids],
  templateUrl: './photo-bench.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhotoBenchComponent {
  protected readonly photos = inject(PhotosService);
  protected readonly view = inject(ViewStore);
  protected readonly commands = inject(CommandsService);
  protected readonly settings = inject(PhotoSettings);
  private readonly bench = inject(BenchSettings);
  private readonly handOver = inject(HandOverService);
  protected readonly things = [
    { key: 'funnel', title: 'Funnel' },
    { key: 'cup', title: 'Cup' },
    { key: 'hatch', title: 'Hatch' },
    { key: 'pennant', title: 'Pennant' },
  ] as const;
  protected readonly surface = computed(() => this.photos.there()?.surface ?? null);
  protected readonly surfaces = computed(() =>
    this.photos.photos().flatMap((photo) => photo.surfaces.map((surface) => ({ label: `${surface.name}, ${photo.name}`, value: surface.id }))),
  );
  /** What is said of the tool that is taken. */
  protected readonly toolWords = computed(() => {
    switch (this.view.tool()) {
      case 'crossing':
        return this.settings.next()
          ? 'Press the crossing at the upper left of the printed number: of the four corners by turns, or of another number that you type. From two on, “Find and fit” counts the others from them.'
          : 'Drag a crossing, press where a missing one is, or choose one and move it in the loupe. It snaps to the lines; with Alt it does not.';
      case 'photo-outline':
        return 'Press the corners of what artwork is seen within; press the first again, or Enter, to close it.';
      case 'front':
        return 'Press round what stands in front of the artwork; press the first corner again, or Enter, to close it.';
      case 'panel':
        return 'Press near the four corners, from the upper left clockwise: its edges are found in the photograph.';
      case 'round':
        return 'Press the ends of both sides from the upper left clockwise, then the middles of the upper and the lower rim.';
      default:
        return '';
    }
  });

  constructor() {
    inject(PhotoAids);
  }

  /** The lattice to print: that of the surface, or before there is one, that of Output. */
  protected showLattice(): void {
    void this.handOver.practiseLattice(this.surface()?.lattice ?? this.bench.lattice());
  }

  protected async addSurface(): Promise<void> {
    const file = await chooseFile('.png,.jpg,.jpeg,.webp,image/png,image/jpeg,image/webp');
    if (file) await this.photos.takeSurface(file);
  }

  protected setSize(part: Partial<{ width: number; height: number }>): void {
    this.settings.size.set({ ...this.settings.size(), ...part });
  }
}
