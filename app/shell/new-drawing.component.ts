import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { emptyDocument, FAMILIES, lengthInUnit, mmPer, SHEET_SIZES, startedDocument, type CheminDocument, type FamilyKey, type Sheet } from '@core';
import { SmallPictureComponent } from '../controls/small-picture.component';
import type { StoredSetup } from '../platform/database';
import { SetupsService } from '../platform/setups.service';

/** Most sheets that are offered. */
const MOST_SHEETS = 4;

/** Starts a drawing in one press: each projection as it would look, on one of the sheets used last, or a kept set-up. */
@Component({
  selector: 'chemin-new-drawing',
  imports: [SmallPictureComponent],
  template: `
    <div class="sheets" role="group" aria-label="Sheet of the new drawing">
      <span>On a sheet of</span>
      @for (sheet of sheets(); track $index) {
        <button type="button" class="plain" [attr.aria-pressed]="$index === at()" (click)="at.set($index)">{{ size(sheet) }}</button>
      }
    </div>
    <ul class="families">
      @for (family of families(); track family.key) {
        <li>
          <button type="button" [attr.aria-label]="'Start in ' + family.name" [attr.aria-description]="family.purpose" (click)="started.emit(family.document)">
            <chemin-small-picture kind="family" [document]="family.document" />
            <span>{{ family.name }}</span>
          </button>
        </li>
      }
    </ul>
    @if (setups.kept().length > 0) {
      <div class="sheets" role="group" aria-label="Kept set-ups">
        <span>With a kept set-up</span>
        @for (setup of setups.kept(); track setup.id) {
          <button type="button" class="plain" [attr.aria-label]="'Start with ' + setup.name" (click)="started.emit(withSetup(setup))">{{ setup.name }}</button>
        }
      </div>
    }
  `,
  styles: `
    .sheets {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
      font-size: 13px;
    }
    .sheets span {
      margin-right: 4px;
    }
    .sheets .plain {
      border: 1px solid var(--stone-3);
    }
    .families {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(118px, 1fr));
      gap: 8px;
      margin: 10px 0;
    }
    .families button {
      display: grid;
      gap: 3px;
      width: 100%;
      padding: 0;
      border: 0;
      background: none;
      text-align: left;
      cursor: pointer;
      font-size: 12px;
      line-height: 1.15;
    }
    chemin-small-picture {
      border: 1px solid var(--stone-3);
      border-radius: 3px;
      overflow: hidden;
    }
    button:hover chemin-small-picture {
      border-color: var(--violet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewDrawingComponent {
  protected readonly setups = inject(SetupsService);
  /** The drawings that are kept, the one changed last first: their sheets are offered. */
  readonly drawings = input.required<readonly { readonly document: CheminDocument }[]>();
  readonly started = output<CheminDocument>();

  protected readonly at = signal(0);
  protected readonly sheets = computed(() => sheetsUsed(this.drawings().map((drawing) => drawing.document.sheet)));
  protected readonly families = computed(() => FAMILIES.map((family) => ({ ...family, document: this.start(family.key) })));

  protected size({ width, height, ...sheet }: Sheet): string {
    return `${lengthInUnit(width, { ...sheet, scale: 1 }).replace(/\u2009.*/, '')} × ${lengthInUnit(height, { ...sheet, scale: 1 })}`;
  }

  protected withSetup({ projection, grid }: StoredSetup): CheminDocument {
    return { ...this.start('isometric'), projection, grid };
  }

  private start(family: FamilyKey): CheminDocument {
    return startedDocument('new', '', this.sheets()[this.at()] ?? this.sheets()[0]!, family);
  }
}

/** The sheets of drawings without doubles, filled up with common ones; all with the usual background and no scale. */
function sheetsUsed(used: readonly Sheet[]): readonly Sheet[] {
  const usual = emptyDocument('', '').sheet;
  const common = ['A4', 'screen 1920 × 1080'].flatMap((name) => {
    const size = SHEET_SIZES.find((s) => s.name === name);
    if (!size) return [];
    const mm = mmPer(size.unit, size.resolution);
    return [{ ...usual, width: size.height * mm, height: size.width * mm, unit: size.unit, resolution: size.resolution }];
  });
  const all: Sheet[] = [usual];
  for (const { width, height, unit, resolution } of [...used, ...common]) {
    const same = all.some((s) => Math.abs(s.width - width) < 0.01 && Math.abs(s.height - height) < 0.01 && s.unit === unit);
    if (!same && all.length < MOST_SHEETS) all.push({ ...usual, width, height, unit, resolution });
  }
  return all;
}
