import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { uncertaintyAt, type SurfaceKind } from '@later';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ViewStore } from '../../state/view.store';
import { CrossingLoupeComponent } from './crossing-loupe.component';
import { MissChartsComponent } from './miss-charts.component';
import { KIND_WORDS } from './photo-words';
import { PhotosService } from './photos.service';
import { px } from './surface-parts';

const KINDS: readonly SurfaceKind[] = ['panel', 'cylinder', 'cone', 'patch'];

/** The fitted surface: its kind and why, how far off it is, and its crossings. */
@Component({
  selector: 'chemin-photo-fit-panel',
  imports: [CrossingLoupeComponent, FormsModule, MeasureFieldComponent, MissChartsComponent, ToggleSwitchModule],
  template: `
    @if (fit(); as fit) {
      <section aria-label="Fit">
        <h3 class="panel-title">Fit</h3>
        @if (crossings() > 0) {
          <div class="chips" role="group" aria-label="Taken for a">
            @for (kind of kinds; track kind) {
              <button type="button" class="plain" [attr.aria-pressed]="fit.kind === kind" (click)="photos.useKind(kind)">{{ words[kind] }}</button>
            }
          </div>
          <p class="note">{{ reason() }}</p>
          @if (photos.fit(); as opened) {
            <dl class="figures">
              <dt>Crossings</dt>
              <dd>{{ crossings() }} of {{ all() }}{{ left() }}</dd>
              <dt>Off in the mean</dt>
              <dd>{{ px(opened.mean) }}</dd>
              <dt>95 % under</dt>
              <dd>{{ px(opened.p95) }}</dd>
              <dt>Largest</dt>
              <dd>{{ px(opened.largest) }}</dd>
              <dt>Unsure elsewhere</dt>
              <dd>{{ between() }}</dd>
              @if (angle()) {
                <dt>Angle of view</dt>
                <dd>{{ angle() }}</dd>
              }
            </dl>
          }
          <div class="chips">
            <button type="button" class="plain bordered" (click)="photos.goToWorst()">Go to the worst</button>
            <button type="button" class="plain bordered" [attr.aria-pressed]="charts()" (click)="charts.set(!charts())">Charts</button>
          </div>
          @if (charts()) {
            <chemin-miss-charts />
          }
          <div class="row">
            <label for="photo-arrows">Misses as arrows</label>
            <p-toggleswitch inputId="photo-arrows" [ngModel]="photos.arrows()" (ngModelChange)="photos.arrows.set($event)" />
          </div>
          @if (photos.arrows()) {
            <chemin-measure
              in="number"
              label="Enlarged"
              unit="times"
              [least]="1"
              [most]="1000"
              [value]="photos.enlarged()"
              (taken)="photos.enlarged.set($event)"
            />
          }
        } @else {
          <p class="note">{{ words[fit.kind] }}, fitted by its edges: without a lattice there are no misses to be told.</p>
        }
        <div class="row">
          <label for="photo-guide">Lattice over the photograph</label>
          <p-toggleswitch inputId="photo-guide" [ngModel]="photos.guide()" (ngModelChange)="photos.guide.set($event)" />
        </div>
        <chemin-crossing-loupe />
      </section>
    }
  `,
  styleUrl: '../../styles/bench.css',
  styles: `
    .figures {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 2px 8px;
      margin: 4px 0 8px;
      font-size: 13px;
    }
    .figures dd {
      margin: 0;
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhotoFitPanelComponent {
  protected readonly photos = inject(PhotosService);
  protected readonly view = inject(ViewStore);
  protected readonly kinds = KINDS;
  protected readonly words = KIND_WORDS;
  protected readonly px = px;
  protected readonly charts = signal(false);
  protected readonly fit = computed(() => this.photos.there()?.surface.fit ?? null);
  protected readonly crossings = computed(() => this.photos.there()?.surface.crossings.length ?? 0);
  protected readonly all = computed(() => {
    const { columns, rows } = this.photos.there()?.surface.lattice ?? { columns: 0, rows: 0 };
    return (columns + 1) * (rows + 1);
  });
  protected readonly left = computed(() => {
    const wrong = this.fit()?.wrong.length ?? 0;
    return wrong > 0 ? `, ${wrong} left out` : '';
  });

  /** Why the kind was chosen: what the others would be off by. */
  protected readonly reason = computed(() => {
    const tried = this.photos.tried();
    const own = tried.find(({ kind }) => kind === this.fit()?.kind);
    if (!own) return 'Find and fit again to compare what the other kinds are off by.';
    const others = tried.filter((one) => one !== own).map(({ kind, spread }) => `${KIND_WORDS[kind].toLowerCase()} ${px(spread)}`);
    const best = tried[0] === own ? 'The plainest that explains the crossings' : 'Chosen by hand';
    return `${best}: off by ${px(own.spread)} for each direction; ${others.join(', ')}.`;
  });

  /** The uncertainty in the middle of boxes, at most. */
  protected readonly between = computed(() => {
    const opened = this.photos.fit();
    if (!opened) return '';
    const { columns, rows, box } = opened.lattice;
    const places = [0, 1, 2].flatMap((i) => [0, 1, 2].map((j) => [((i * (columns - 1)) / 2 + 0.5) * box, ((j * (rows - 1)) / 2 + 0.5) * box] as const));
    const values = places.map(([u, v]) => uncertaintyAt(opened, u, v));
    return `${px(Math.min(...values))} to ${px(Math.max(...values))}`;
  });

  /** How much the camera takes in from left to right, with its uncertainty. */
  protected readonly angle = computed(() => {
    const opened = this.photos.fit();
    if (!opened || opened.shape.kind === 'patch') return '';
    const { camera, covariance } = opened.shape;
    const deg = (focal: number): number => (360 / Math.PI) * Math.atan(camera.width / 2 / focal);
    const off = covariance?.[0] === undefined ? null : Math.abs(deg(camera.focal * Math.exp(Math.sqrt(covariance[0]) * opened.ratio)) - deg(camera.focal));
    return `${deg(camera.focal).toFixed(1)}°${off === null ? '' : ` ± ${off.toFixed(1)}°`}`;
  });
}
