import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { anchorRound, bodyOf, cornersOf, findShape, isTurned, surfaceNamed, surfaceWord, type Pattern, type PlacementNode } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { newId } from '../../platform/ids';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { ViewStore } from '../../state/view.store';
import { ArtworkTargets } from './artwork-targets';

/** Ways in which artwork is repeated, as they are called. */
const WAYS = [
  { key: 'once', title: 'Once', along: 'rows', shift: 0 },
  { key: 'straight', title: 'Straight', along: 'rows', shift: 0 },
  { key: 'rows', title: 'Offset rows', along: 'rows', shift: 0.5 },
  { key: 'columns', title: 'Half-drop', along: 'columns', shift: 0.5 },
] as const;

/** How the selected placement is repeated over its face, and goes on round the corners of its solid. */
@Component({
  selector: 'chemin-pattern-panel',
  imports: [MeasureFieldComponent],
  template: `
    @if (placement(); as placed) {
      <div class="chips" role="group" aria-label="Pattern">
        @for (way of WAYS; track way.key) {
          <button type="button" class="plain" [attr.aria-pressed]="way.key === key()" (click)="choose(way.key)">{{ way.title }}</button>
        }
      </div>
      @if (placed.pattern; as pattern) {
        <chemin-measure in="cells" label="Gap across" [least]="0" [value]="pattern.gapX" (taken)="set({ gapX: $event })" />
        <chemin-measure in="cells" label="Gap down" [least]="0" [value]="pattern.gapY" (taken)="set({ gapY: $event })" />
        @if (key() !== 'straight') {
          <chemin-measure
            in="number"
            label="Set off by"
            unit="%"
            [least]="0"
            [most]="100"
            [value]="pattern.shift * 100"
            (taken)="set({ shift: $event / 100 })"
          />
        }
      }
      @if (around().length > 0) {
        <div class="chips" role="group" aria-label="Go on round the corner">
          <span class="note">Go on round the corner to</span>
          @for (next of around(); track next.face) {
            <button type="button" class="plain bordered" (click)="goOn(next)">{{ next.word }}</button>
          }
        </div>
      }
    }
  `,
  styleUrls: ['../../styles/bench.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PatternPanelComponent {
  private readonly documents = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  private readonly view = inject(ViewStore);
  protected readonly placement = inject(ArtworkTargets).placement;
  protected readonly WAYS = WAYS;

  protected readonly key = computed((): (typeof WAYS)[number]['key'] => {
    const pattern = this.placement()?.pattern;
    if (!pattern) return 'once';
    return pattern.shift === 0 ? 'straight' : pattern.along;
  });

  protected choose(key: (typeof WAYS)[number]['key']): void {
    const way = WAYS.find((one) => one.key === key)!;
    if (key === 'once') return this.put(undefined);
    const { gapX, gapY } = this.placement()?.pattern ?? { gapX: 0, gapY: 0 };
    this.put({ gapX, gapY, along: way.along, shift: way.shift });
  }

  protected set(part: Partial<Pattern>): void {
    const pattern = this.placement()?.pattern;
    if (pattern) this.put({ ...pattern, ...part });
  }

  private put(pattern: Pattern | undefined): void {
    const placed = this.placement();
    if (!placed) return;
    const { pattern: _, ...rest } = placed;
    this.documents.commit(
      { kind: 'change', nodes: [{ ...rest, ...(pattern && { pattern }) }] },
      pattern ? `repeat ${placed.name}` : `show ${placed.name} once`,
    );
  }

  /** The faces that are seen beyond the corners of the selected placement's face, and where it would lie on them. */
  protected readonly around = computed(() => {
    const placed = this.placement();
    const { target } = placed ?? {};
    const host = target?.kind === 'face' ? findShape(this.documents.kept(), target.node) : null;
    const body = host && bodyOf(host);
    const surface = body && target?.kind === 'face' && !target.inside ? surfaceNamed(body, target.face) : null;
    if (!placed || !host || !body || !surface) return [];
    const { view } = this.pictures.geometry();
    return cornersOf(body, surface).flatMap((corner) => {
      const anchor = isTurned(view, corner.to) ? anchorRound(placed.anchor, surface, corner) : null;
      return anchor ? [{ face: corner.to.name, word: surfaceWord(corner.to), anchor, host }] : [];
    });
  });

  protected goOn({
    face,
    word,
    anchor,
    host,
  }: {
    readonly face: string;
    readonly word: string;
    readonly anchor: PlacementNode['anchor'];
    readonly host: { readonly id: string; readonly name: string };
  }): void {
    const placed = this.placement();
    const artwork = this.documents.kept().artworks.find(({ id }) => id === placed?.artwork);
    if (!placed || !artwork) return;
    const node: PlacementNode = {
      ...placed,
      id: newId(),
      name: `${artwork.name}, ${host.name}, ${word}`,
      target: { kind: 'face', node: host.id, face },
      anchor,
    };
    this.documents.commit({ kind: 'add', nodes: [node], artworks: [] }, `go on round the corner with ${artwork.name}`);
    this.view.select([node.id]);
  }
}
