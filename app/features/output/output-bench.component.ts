import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { SelectModule } from 'primeng/select';
import { lengthInUnit, mmPer, type HandOver } from '@core';
import { IconComponent } from '../../controls/icon.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { HandOverService } from '../../platform/hand-over.service';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';

/** Handing over: the sheet, its grid or both as SVG, PNG and PDF; the calibration lattice; the project file. */
@Component({
  selector: 'chemin-output-bench',
  imports: [ButtonModule, FormsModule, IconComponent, MeasureFieldComponent, SelectModule, ToggleSwitchModule],
  templateUrl: './output-bench.component.html',
  styleUrl: '../bench.css',
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
  /** Width in px that was asked for; the sheet's own at its resolution until then. */
  private readonly asked = signal<number | null>(null);
  protected readonly pngWidth = computed(() => this.asked() ?? Math.round(this.sheet().width / mmPer('px', this.sheet().resolution)));
  protected readonly pngHeight = computed(() => Math.round((this.pngWidth() * this.sheet().height) / this.sheet().width));
  protected readonly testBar = signal(false);
  protected readonly cutMarks = signal(false);
  protected readonly lattice = signal({ columns: 9, rows: 6, box: 12 });

  protected set(part: Partial<HandOver>): void {
    this.view.patch({ handOver: { ...this.view.handOver(), ...part } });
  }

  protected setPngWidth(px: number): void {
    this.asked.set(Math.round(px));
  }

  protected setLattice(part: { readonly columns?: number; readonly rows?: number; readonly box?: number }): void {
    const next = { ...this.lattice(), ...part };
    this.lattice.set({ columns: Math.round(next.columns), rows: Math.round(next.rows), box: next.box });
  }
}
