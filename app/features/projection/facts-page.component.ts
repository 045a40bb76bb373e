import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { figure, realLength } from '@core';
import { ellipseRatio, factsText, majorAxisDeg, mapForms, pointWords, projectionFacts } from '@later';
import { DocumentStore } from '../../state/document.store';
import { MessageStore } from '../../platform/messages.store';

/** The facts: name and reason, axes, circles, vanishing points, and the recipe of each plane, to be copied. */
@Component({
  selector: 'chemin-facts-page',
  templateUrl: './facts-page.component.html',
  styleUrls: ['../../styles/bench.css', './facts-page.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FactsPageComponent {
  private readonly store = inject(DocumentStore);
  private readonly messages = inject(MessageStore);
  protected readonly facts = computed(() => {
    const { projection, grid, sheet } = this.store.shown();
    return projectionFacts(projection, grid.cell, sheet.width);
  });
  protected readonly axes = computed(() => {
    const { axes } = this.facts();
    return (['a', 'b', 'h'] as const).flatMap((axis) =>
      axes ? [{ axis, angle: `${figure(axes[axis].angleDeg, 2)}°`, ratio: figure(axes[axis].ratio, 4) }] : [],
    );
  });
  protected readonly planes = computed(() =>
    this.facts().planes.map((plane) => ({
      name: plane.name,
      circle: plane.circle ? `1 : ${figure(ellipseRatio(plane.circle), 4)}, long axis at ${figure(majorAxisDeg(plane.circle), 1)}°` : 'no ellipse here',
      forms: mapForms(plane),
    })),
  );
  protected readonly points = computed(() => {
    const perspective = this.facts().perspective;
    if (!perspective) return [];
    const points = (['a', 'b', 'h'] as const).map((axis) => ({ name: `vanishing point ${axis}`, words: pointWords(perspective.points[axis]) }));
    const { horizon, focal, viewDeg, eyeHeight } = perspective;
    return [
      ...points,
      { name: 'horizon', words: horizon ? `y ${figure(horizon.y, 1)}\u2009mm` : 'none' },
      { name: 'focal length', words: `${figure(focal, 1)}\u2009mm` },
      { name: 'angle of view', words: `${figure(viewDeg, 1)}°` },
      { name: 'eye height', words: `${figure(eyeHeight, 1)}\u2009mm, ${realLength(eyeHeight, this.store.shown().sheet.scale)}` },
    ];
  });

  protected async copy(text: string, what: string): Promise<void> {
    try {
      await navigator.clipboard.writeText(text);
      this.messages.say('good', `${what} was copied`);
    } catch {
      this.messages.say('bad', `${what} was not copied`, ['The browser does not give access to its clipboard here. Mark the text and copy it by hand.']);
    }
  }

  protected copyAll(): void {
    void this.copy(factsText(this.facts()), 'The text of all facts');
  }
}
