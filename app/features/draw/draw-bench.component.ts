import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { apply33, type PlanePoint } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { RegionsService } from '../../state/regions.service';
import { ViewStore } from '../../state/view.store';
import { placeWords } from '../../tools/catching';
import { ArrangePanelComponent } from './arrange-panel.component';
import { DrawSettingsStore } from './draw.settings';
import type { DrawSettings } from './draw-set';
import { FormPanelComponent } from './form-panel.component';
import { PaintPanelComponent } from './paint-panel.component';
import { ShapePanelComponent } from './shape-panel.component';

/** Settings for drawing: of the tool in use, of what is selected, and the paint. */
@Component({
  selector: 'chemin-draw-bench',
  imports: [ArrangePanelComponent, CheckboxModule, FormPanelComponent, FormsModule, MeasureFieldComponent, PaintPanelComponent, ShapePanelComponent],
  templateUrl: './draw-bench.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawBenchComponent {
  private readonly store = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  protected readonly view = inject(ViewStore);
  protected readonly settings = inject(DrawSettingsStore);
  private readonly regions = inject(RegionsService);
  protected readonly arranging = inject(ArrangingService);
  protected readonly circles = [
    { key: 'centre', title: 'Centre' },
    { key: 'three points', title: 'Three points' },
    { key: 'box', title: 'In a box' },
    { key: 'face', title: 'In a face' },
  ] as const;

  /** Ends of lines on the plane that meet no other line, by their places. */
  protected readonly looseEnds = computed(() => {
    const plane = this.view.plane();
    return this.regions.on(this.store.kept(), plane).looseEnds.slice(0, 40).map((at) => ({ at, words: placeWords(plane, at) })); // prettier-ignore
  });

  protected round(value: number): number {
    return Math.round(value);
  }

  protected setStar(part: Partial<DrawSettings['star']>): void {
    this.settings.patch({ star: { ...this.settings.star(), ...part } });
  }

  protected setSpiral(part: Partial<DrawSettings['spiral']>): void {
    this.settings.patch({ spiral: { ...this.settings.spiral(), ...part } });
  }

  protected setSides(sides: number): void {
    this.settings.patch({ sides: Math.round(sides) });
  }

  /** Shows a place of the plane in the middle. */
  protected goTo(at: PlanePoint): void {
    const on = apply33(this.pictures.planeContext(this.view.plane()).options.sheetFromPlane, at.u, at.v);
    const zoom = Math.max(this.view.zoom(), 12);
    if (on) this.view.look(zoom, this.view.width() / 2 - on.x * zoom, this.view.height() / 2 - on.y * zoom);
  }
}
