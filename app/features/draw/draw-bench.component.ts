import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { apply33, type PlanePoint } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { DocumentStore } from '../../state/document.store';
import { GuidesService } from '../../state/guides.service';
import { PictureService } from '../../state/picture.service';
import { RegionsService } from '../../state/regions.service';
import { ViewStore } from '../../state/view.store';
import { axisName, placeWords } from '../../tools/catching';
import { ArrangePanelComponent } from './arrange-panel.component';
import { DrawSettingsStore } from './draw.settings';
import type { DrawSettings, GuideWay } from './draw-set';
import { sizesOf } from './guide.tool';
import { GuidesPanelComponent } from './guides-panel.component';
import { FormPanelComponent } from './form-panel.component';
import { PaintPanelComponent } from './paint-panel.component';
import { ShapePanelComponent } from './shape-panel.component';

/** Settings for drawing: of the tool in use, of what is selected, and the paint. */
@Component({
  selector: 'chemin-draw-bench',
  imports: [
    ArrangePanelComponent,
    CheckboxModule,
    FormPanelComponent,
    FormsModule,
    GuidesPanelComponent,
    MeasureFieldComponent,
    PaintPanelComponent,
    ShapePanelComponent,
  ],
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
  protected readonly guides = inject(GuidesService);
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

  /** The ways of a guide by the directions of the plane that is drawn on. */
  protected readonly guideWays = computed((): readonly { readonly key: GuideWay; readonly title: string }[] => {
    const plane = this.view.plane();
    return [
      { key: 'u', title: capital(axisName(plane, 'u')) },
      { key: 'v', title: capital(axisName(plane, 'v')) },
      ...(plane.kind === 'sheet' ? [] : [{ key: 'out' as const, title: 'Out of the plane' }]),
      { key: 'two', title: 'Through two places' },
      { key: 'parallel', title: 'Parallel to an edge' },
      { key: 'square', title: 'Square on an edge' },
      { key: 'middle', title: 'Middle between two' },
      { key: 'divide', title: 'Divide a face' },
    ];
  });
  protected readonly guideAcross = computed(() => {
    const plane = this.view.plane();
    return [
      { key: 'both', title: 'Both ways' },
      { key: 'u', title: capital(axisName(plane, 'u')) },
      { key: 'v', title: capital(axisName(plane, 'v')) },
    ] as const;
  });
  /** What is wrong with the division that is typed. */
  protected readonly divideFault = computed(() => {
    const read = sizesOf(this.settings.guide().divide, 1, { document: this.store.shown() });
    return read.ok ? '' : read.message;
  });

  protected setGuide(part: Partial<DrawSettings['guide']>): void {
    this.settings.patch({ guide: { ...this.settings.guide(), ...part } });
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

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
