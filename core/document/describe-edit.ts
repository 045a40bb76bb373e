import type { Edit } from './edits';

/** What an edit is called in the list of steps and in the words beside undo and redo. */
export function describeEdit(edit: Edit): string {
  const names: Readonly<Record<Edit['kind'], string>> = {
    add: 'add',
    replace: 'replace',
    change: 'change',
    arrange: 'change order',
    paints: 'paint',
    all: 'change several things',
    swatches: 'change palette',
    dimension: 'change dimension',
    delete: 'delete',
    move: 'move',
    outline: 'change outline',
    lay: 'change shapes',
    depth: 'set depth',
    plane: 'change plane',
    paint: 'paint',
    name: 'rename',
    hide: 'hide or show',
    lock: 'lock or unlock',
    group: 'group',
    ungroup: 'ungroup',
    place: 'place artwork',
    light: 'set light',
    projection: 'set projection',
    grid: 'set grid',
    recount: 'set cell, sizes kept',
    setup: 'use set-up',
    sheet: 'set sheet',
    'add-reference': 'add reference',
    reference: 'change reference',
    'delete-reference': 'delete reference',
    strokes: 'trace edges',
    photos: 'change photographs',
    guides: 'change guides',
    trial: 'change the trial box',
    title: 'rename drawing',
    artworks: 'change artwork',
    net: 'lay out net',
    'delete-artworks': 'remove artwork',
    flat: 'change artwork',
  };
  if (edit.kind === 'flat') return `${describeEdit(edit.edit)}, on its artwork`;
  if (edit.kind === 'add') return edit.nodes[0] ? `add ${edit.nodes[0].name}` : 'add artwork';
  return names[edit.kind];
}
