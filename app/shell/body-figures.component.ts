import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { bodyOf, boundsAll, drawnBody, drawnNodes, figure, idsWithin, isJoined, surfaceNamed, surfaceWord, type Body, type DocumentNode } from '@core';
import { bodyVolume, surfaceArea, withPartFaceMoved, withSurfaceMoved } from '@later';
import { MeasureFieldComponent } from '../controls/measure-field.component';
import { MessageStore } from '../platform/messages.store';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';

/** Things whose figures follow each frame of a gesture. */
const MANY = 200;

const volumes = new WeakMap<Body, number | null>();

/** What a body encloses, in cubic cells; null for an open one. Worked out once for each. */
function volumeOf(body: Body): number | null {
  let volume = volumes.get(body);
  if (volume === undefined) volumes.set(body, (volume = bodyVolume(body)));
  return volume;
}

/** How large things are in space: their box, faces and volume; and the area of the face that was pressed, which is moved here by a number. */
@Component({
  selector: 'chemin-body-figures',
  imports: [MeasureFieldComponent],
  template: `
    @if (face(); as face) {
      <p class="note">{{ face.words }}: {{ face.area }} square cells.</p>
      <chemin-measure in="cells" label="Move the face out by" [value]="0" (taken)="moveFace(face.name, $event)" />
    }
    @if (words()) {
      <p class="note">{{ words() }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 7px;
    }
    p {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BodyFiguresComponent {
  readonly nodes = input.required<readonly DocumentNode[]>();

  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);

  private readonly bodies = computed((): readonly Body[] => {
    const ids = new Set(this.nodes().flatMap(idsWithin));
    // Of many, the figures wait for the end of a gesture.
    const document = ids.size > MANY ? this.documents.kept() : this.documents.shown();
    const bodies = drawnNodes(document).map((drawn) => (ids.has(drawn.owner) ? drawnBody(drawn) : null));
    // What is a part of solids that are one is not drawn by itself.
    const own = bodies.filter((body) => body !== null);
    const [only] = this.nodes();
    return own.length === 0 && only?.kind === 'shape' ? [bodyOf(only)].filter((body) => body !== null) : own;
  });
  protected readonly face = computed(() => {
    const name = this.view.face();
    const node = this.held();
    const surface = name === null || !node ? null : surfaceNamed(this.bodies()[0] ?? null, name);
    return surface && { name: surface.name, words: surfaceWord(surface).replace(/^./, (letter) => letter.toUpperCase()), area: figure(surfaceArea(surface)) };
  });
  protected readonly words = computed(() => {
    const bodies = this.bodies();
    const box = boundsAll(bodies);
    if (!box) return '';
    const size = (['a', 'b', 'h'] as const).map((axis) => figure(box.max[axis] - box.min[axis])).join(' × ');
    const each = bodies.map(volumeOf);
    const closed = each.filter((volume) => volume !== null);
    const count = bodies.reduce((sum, { surfaces }) => sum + surfaces.length, 0);
    const volume = figure(closed.reduce((sum, one) => sum + one, 0));
    const open = bodies.length - closed.length;
    const state = closed.length === 0 ? 'open' : open > 0 ? `${volume} cubic cells in ${closed.length} closed, ${open} open` : `closed, ${volume} cubic cells`;
    return `${size}\u2009cells along a, b and h; ${count === 1 ? 'one face' : `${count} faces`}; ${state}.`;
  });

  /** The one thing whose faces can be moved. */
  private readonly held = computed(() => {
    const [node, ...more] = this.nodes();
    const can = more.length === 0 && ((node?.kind === 'shape' && node.depth !== 0) || (node?.kind === 'group' && isJoined(node)));
    return can ? node : null;
  });

  protected moveFace(name: string, by: number): void {
    const node = this.held();
    if (by === 0 || !node) return;
    const moved = node.kind === 'shape' ? withSurfaceMoved(node, name, by) : withPartFaceMoved(this.documents.kept(), node, name, by);
    if (!moved.ok) this.messages.say('warn', `${node.name}: ${moved.reason}`);
    else this.documents.commit({ kind: 'change', nodes: [moved.value] }, `move a face of ${node.name}`);
  }
}
