import { afterNextRender, ApplicationRef, ChangeDetectionStrategy, Component, DestroyRef, effect, HostListener, inject } from '@angular/core';
import { ViewsComponent } from '../drawing/views.component';
import { ToolRunnerService } from '../drawing/tool-runner.service';
import { ClipboardService } from '../state/clipboard.service';
import { KeepingService } from '../state/keeping.service';
import { UpdatesService } from '../state/updates.service';
import { CommandsService } from '../state/commands.service';
import { AidsStore } from '../state/aids.store';
import { MessageStore } from '../platform/messages.store';
import { StagesService } from '../state/stages.service';
import { ViewStore } from '../state/view.store';
import { BenchComponent } from './bench.component';
import { CatchingDialogComponent } from './catching-dialog.component';
import { PracticePrinterComponent } from './practice-printer.component';
import { CompareComponent } from './compare.component';
import { ContentsComponent } from './contents.component';
import { DrawingsDialogComponent } from './drawings-dialog.component';
import { FinderComponent } from './finder.component';
import { GroundBarComponent } from './ground-bar.component';
import { HeadComponent } from './head.component';
import { endsTyping, focusDrawing, isClosedList, isPressed, isTextField, isWritten, takesArrows } from './key-rules';
import { KeyListComponent } from './key-list.component';
import { MessagesComponent } from './messages.component';
import { SelectionComponent } from './selection.component';
import { StepsDialogComponent } from './steps-dialog.component';
import { UnsavedDialogComponent } from './unsaved-dialog.component';
import { WayComponent } from './way.component';

/** Ms after which a key counts as held. */
const LOOK_MS = 350;

/** The whole window: the way, the bench, the drawing, contents and selection, the ground bar; and the keys. */
@Component({
  selector: 'chemin-root',
  imports: [
    BenchComponent,
    CompareComponent,
    ContentsComponent,
    ViewsComponent,
    DrawingsDialogComponent,
    FinderComponent,
    GroundBarComponent,
    HeadComponent,
    CatchingDialogComponent,
    PracticePrinterComponent,
    KeyListComponent,
    StepsDialogComponent,
    MessagesComponent,
    SelectionComponent,
    UnsavedDialogComponent,
    WayComponent,
  ],
  templateUrl: './shell.component.html',
  styleUrl: './shell.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShellComponent {
  protected readonly view = inject(ViewStore);
  private readonly stages = inject(StagesService);
  protected readonly messages = inject(MessageStore);
  protected readonly aids = inject(AidsStore);
  protected readonly keeping = inject(KeepingService);
  private readonly commands = inject(CommandsService);
  private readonly tools = inject(ToolRunnerService);
  private readonly application = inject(ApplicationRef);
  private readonly clipboard = inject(ClipboardService);

  /** The key that is held for a look at the references, and the ms since when. */
  private looking: { readonly key: string; readonly since: number } | null = null;

  constructor() {
    void this.keeping.begin();
    // What is not shown yet comes when there is time.
    afterNextRender(() => void this.stages.loadAll());
    inject(UpdatesService).watch();
    // Before the list itself, which would open at what is written.
    const beforeLists = (event: KeyboardEvent): void => {
      if (!isClosedList(event.target) || !isWritten(event)) return;
      event.stopPropagation();
      this.press(event);
    };
    document.addEventListener('keydown', beforeLists, { capture: true });
    inject(DestroyRef).onDestroy(() => document.removeEventListener('keydown', beforeLists, { capture: true }));
    effect(() => document.documentElement.classList.toggle('dark', this.view.theme() === 'dark'));
  }

  /** Things, SVG, a colour, or a picture that becomes a reference. */
  @HostListener('document:paste', ['$event'])
  protected paste(event: ClipboardEvent): void {
    if (!this.covered() && !isTextField(event.target) && this.clipboard.take(event)) event.preventDefault();
  }

  @HostListener('document:copy', ['$event'])
  protected copy(event: ClipboardEvent): void {
    if (!this.covered() && !isTextField(event.target) && !document.getSelection()?.toString() && this.clipboard.fill(event)) event.preventDefault();
  }

  @HostListener('document:cut', ['$event'])
  protected cut(event: ClipboardEvent): void {
    if (this.covered() || isTextField(event.target) || !this.clipboard.fill(event)) return;
    event.preventDefault();
    this.commands.run('delete');
  }

  @HostListener('document:keydown', ['$event'])
  protected press(event: KeyboardEvent): void {
    if (event.key === 'Escape' && this.aids.comparing() && this.view.panel() === 'none') this.aids.patch({ comparing: false });
    if (this.covered()) return;
    if (endsTyping(event)) return this.endTyping(event);
    if (event.defaultPrevented) return;
    const typing = isTextField(event.target);
    const control = event.ctrlKey || event.metaKey;
    // In a field that holds nothing untaken, undo and redo mean the drawing.
    const settled = typing && (event.target as HTMLElement).hasAttribute('data-settled') && /^[zy]$/i.test(event.key);
    if (typing && !(control && (settled || /^[kseo]$/i.test(event.key)))) return;
    if (this.drawKey(event, control) || this.arrow(event, control) || this.digit(event, control)) {
      event.preventDefault();
      return;
    }
    // The browser's own events bring what is on the clipboard.
    if (control && /^[cxv]$/i.test(event.key)) return;
    const command = this.commands.forKey(event);
    if (!command || (event.repeat && command !== 'undo' && command !== 'redo')) return;
    event.preventDefault();
    if (!this.commands.enabled(command)) return;
    this.commands.run(command);
    if (command === 'view.references') this.looking = { key: event.key, since: event.timeStamp };
  }

  /** What was pressed for a look alone ends with the key; a short press has switched it. */
  @HostListener('document:keyup', ['$event'])
  protected release(event: KeyboardEvent): void {
    const { looking } = this;
    if (event.key !== looking?.key) return;
    this.looking = null;
    if (event.timeStamp - looking.since > LOOK_MS) this.commands.run('view.references');
  }

  /** In a small window: shows a panel over the drawing, or folds it away again. */
  protected unfold(panel: 'bench' | 'side'): void {
    this.view.patch({ unfolded: this.view.unfolded() === panel ? 'none' : panel });
  }

  /** Whether something lies over the drawing that has all keys. */
  private covered(): boolean {
    return this.view.panel() !== 'none' || this.keeping.asking() !== null || this.aids.comparing();
  }

  /** What was typed is taken or put back by the field itself; where it was refused, the field keeps the keys. */
  private endTyping(event: KeyboardEvent): void {
    event.preventDefault();
    this.application.tick();
    if (event.target instanceof HTMLElement && event.target.getAttribute('aria-invalid') !== 'true') focusDrawing();
  }

  private drawKey(event: KeyboardEvent, control: boolean): boolean {
    const { key } = event;
    if (control || (key === 'Enter' && isPressed(event.target))) return false;
    if ((key === 'Backspace' || key === 'Delete') && this.view.points().length > 0 && this.view.tool() === 'pick') {
      this.commands.run('points.delete');
      return true;
    }
    if (key === 'Backspace' && !this.tools.busy()) {
      if (this.commands.enabled('delete')) this.commands.run('delete');
      return true;
    }
    if (key !== 'Backspace' && key !== 'Enter' && key !== 'Escape') return false;
    this.tools.key(key);
    return true;
  }

  /** Arrow keys move the point while a drawing tool is in use, else the selection. */
  private arrow(event: KeyboardEvent, control: boolean): boolean {
    const along: Readonly<Record<string, readonly [number, number]>> = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
    const step = along[event.key];
    if (!step || control || takesArrows(event.target)) return false;
    const plane = this.view.plane();
    const [du, dv] = plane.kind === 'left' ? [-step[0], step[1]] : plane.kind === 'sheet' ? [step[0], -step[1]] : step;
    if (this.stages.draws()) {
      this.tools.stepPointer(du, dv);
      return true;
    }
    return event.shiftKey ? this.commands.nudge(0, 0, step[1]) : this.commands.nudge(step[0], step[1], 0);
  }

  /** Digits choose the bench's tools; while something is being drawn they begin a typed length. */
  private digit(event: KeyboardEvent, control: boolean): boolean {
    const number = /^(?:Digit|Numpad)([1-9])$/.exec(event.code)?.[1];
    const further = event.shiftKey && number !== undefined && !this.tools.busy() ? Number(number) + 8 : null;
    if (control || event.altKey || (further === null && !/^[0-9(.-]$/.test(event.key))) return false;
    if (this.tools.busy()) {
      this.tools.typing.set(event.key);
      // Shown and focused before the next key comes, however fast that is.
      this.application.tick();
      return true;
    }
    const tool = this.stages.current()?.tools[further ?? Number(event.key) - 1];
    if (!tool) return false;
    this.view.setTool(tool.name);
    focusDrawing();
    return true;
  }
}
