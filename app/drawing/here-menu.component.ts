import { ChangeDetectionStrategy, Component, computed, inject, viewChild } from '@angular/core';
import { ContextMenu, ContextMenuModule } from 'primeng/contextmenu';
import type { MenuItem } from 'primeng/api';
import { CommandsService } from '../state/commands.service';

/** What can be done where the drawing was pressed, in groups. */
const GROUPS: readonly (readonly (readonly [string, string])[])[] = [
  [['undo', 'Undo'], ['redo', 'Redo']],
  [['duplicate', 'Duplicate'], ['copy.linked', 'Linked copy'], ['copy', 'Copy'], ['cut', 'Cut'], ['paste', 'Paste'], ['delete', 'Delete'], ['rename', 'Rename']],
  [['order.up', 'Forward'], ['order.down', 'Backward'], ['group', 'Group'], ['ungroup', 'Ungroup'], ['hide', 'Hide'], ['lock', 'Lock'], ['view.alone', 'Show only this, or all again']],
  [['plane.under', 'Draw on this plane'], ['select.all', 'Select everything'], ['view.selection', 'Zoom to the selection'], ['view.fit', 'Whole sheet']],
]; // prettier-ignore

/** The menu at the pointer: opened by a right press, or by a long one with a finger or the pen. */
@Component({
  selector: 'chemin-here-menu',
  imports: [ContextMenuModule],
  template: `<p-contextmenu [model]="items()" appendTo="body" ariaLabel="What can be done here" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HereMenuComponent {
  private readonly commands = inject(CommandsService);
  private readonly menu = viewChild.required(ContextMenu);

  protected readonly items = computed((): MenuItem[] =>
    GROUPS.map((group) => group.filter(([id]) => this.commands.enabled(id)))
      .filter((group) => group.length > 0)
      .flatMap((group, i): MenuItem[] => [
        ...(i > 0 ? [{ separator: true }] : []),
        ...group.map(([id, label]) => ({ label, command: () => this.commands.run(id) })),
      ]),
  );

  show(event: MouseEvent): void {
    this.menu().show(event);
  }
}
