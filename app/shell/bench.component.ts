import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, signal, type Type } from '@angular/core';
import { IconComponent } from '../controls/icon.component';
import { StagesService } from '../state/stages.service';
import { ViewStore } from '../state/view.store';

/** The bench: the stage's tools, each with icon, name and digit, and below them the settings of the stage. */
@Component({
  selector: 'chemin-bench',
  imports: [IconComponent, NgComponentOutlet],
  template: `
    <section [attr.aria-label]="title() + ': tools and settings'">
      <h2>{{ title() }}</h2>
      <ul [class.many]="tools().length > 9">
        @for (tool of tools(); track tool.name; let i = $index) {
          <li>
            <button type="button" class="tool" [attr.aria-pressed]="view.tool() === tool.name" (click)="view.setTool(tool.name)">
              <chemin-icon [name]="tool.name" /><span>{{ tool.title }}</span>
              @if (i < 18) {
                <kbd>{{ i < 9 ? i + 1 : '⇧' + (i - 8) }}</kbd>
              }
            </button>
          </li>
        }
      </ul>
      <ng-container *ngComponentOutlet="bench()" />
      @if (guide(); as page) {
        <a class="guide" [href]="'guide/' + page + '.html'" target="_blank" rel="noopener">Guide: {{ title() }}</a>
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
    .guide {
      justify-self: start;
      padding: 4px 0;
      color: var(--ink-2);
      font-size: 13px;
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
  private readonly stages = inject(StagesService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  protected readonly title = computed(() => this.stages.links.find(({ name }) => name === this.view.stage())?.title ?? '');
  protected readonly tools = computed(() => this.stages.current()?.tools ?? []);
  protected readonly guide = computed(() => this.stages.current()?.guide ?? null);
  /** Settings that have come, by their stages. */
  private readonly benches = signal<ReadonlyMap<string, Type<unknown>>>(new Map());
  protected readonly bench = computed(() => this.benches().get(this.view.stage()) ?? null);

  constructor() {
    effect(() => {
      const stage = this.stages.current();
      if (stage) void stage.bench().then((bench) => this.benches.update((map) => (map.has(stage.name) ? map : new Map(map).set(stage.name, bench))));
    });
    // Another page of settings is read from its top.
    effect(() => {
      this.view.stage();
      this.view.tool();
      this.host.scrollTop = 0;
    });
  }
}
