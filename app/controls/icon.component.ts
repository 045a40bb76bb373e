import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, afterRenderEffect } from '@angular/core';
import type { IconNode } from 'lucide';
import { ICONS } from './icons';

const SVG = 'http://www.w3.org/2000/svg';

/** A small figure beside words; never the only name of anything. */
@Component({
  selector: 'chemin-icon',
  template: '',
  host: { 'aria-hidden': 'true' },
  styles: ':host { display: inline-flex; width: 18px; height: 18px; flex: none; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class IconComponent {
  readonly name = input.required<string>();
  private readonly figure = computed((): IconNode => (ICONS as Readonly<Record<string, IconNode>>)[this.name()] ?? []);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  constructor() {
    afterRenderEffect(() => {
      const svg = document.createElementNS(SVG, 'svg');
      const frame = {
        viewBox: '0 0 24 24',
        width: '18',
        height: '18',
        fill: 'none',
        stroke: 'currentColor',
        'stroke-width': '1.7',
        'stroke-linecap': 'round',
        'stroke-linejoin': 'round',
      };
      for (const [key, value] of Object.entries(frame)) svg.setAttribute(key, value);
      for (const [tag, attributes] of this.figure()) {
        const part = document.createElementNS(SVG, tag);
        for (const [key, value] of Object.entries(attributes)) part.setAttribute(key, String(value));
        svg.append(part);
      }
      this.host.replaceChildren(svg);
    });
  }
}
