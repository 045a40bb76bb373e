import { ChangeDetectionStrategy, Component, effect, type ElementRef, inject, viewChild } from '@angular/core';
import { ViewStore } from '../../state/view.store';
import { PhotosService } from './photos.service';

/** Misses as a histogram, and by the place of the lattice. */
@Component({
  selector: 'chemin-miss-charts',
  template: `
    <div #histogram class="chart" role="img" [attr.aria-label]="'How many crossings are off by how much, of ' + photos.misses().length"></div>
    <div #map class="chart" role="img" aria-label="Misses by columns and rows of the lattice"></div>
  `,
  styles: `
    .chart {
      height: 190px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MissChartsComponent {
  protected readonly photos = inject(PhotosService);
  private readonly view = inject(ViewStore);
  private readonly histogram = viewChild.required<ElementRef<HTMLElement>>('histogram');
  private readonly map = viewChild.required<ElementRef<HTMLElement>>('map');

  constructor() {
    effect(() => {
      const misses = this.photos.misses();
      this.view.theme();
      void this.draw(misses);
    });
  }

  private async draw(misses: ReturnType<PhotosService['misses']>): Promise<void> {
    const { default: charts } = await import('plotly.js-basic-dist-min');
    const style = getComputedStyle(document.documentElement);
    const colour = (token: string): string => style.getPropertyValue(token).trim();
    const font = { family: 'Hanken Grotesk, sans-serif', size: 11, color: colour('--ink') };
    const axis = { zeroline: false, gridcolor: colour('--line'), linecolor: colour('--line') };
    const layout = { margin: { l: 34, r: 8, t: 8, b: 34 }, font, paper_bgcolor: 'transparent', plot_bgcolor: 'transparent', showlegend: false, bargap: 0.05 };
    const config = { displayModeBar: false, responsive: true };
    const right = misses.filter(({ wrong }) => !wrong);
    const most = Math.max(0.02, ...right.map(({ far }) => far));
    const BARS = 16;
    const counts = Array.from({ length: BARS }, (_, i) => right.filter(({ far }) => Math.min(BARS - 1, Math.floor((far / most) * BARS)) === i).length);
    const bars = {
      type: 'bar',
      x: counts.map((_, i) => ((i + 0.5) * most) / BARS),
      y: counts,
      marker: { color: colour('--violet') },
      hovertemplate: '%{y} crossings at %{x:.3f} px<extra></extra>',
    };
    await charts.newPlot(this.histogram().nativeElement, [bars], { ...layout, xaxis: { ...axis, title: { text: 'off by px' } }, yaxis: axis }, config);
    const dots = {
      type: 'scatter',
      mode: 'markers',
      x: misses.map(({ column }) => column),
      y: misses.map(({ row }) => row),
      text: misses.map(({ far }) => `${far.toFixed(3)} px`),
      hovertemplate: 'crossing %{x}, %{y}: %{text}<extra></extra>',
      marker: {
        size: misses.map(({ far, wrong }) => (wrong ? 16 : 4 + (12 * far) / most)),
        color: misses.map(({ wrong }) => colour(wrong ? '--bad' : '--violet')),
        opacity: 0.8,
      },
    };
    const down = { ...axis, autorange: 'reversed', title: { text: 'row' } };
    await charts.newPlot(this.map().nativeElement, [dots], { ...layout, xaxis: { ...axis, title: { text: 'column' } }, yaxis: down }, config);
  }
}
