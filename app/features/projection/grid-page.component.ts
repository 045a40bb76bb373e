import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RadioButtonModule } from 'primeng/radiobutton';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import {
  drawnAxes,
  figure,
  lengthInUnit,
  PLANE_COLOURS,
  planeName,
  recountsExactly,
  type Axis,
  type Extent,
  type GridSettings,
  type LineLook,
  type Sheet,
  type Unit,
} from '@core';
import { lengthExample, linesApart, type WorldPlaneKind } from '@later';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { BenchSettings } from '../../state/bench-settings';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { MessageStore } from '../../platform/messages.store';
import { SheetService } from '../../state/sheet.service';
import { ViewStore } from '../../state/view.store';

const PLANES = ['floor', 'left', 'right'] as const;

/** The grid: what a cell is, which lines are shown and how, where they fade and end. */
@Component({
  selector: 'chemin-grid-page',
  imports: [ColourFieldComponent, FormsModule, MeasureFieldComponent, RadioButtonModule, ToggleSwitchModule],
  templateUrl: './grid-page.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GridPageComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);
  protected readonly grid = computed(() => this.store.shown().grid);
  protected readonly commands = inject(CommandsService);
  private readonly sheets = inject(SheetService);
  protected readonly sheet = this.sheets.sheet;
  protected readonly px = this.sheets.px;
  /** The unit that a side of the sheet was just typed in. */
  protected typed: Unit | null = null;
  protected readonly axes: readonly Axis[] = ['a', 'b', 'h'];
  protected readonly planes = computed(() => PLANES.map((kind) => ({ kind, name: planeName(kind, this.store.shown().projection) })));
  /** Whether sizes rather than counts stay when the cell changes. */
  protected readonly keepSizes = inject(BenchSettings).keepSizes;
  /** The plane whose extent is edited: the one that is drawn on. */
  protected readonly plane = computed((): WorldPlaneKind => {
    const { kind } = this.view.plane();
    return kind === 'sheet' || kind === 'free' ? 'floor' : kind;
  });
  protected readonly extent = computed(() => this.grid().extents[this.plane()]);
  /** How far apart the lines of the plane are drawn, square to them; parallel projections only. */
  protected readonly apart = computed(() => {
    const found = linesApart(this.store.shown().projection, this.plane(), this.grid().cell);
    return found && { value: Math.min(...found), equal: Math.abs(found[0] - found[1]) < 1e-9 };
  });
  protected readonly example = computed(() => {
    const { projection } = this.store.shown();
    const { cell } = this.grid();
    const words = `One counted cell is ${lengthInUnit(cell, this.sheet())} of true length`;
    if (projection.kind === 'perspective') return `${words}; nearer cells are drawn larger, farther ones smaller.`;
    return `${words}: ${lengthExample(drawnAxes(projection), 'a')}.`;
  });

  protected setSide(part: Partial<Pick<Sheet, 'width' | 'height'>>): void {
    this.sheets.setSide(part, this.typed);
    this.typed = null;
  }

  protected set(part: Partial<GridSettings>, label = 'set grid'): void {
    this.store.commit({ kind: 'grid', grid: { ...this.store.kept().grid, ...part } }, label);
  }

  protected setCell(cell: number): void {
    const document = this.store.kept();
    if (cell === document.grid.cell) return;
    if (!this.keepSizes()) return this.set({ cell }, 'set cell');
    const exact = recountsExactly(document, cell);
    this.store.commit({ kind: 'recount', cell }, 'set cell, sizes kept');
    if (!exact)
      this.messages.say('warn', 'Some sizes fall between the new cells’ parts', [
        'They were moved by less than 1/50 000 of a cell. Undo brings the old grid back.',
      ]);
  }

  /** Sets the cell by the distance of its drawn lines. */
  protected setApart(distance: number): void {
    const apart = this.apart();
    if (apart) this.setCell((this.grid().cell * distance) / apart.value);
  }

  protected setLines(axis: Axis, part: Partial<LineLook>): void {
    const { lines } = this.store.kept().grid;
    this.set({ lines: { ...lines, [axis]: { ...lines[axis], ...part } } }, `lines along ${axis}`);
  }

  protected showPlane(kind: WorldPlaneKind, shown: boolean): void {
    const { planes } = this.store.kept().grid;
    const now = planes === 'active' ? [] : planes;
    this.set({ planes: shown ? [...now.filter((p) => p !== kind), kind] : now.filter((p) => p !== kind) }, 'planes of the grid');
  }

  protected showsPlane(kind: WorldPlaneKind): boolean {
    const { planes } = this.grid();
    return planes !== 'active' && planes.includes(kind);
  }

  protected follow(active: boolean): void {
    this.set({ planes: active ? 'active' : [...PLANES] }, 'planes of the grid');
  }

  protected colourOf(axis: Axis): string {
    return this.grid().lines[axis].colour ?? PLANE_COLOURS[this.plane()];
  }

  protected bound(limited: boolean): void {
    const { extents } = this.store.kept().grid;
    this.set({ extents: { ...extents, [this.plane()]: limited ? { minU: 0, maxU: 20, minV: 0, maxV: 20 } : null } }, 'extent of the grid');
  }

  protected setExtent(part: Partial<Extent>): void {
    const { extents } = this.store.kept().grid;
    const now = extents[this.plane()];
    if (!now) return;
    const next = { ...now, ...part };
    if (next.minU >= next.maxU || next.minV >= next.maxV) {
      this.messages.say('warn', 'The extent was not changed', ['It has to end beyond where it begins.']);
      return;
    }
    this.set({ extents: { ...extents, [this.plane()]: next } }, 'extent of the grid');
  }

  protected toWhole(value: number): number {
    return Math.round(value);
  }

  protected percent(share: number): number {
    return Number(figure(share * 100, 0));
  }
}
