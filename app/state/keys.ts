/** The groups under which commands are listed. */
export type CommandGroup = 'Stages' | 'Planes' | 'View' | 'Drawing' | 'Things' | 'Document';

/** Every command's words and keys: the one table that the list of keys, the tooltips, the finder and the tests read. */
export const COMMANDS = {
  'stage.previous': { title: 'Previous stage', keys: [','], group: 'Stages' },
  'stage.next': { title: 'Next stage', keys: ['.'], group: 'Stages' },
  'stage.projection': { title: 'Go to Projection', keys: [], group: 'Stages' },
  'stage.draw': { title: 'Go to Draw', keys: [], group: 'Stages' },
  'stage.build': { title: 'Go to Build', keys: [], group: 'Stages' },
  'stage.light': { title: 'Go to Light', keys: [], group: 'Stages' },
  'stage.artwork': { title: 'Go to Artwork', keys: [], group: 'Stages' },
  'stage.output': { title: 'Go to Output', keys: [], group: 'Stages' },
  'plane.floor': { title: 'Draw on the floor', keys: ['F'], group: 'Planes' },
  'plane.left': { title: 'Draw on the left wall', keys: ['L'], group: 'Planes' },
  'plane.right': { title: 'Draw on the right wall', keys: ['R'], group: 'Planes' },
  'plane.sheet': { title: 'Draw flat on the sheet', keys: ['0'], group: 'Planes' },
  'plane.under': { title: 'Draw on the plane under the pointer', keys: ['U'], group: 'Planes' },
  'offset.more': { title: 'Offset the plane by one cell', keys: [']'], group: 'Planes' },
  'offset.less': { title: 'Offset the plane back by one cell', keys: ['['], group: 'Planes' },
  'view.grid': { title: 'Show or hide the grid', keys: ['G'], group: 'View' },
  'view.snap': { title: 'Snapping on or off', keys: ['K'], group: 'View' },
  'view.see-through': { title: 'See-through: outlines without paint', keys: ['E'], group: 'View' },
  'view.fit': { title: 'Show the whole sheet', keys: ['Ctrl+1'], group: 'View' },
  'view.full': { title: 'Zoom to 100 %', keys: ['Ctrl+2'], group: 'View' },
  'view.in': { title: 'Zoom in', keys: ['Ctrl++'], group: 'View' },
  'view.out': { title: 'Zoom out', keys: ['Ctrl+-'], group: 'View' },
  'view.rulers': { title: 'Show or hide the rulers', keys: [], group: 'View' },
  'view.cone': { title: 'Show or hide the cone of vision', keys: [], group: 'View' },
  'view.figure': { title: 'Show or hide the standing figure', keys: [], group: 'View' },
  'view.back': { title: 'Back from what was brought into view', keys: [], group: 'View' },
  'view.compare': { title: 'Compare projections side by side', keys: [], group: 'View' },
  'view.theme': { title: 'Light or dark', keys: [], group: 'View' },
  undo: { title: 'Undo', keys: ['Ctrl+Z'], group: 'Drawing' },
  redo: { title: 'Redo', keys: ['Ctrl+Shift+Z', 'Ctrl+Y'], group: 'Drawing' },
  find: { title: 'Find a command', keys: ['Ctrl+K'], group: 'Drawing' },
  keys: { title: 'List of keys', keys: ['?'], group: 'Drawing' },
  'select.all': { title: 'Select everything', keys: ['Ctrl+A'], group: 'Things' },
  delete: { title: 'Delete the selection', keys: ['Delete'], group: 'Things' },
  rename: { title: 'Rename the selection', keys: ['F2'], group: 'Things' },
  hide: { title: 'Hide or show the selection', keys: [], group: 'Things' },
  lock: { title: 'Lock or unlock the selection', keys: [], group: 'Things' },
  duplicate: { title: 'Duplicate the selection', keys: ['Ctrl+D'], group: 'Things' },
  'turn.left': { title: 'Turn the selection a quarter to the left', keys: [], group: 'Things' },
  'turn.right': { title: 'Turn the selection a quarter to the right', keys: [], group: 'Things' },
  'mirror.across': { title: 'Mirror the selection across', keys: [], group: 'Things' },
  'mirror.up': { title: 'Mirror the selection upright', keys: [], group: 'Things' },
  'to.floor': { title: 'Lay the selection on the floor', keys: [], group: 'Things' },
  'to.left': { title: 'Lay the selection on the left wall', keys: [], group: 'Things' },
  'to.right': { title: 'Lay the selection on the right wall', keys: [], group: 'Things' },
  'to.sheet': { title: 'Lay the selection flat on the sheet', keys: [], group: 'Things' },
  group: { title: 'Group the selection', keys: ['Ctrl+G'], group: 'Things' },
  ungroup: { title: 'Ungroup the selection', keys: ['Ctrl+Shift+G'], group: 'Things' },
  'document.new': { title: 'New drawing', keys: [], group: 'Document' },
  'document.list': { title: 'Drawings in this browser', keys: ['Ctrl+O'], group: 'Document' },
  'document.demo': { title: 'Open the demo: Quay Nine, landing', keys: [], group: 'Document' },
  'document.open-file': { title: 'Open a project file', keys: [], group: 'Document' },
  'document.save-file': { title: 'Save a project file', keys: ['Ctrl+S'], group: 'Document' },
  'sheet.centre': { title: 'Centre the drawing on the sheet', keys: [], group: 'Drawing' },
  'projection.calmer': { title: 'Calmer perspective', keys: [], group: 'Drawing' },
  'projection.stronger': { title: 'Stronger perspective', keys: [], group: 'Drawing' },
  'output.png': { title: 'Export the sheet as PNG', keys: [], group: 'Document' },
  'output.pdf': { title: 'Export the sheet as PDF', keys: [], group: 'Document' },
  'reference.add': { title: 'Add a reference picture', keys: [], group: 'Document' },
  'output.svg': { title: 'Export the sheet as SVG', keys: ['Ctrl+E'], group: 'Document' },
  'artwork.add': { title: 'Add an SVG as artwork', keys: [], group: 'Document' },
} as const satisfies Readonly<Record<string, { readonly title: string; readonly keys: readonly string[]; readonly group: CommandGroup }>>;

export type CommandId = keyof typeof COMMANDS;

/** Keys that are no commands: they are held, or belong to the step that is going on. */
export const HELD_KEYS: readonly { readonly keys: string; readonly title: string }[] = [
  { keys: '1 to 9', title: 'The tools on the bench' },
  { keys: 'Hold Shift', title: 'Lock to the nearest axis; with the pick tool, add to the selection' },
  { keys: 'Hold Alt', title: 'No snapping' },
  { keys: 'Hold Space', title: 'Move the sheet' },
  { keys: 'Wheel', title: 'Zoom at the pointer' },
  { keys: 'Digits, while drawing', title: 'Type a length; Tab goes to the next' },
  { keys: 'Backspace', title: 'Take the last point back' },
  { keys: 'Enter', title: 'Close the outline; with the arrow keys, set a point' },
  { keys: 'Escape', title: 'End the step; an open line is kept' },
  { keys: 'Arrow keys', title: 'Move the selection by a cell along its plane, or the point while drawing' },
  { keys: 'Shift + arrow up, down', title: 'Move the selection along the normal of its plane' },
];

/** The name of a key event as the table writes it, such as `Ctrl+Shift+Z`. */
export function keyName(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey'>): string {
  const control = event.ctrlKey || event.metaKey;
  const key = event.key.length === 1 ? event.key.toUpperCase() : event.key;
  return `${control ? 'Ctrl+' : ''}${control && event.shiftKey ? 'Shift+' : ''}${key}`;
}

/** The command that a key stands for, or null. */
export function commandForKey(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey'>): CommandId | null {
  const name = keyName(event);
  const found = Object.entries(COMMANDS).find(([, command]) => (command.keys as readonly string[]).includes(name));
  return found ? (found[0] as CommandId) : null;
}
