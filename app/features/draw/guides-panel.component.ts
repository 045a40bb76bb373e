import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { planeName, type Guide } from '@core';
import { FoldComponent } from '../../controls/fold.component';
import { IconComponent } from '../../controls/icon.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { TextFieldDirective } from '../../controls/text-field.directive';
import { DocumentStore } from '../../state/document.store';
import { GuidesService } from '../../state/guides.service';
import { axisName } from '../../tools/catching';

const DEGREE = 180 / Math.PI;
/** Digits to which directions are told. */
const DIGITS = 4;

/** The list of guides: each named, shown or hidden, locked, removed, and moved by number once it is chosen. */
@Component({
  selector: 'chemin-guides-panel',
  imports: [FoldComponent, IconComponent, MeasureFieldComponent, TextFieldDirective],
  template: `
    <chemin-fold name="guides" [title]="'Guides ' + guides.guides().length" [open]="true">
      @for (guide of guides.guides(); track guide.id) {
        <div class="swatch" [class.chosen]="guide.id === guides.chosen()?.id">
          <button
            type="button"
            class="plain"
            [attr.aria-pressed]="guide.id === guides.chosen()?.id"
            [attr.aria-label]="'Choose ' + guide.name"
            (click)="guides.choose(guide.id === guides.chosen()?.id ? null : guide.id)"
          >
            <chemin-icon name="guide" />
          </button>
          <input class="name" [attr.aria-label]="'Name of ' + guide.name" [value]="guide.name" (change)="rename(guide, $any($event.target).value)" cheminText />
          <button
            type="button"
            class="plain"
            [attr.aria-label]="(guide.hidden ? 'Show ' : 'Hide ') + guide.name"
            (click)="guides.change(guide.id, { hidden: !guide.hidden }, (guide.hidden ? 'show ' : 'hide ') + guide.name)"
          >
            <chemin-icon [name]="guide.hidden ? 'hidden' : 'shown'" />
          </button>
          <button
            type="button"
            class="plain"
            [attr.aria-label]="(guide.locked ? 'Unlock ' : 'Lock ') + guide.name"
            (click)="guides.change(guide.id, { locked: !guide.locked }, (guide.locked ? 'unlock ' : 'lock ') + guide.name)"
          >
            <chemin-icon [name]="guide.locked ? 'locked' : 'unlocked'" />
          </button>
          <button type="button" class="plain" [attr.aria-label]="'Remove ' + guide.name" (click)="guides.remove(guide.id)">
            <chemin-icon name="delete" />
          </button>
        </div>
      } @empty {
        <p class="note">Pull one out of a ruler, or press where it is to run. Guides are caught and are not handed over.</p>
      }
      @if (guides.chosen(); as guide) {
        <p class="note">{{ where() }}</p>
        @if (guide.locked) {
          <p class="note">It is locked: unlock it to move it.</p>
        } @else {
          @if (showsU()) {
            <chemin-measure in="cells" [label]="'Position ' + names().u" [value]="guide.at.u" (taken)="guides.moveTo(guide.id, { u: $event, v: guide.at.v })" />
          }
          @if (showsV()) {
            <chemin-measure in="cells" [label]="'Position ' + names().v" [value]="guide.at.v" (taken)="guides.moveTo(guide.id, { u: guide.at.u, v: $event })" />
          }
          @if (guide.along !== 'out') {
            <chemin-measure in="number" label="Direction" unit="°" [value]="deg()" (taken)="guides.turnTo(guide.id, $event)" />
          }
        }
      }
    </chemin-fold>
  `,
  styleUrls: ['../../styles/bench.css', './paint-panel.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GuidesPanelComponent {
  protected readonly guides = inject(GuidesService);
  private readonly documents = inject(DocumentStore);

  private readonly along = computed(() => this.guides.chosen()?.along ?? 'out');
  /** A guide along a direction is told by its place across it alone. */
  protected readonly showsU = computed(() => !isAlong(this.along(), 'u'));
  protected readonly showsV = computed(() => !isAlong(this.along(), 'v'));
  protected readonly names = computed(() => {
    const plane = this.guides.chosen()!.plane;
    return { u: axisName(plane, 'u'), v: axisName(plane, 'v') };
  });
  protected readonly deg = computed(() => {
    const along = this.along();
    return along === 'out' ? 0 : Number((Math.atan2(along.v, along.u) * DEGREE).toFixed(DIGITS));
  });
  protected readonly where = computed(() => {
    const { plane, along } = this.guides.chosen()!;
    const name = planeName(plane.kind, this.documents.shown().projection);
    return along === 'out' ? `Out of the ${name}` : `In the ${name}${plane.kind === 'sheet' || plane.kind === 'free' ? '' : ` at ${plane.offset}`}`;
  });

  protected rename(guide: Guide, text: string): void {
    const name = text.trim().slice(0, 200);
    if (name && name !== guide.name) this.guides.change(guide.id, { name }, `rename ${guide.name}`);
  }
}

function isAlong(along: Guide['along'], direction: 'u' | 'v'): boolean {
  return along !== 'out' && Math.abs(along[direction === 'u' ? 'v' : 'u']) < 1e-9;
}
