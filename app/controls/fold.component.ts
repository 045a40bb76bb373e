import { CdkAccordionItem } from '@angular/cdk/accordion';
import { ChangeDetectionStrategy, Component, inject, input, type OnInit } from '@angular/core';
import { IconComponent } from './icon.component';

let count = 0;

/** A part of a bench that folds away under its title; whether it is open is kept by its name in the browser. */
@Component({
  selector: 'chemin-fold',
  imports: [IconComponent],
  hostDirectives: [CdkAccordionItem],
  template: `
    <h3>
      <button type="button" [attr.aria-expanded]="item.expanded" [attr.aria-controls]="id" (click)="toggle()">
        <chemin-icon [name]="item.expanded ? 'open-part' : 'folded-part'" />{{ title() }}
      </button>
    </h3>
    <div class="inside" role="region" [id]="id" [attr.aria-label]="title()" [hidden]="!item.expanded"><ng-content /></div>
  `,
  styles: `
    :host {
      display: block;
      padding-top: 8px;
      border-top: 1px solid var(--stone-2);
    }
    button {
      display: flex;
      align-items: center;
      gap: 2px;
      width: 100%;
      min-height: 24px;
      padding: 0;
      border: 0;
      background: none;
      font-size: 12px;
      font-weight: 600;
      letter-spacing: 0.04em;
      color: var(--ink-2);
      text-align: left;
      cursor: pointer;
    }
    .inside {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 8px;
      padding-top: 4px;
    }
    .inside[hidden] {
      display: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FoldComponent implements OnInit {
  /** Its own name, under which the browser keeps whether it is open. */
  readonly name = input.required<string>();
  readonly title = input.required<string>();
  /** Whether it is open until it was folded by hand. */
  readonly open = input(false);
  protected readonly item = inject(CdkAccordionItem);
  protected readonly id = `fold-${++count}`;

  ngOnInit(): void {
    this.item.expanded = (stored(this.name()) ?? (this.open() ? 'open' : 'folded')) === 'open';
  }

  protected toggle(): void {
    this.item.toggle();
    try {
      localStorage.setItem(`chemin-fold-${this.name()}`, this.item.expanded ? 'open' : 'folded');
    } catch {
      // Without storage parts are as they come.
    }
  }
}

function stored(name: string): string | null {
  try {
    return localStorage.getItem(`chemin-fold-${name}`);
  } catch {
    return null;
  }
}
