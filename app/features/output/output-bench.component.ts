import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { SelectModule } from 'primeng/select';
import { lengthInUnit, mmPer } from '@core';
import { type HandOver } from '@later';
import { IconComponent } from '../../controls/icon.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { HandOverService } from '../../state/hand-over.service';
import { BenchSettings } from '../../state/bench-settings';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';

/** Handing over: the sheet, its grid or both as SVG, PNG and PDF; the calibration lattice; the project file. */
@Component({
  selector: 'chemin-output-bench',
  imports: [ButtonModule, FormsModule, IconComponent, MeasureFieldComponent, SelectModule, ToggleSwitchModule],
  templateUrl: './output-bench.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutputBenchComponent {
  protected readonly commands = inject(CommandsService);
  protected readonly view = inject(ViewStore);
  protected readonly handOver = inject(HandOverService);
  private readonly store = inject(DocumentStore);
  protected readonly sheet = computed(() => this.store.shown().sheet);
  protected readonly size = computed(() => {
    const { width, height, ...scale } = this.sheet();
    const plain = { ...scale, scale: 1 };
    return `${lengthInUnit(width, plain)} × ${lengthInUnit(height, plain)}`;
  });
  protected readonly contents: { label: string; value: HandOver['content'] }[] = [
    { label: 'the drawing', value: 'drawing' },
    { label: 'drawing and grid', value: 'both' },
    { label: 'the grid alone', value: 'grid' },
  ];
  protected readonly origins: { label: string; value: HandOver['gridFrom'] }[] = [
    { label: 'where it is drawn', value: 'drawing' },
    { label: 'middle of the sheet', value: 'centre' },
    { label: 'lower left corner', value: 'corner' },
  ];
  private readonly settings = inject(BenchSettings);
  /** Width in px that was asked for this size of sheet; the sheet's own at its resolution until then. */
  protected readonly pngWidth = computed(() => {
    const asked = this.settings.pngWidth();
    const { width, resolution } = this.sheet();
    return asked?.sheet === width ? asked.px : Math.round(width / mmPer('px', resolution));
  });
  protected readonly pngHeight = computed(() => Math.round((this.pngWidth() * this.sheet().height) / this.sheet().width));
  protected readonly testBar = this.settings.testBar;
  protected readonly cutMarks = this.settings.cutMarks;
  protected readonly lattice = this.settings.lattice;

  protected set(part: Partial<HandOver>): void {
    this.handOver.settings.update((now) => ({ ...now, ...part }));
  }

  protected setPngWidth(px: number): void {
    this.settings.pngWidth.set({ px: Math.round(px), sheet: this.sheet().width });
  }

  protected setLattice(part: { readonly columns?: number; readonly rows?: number; readonly box?: number }): void {
    const next = { ...this.lattice(), ...part };
    this.lattice.set({ columns: Math.round(next.columns), rows: Math.round(next.rows), box: next.box });
  }
}
