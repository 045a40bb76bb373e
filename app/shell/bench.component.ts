import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject } from '@angular/core';
import { IconComponent } from '../controls/icon.component';
import { ArtworkBenchComponent } from '../features/artwork/artwork-bench.component';
import { BuildBenchComponent } from '../features/build/build-bench.component';
import { DrawBenchComponent } from '../features/draw/draw-bench.component';
import { LightBenchComponent } from '../features/light/light-bench.component';
import { OutputBenchComponent } from '../features/output/output-bench.component';
import { ProjectionBenchComponent } from '../features/projection/projection-bench.component';
import { STAGES, TOOL_TITLES, ViewStore } from '../state/view.store';

/** The bench: the stage's tools, each with icon, name and digit, and below them the settings of the stage. */
@Component({
  selector: 'chemin-bench',
  imports: [ArtworkBenchComponent, BuildBenchComponent, DrawBenchComponent, IconComponent, LightBenchComponent, OutputBenchComponent, ProjectionBenchComponent],
  template: `
    <section [attr.aria-label]="stage().title + ': tools and settings'">
      <h2>{{ stage().title }}</h2>
      <ul [class.many]="stage().tools.length > 9">
        @for (tool of stage().tools; track tool; let i = $index) {
          <li>
            <button type="button" class="tool" [attr.aria-pressed]="view.tool() === tool" (click)="view.setTool(tool)">
              <chemin-icon [name]="tool" /><span>{{ titles[tool] }}</span
              ><kbd>{{ i < 9 ? i + 1 : '⇧' + (i - 8) }}</kbd>
            </button>
          </li>
        }
      </ul>
      @switch (stage().name) {
        @case ('projection') {
          @defer (on immediate) {
            <chemin-projection-bench />
          }
        }
        @case ('draw') {
          @defer (on immediate) {
            <chemin-draw-bench />
          }
        }
        @case ('build') {
          @defer (on immediate) {
            <chemin-build-bench />
          }
        }
        @case ('light') {
          @defer (on immediate) {
            <chemin-light-bench />
          }
        }
        @case ('artwork') {
          @defer (on immediate) {
            <chemin-artwork-bench />
          }
        }
        @case ('output') {
          @defer (on immediate) {
            <chemin-output-bench />
          }
        }
      }
    </section>
  `,
  styles: `
    :host {
      border-right: 1px solid var(--stone-2);
      overflow: hidden auto;
      scrollbar-width: thin;
    }
    section {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 12px;
      padding: 14px;
    }
    h2 {
      font-size: 17px;
      font-weight: 600;
      letter-spacing: -0.01em;
    }
    ul {
      display: grid;
      gap: 2px;
    }
    .many {
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    }
    .many .tool {
      gap: 4px;
      min-height: 28px;
      padding: 2px 2px 2px 3px;
      font-size: 13px;
    }
    .many li:nth-child(even) .tool {
      margin-right: -6px;
    }
    .many .tool span {
      white-space: nowrap;
    }
    .many kbd {
      padding: 0 1px;
      border: 0;
      background: none;
    }
    .tool {
      display: flex;
      align-items: center;
      gap: 8px;
      width: 100%;
      min-height: 32px;
      padding: 4px 8px;
      border: 0;
      border-left: 3px solid transparent;
      border-radius: 2px;
      background: none;
      text-align: left;
      cursor: pointer;
    }
    .tool span {
      flex: 1;
    }
    .tool:hover {
      background: var(--stone-1);
    }
    .tool[aria-pressed='true'] {
      border-left-color: var(--violet);
      background: var(--violet-wash);
      font-weight: 500;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BenchComponent {
  protected readonly view = inject(ViewStore);
  protected readonly titles = TOOL_TITLES;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  constructor() {
    // Another page of settings is read from its top.
    effect(() => {
      this.view.stage();
      this.view.tool();
      this.host.scrollTop = 0;
    });
  }

  protected readonly stage = computed(() => STAGES.find((stage) => stage.name === this.view.stage()) ?? STAGES[0]!);
}
