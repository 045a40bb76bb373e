import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { mmPer, realLength, SHEET_SIZES, UNITS, type Sheet, type SheetSize, type Unit } from '@core';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { SheetService } from '../../state/sheet.service';
import { ViewStore } from '../../state/view.store';

/** The sheet: size, unit, resolution, drawing scale, background, rulers. */
@Component({
  selector: 'chemin-sheet-page',
  imports: [ColourFieldComponent, FormsModule, MeasureFieldComponent, SelectModule, ToggleSwitchModule],
  templateUrl: './sheet-page.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetPageComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly commands = inject(CommandsService);
  protected readonly sheets = inject(SheetService);
  protected readonly sheet = this.sheets.sheet;
  protected readonly units = UNITS.map((unit) => ({ label: unit, value: unit }));
  protected readonly sizes = SHEET_SIZES.map((size) => ({ label: size.name, value: size }));
  protected readonly scales = [1, 5, 10, 20, 50, 100];
  /** The common size that the sheet has, upright or lying. */
  protected readonly size = computed(() => {
    const { width, height } = this.sheet();
    const [short, long] = [Math.min(width, height), Math.max(width, height)];
    const same = (p: number, q: number): boolean => Math.abs(p - q) < 0.01;
    return SHEET_SIZES.find((size) => {
      const mm = mmPer(size.unit, size.resolution);
      return same(size.width * mm, short) && same(size.height * mm, long);
    });
  });
  protected readonly lying = computed(() => this.sheet().width > this.sheet().height);
  protected readonly example = computed(() => `10\u2009mm of true length on the sheet are ${realLength(10, this.sheet().scale)}`);

  protected set(part: Partial<Sheet>, label?: string): void {
    this.sheets.set(part, label);
  }

  /** The unit that a side was just typed in. */
  protected typed: Unit | null = null;

  protected setSide(part: Partial<Pick<Sheet, 'width' | 'height'>>): void {
    this.sheets.setSide(part, this.typed);
    this.typed = null;
  }

  /** A common size, lying or upright as the sheet is now. */
  protected setSize(size: SheetSize): void {
    const mm = mmPer(size.unit, size.resolution);
    const [short, long] = [size.width * mm, size.height * mm];
    const [width, height] = this.lying() ? [long, short] : [short, long];
    this.set({ width, height, unit: size.unit, resolution: size.resolution }, `sheet ${size.name}`);
  }

  protected turn(): void {
    const { width, height } = this.store.kept().sheet;
    this.set({ width: height, height: width }, 'turn the sheet');
  }
}
