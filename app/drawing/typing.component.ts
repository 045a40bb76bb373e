import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, signal } from '@angular/core';
import type { SheetPoint } from '@core';
import { ViewStore } from '../state/view.store';
import { ToolRunnerService } from './tool-runner.service';

/** Lengths typed at the pointer while something is being drawn: Tab goes to the next, Enter takes them. */
@Component({
  selector: 'chemin-typing',
  template: `
    <form [style.transform]="place()" (submit)="take(); $event.preventDefault()" aria-label="Typed lengths">
      @for (field of tools.fields(); track field; let i = $index) {
        <label>
          <span>{{ field }}</span>
          <input autocomplete="off" [value]="i === 0 ? (tools.typing() ?? '') : ''" (keydown)="press($event)" [attr.aria-invalid]="fault() ? true : null" />
        </label>
      }
      <button type="submit" class="visually-hidden" tabindex="-1">Take</button>
      @if (fault()) {
        <p role="alert">{{ fault() }}</p>
      } @else {
        <p>cells, or with mm; sums are allowed</p>
      }
    </form>
  `,
  styles: `
    form {
      position: absolute;
      left: 0;
      top: 0;
      display: flex;
      flex-wrap: wrap;
      gap: 6px 8px;
      width: max-content;
      max-width: 236px;
      padding: 8px 10px;
      border: 1px solid var(--violet);
      border-radius: 3px;
      background: var(--paper);
      box-shadow: var(--shadow);
      cursor: default;
    }
    label {
      display: grid;
      font-size: 12.5px;
      color: var(--ink-2);
    }
    input {
      width: 96px;
      padding: 3px 6px;
      border: 1px solid var(--stone-3);
      border-radius: 2px;
      background: var(--field);
      color: var(--ink);
    }
    p {
      width: 100%;
      font-size: 12px;
      color: var(--ink-2);
    }
    p[role='alert'] {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TypingComponent {
  protected readonly tools = inject(ToolRunnerService);
  private readonly view = inject(ViewStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly at = input.required<SheetPoint>();
  protected readonly fault = signal('');
  protected readonly place = computed(() => {
    const { x, y } = this.at();
    return `translate(${Math.round(Math.min(x + 14, this.view.width() - 260))}px, ${Math.round(Math.max(8, y - 86))}px)`;
  });

  constructor() {
    afterNextRender(() => {
      const field = this.host.querySelector('input');
      field?.focus();
      field?.setSelectionRange(field.value.length, field.value.length);
    });
  }

  protected press(event: KeyboardEvent): void {
    if (event.key !== 'Escape' && event.key !== 'Tab') return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Tab') this.goOn(event.target as HTMLInputElement, event.shiftKey ? -1 : 1);
    else this.close();
  }

  /** To the next field, from the last to the first: what is typed here never leaves for the page, where it would be commands. */
  private goOn(from: HTMLInputElement, way: 1 | -1): void {
    const fields = Array.from(this.host.querySelectorAll('input'));
    const next = fields[(fields.indexOf(from) + way + fields.length) % fields.length];
    next?.focus();
    next?.select();
  }

  protected take(): void {
    const texts = Array.from(this.host.querySelectorAll('input'), (field) => field.value);
    const fault = this.tools.type(texts);
    this.fault.set(fault ?? '');
    if (!fault) this.close();
  }

  private close(): void {
    this.tools.typing.set(null);
    this.host.closest<HTMLElement>('[role=application]')?.focus({ preventScroll: true });
  }
}
