/** The groups under which commands are listed. */
export type CommandGroup = 'Tools' | 'Stages' | 'Planes' | 'View' | 'Drawing' | 'Things' | 'Shapes' | 'Solids' | 'Light' | 'Document';

/** What has to be there for a command, and what to do where it is not. */
export const NEEDS = {
  undo: 'There is nothing to undo.',
  redo: 'There is nothing to redo.',
  selected: 'Select something first.',
  things: 'Select something first.',
  several: 'Select two or more things first.',
  copies: 'Select a linked copy first.',
  showable: 'Select what is to be shown first.',
  points: 'Choose a point of a selected shape first.',
  shapes: 'Select a shape first.',
  group: 'Select a group first.',
  space: 'The sheet has no offset: choose another plane first.',
  perspective: 'Choose a perspective first.',
  brought: 'Nothing was brought into view.',
} as const;

export type Need = keyof typeof NEEDS;

/** A command's words and keys, for the list of keys, the tooltips, the finder and the guide alike. */
export interface CommandWords {
  readonly id: string;
  readonly title: string;
  readonly keys: readonly string[];
  readonly group: CommandGroup;
  readonly needs?: Need;
  /** What else it is called. */
  readonly words?: string;
}

/** The commands of every stage; those of a stage stand in its own folder, and tools bring theirs. */
export const COMMANDS = [
  { id: 'stage.previous', title: 'Previous stage', keys: [','], group: 'Stages' },
  { id: 'stage.next', title: 'Next stage', keys: ['.'], group: 'Stages' },
  { id: 'plane.floor', title: 'Draw on the floor', keys: ['F'], group: 'Planes' },
  { id: 'plane.left', title: 'Draw on the left wall', keys: ['L'], group: 'Planes' },
  { id: 'plane.right', title: 'Draw on the right wall', keys: ['R'], group: 'Planes' },
  { id: 'plane.sheet', title: 'Draw flat on the sheet', keys: ['0'], group: 'Planes' },
  { id: 'plane.under', title: 'Draw on the plane under the pointer', keys: ['U'], group: 'Planes' },
  { id: 'offset.more', title: 'Offset the plane by one cell', keys: [']'], group: 'Planes', needs: 'space' },
  { id: 'offset.less', title: 'Offset the plane back by one cell', keys: ['['], group: 'Planes', needs: 'space' },
  { id: 'view.grid', title: 'Show or hide the grid', keys: ['G'], group: 'View', words: 'guide guides lines' },
  { id: 'view.snap', title: 'Snap on or off', keys: ['K'], group: 'View' },
  { id: 'view.frames', title: 'Frames choose what they touch, or what lies within', keys: [], group: 'View' },
  { id: 'view.see-through', title: 'See-through: outlines without paint', keys: ['E'], group: 'View' },
  {
    id: 'view.references',
    title: 'References over the drawing, or each where it lies',
    keys: ['B'],
    group: 'View',
    words: 'reference picture trace over on top',
  },
  { id: 'view.fit', title: 'Show the whole sheet', keys: ['W'], group: 'View' },
  { id: 'view.full', title: 'Zoom to 100 %', keys: ['N'], group: 'View' },
  { id: 'view.selection', title: 'Zoom to the selection', keys: ['S'], group: 'View', needs: 'things' },
  { id: 'view.final', title: 'Zoom to the final size on this screen', keys: [], group: 'View' },
  { id: 'view.alone', title: 'Show only the selection, or all again', keys: ['O'], group: 'View', needs: 'showable', words: 'isolate solo hide others' },
  { id: 'view.catching', title: 'Snap to…: what the pointer snaps to', keys: [], group: 'View' },
  { id: 'view.in', title: 'Zoom in', keys: ['+'], group: 'View' },
  { id: 'view.out', title: 'Zoom out', keys: ['-'], group: 'View' },
  { id: 'view.grid-page', title: 'Set up the grid', keys: ['Q'], group: 'View', words: 'grid cell sheet lines families export' },
  { id: 'view.rulers', title: 'Show or hide the rulers', keys: [], group: 'View', words: 'guide guides ruler units' },
  { id: 'view.compare', title: 'Compare projections side by side', keys: [], group: 'View', words: 'side by side' },
  { id: 'view.theme', title: 'Light or dark', keys: [], group: 'View' },
  { id: 'undo', title: 'Undo', keys: ['Ctrl+Z'], group: 'Drawing', needs: 'undo' },
  { id: 'steps', title: 'List of steps, to go back in', keys: ['Ctrl+J'], group: 'Drawing' },
  { id: 'redo', title: 'Redo', keys: ['Ctrl+Shift+Z', 'Ctrl+Y'], group: 'Drawing', needs: 'redo' },
  { id: 'find', title: 'Find a command', keys: ['Ctrl+K'], group: 'Drawing' },
  { id: 'keys', title: 'List of keys', keys: ['?'], group: 'Drawing' },
  { id: 'select.all', title: 'Select everything', keys: ['Ctrl+A'], group: 'Things' },
  { id: 'delete', title: 'Delete the selection', keys: ['Delete'], group: 'Things', needs: 'selected', words: 'erase remove clear' },
  { id: 'rename', title: 'Rename the selection', keys: ['F2'], group: 'Things', needs: 'selected' },
  { id: 'hide', title: 'Hide or show the selection', keys: ['Ctrl+Shift+O'], group: 'Things', needs: 'selected' },
  { id: 'lock', title: 'Lock or unlock the selection', keys: ['Ctrl+Shift+L'], group: 'Things', needs: 'selected' },
  { id: 'duplicate', title: 'Duplicate the selection', keys: ['Ctrl+M'], group: 'Things', needs: 'things', words: 'copy repeat clone' },
  {
    id: 'copy.linked',
    title: 'Linked copy of the selection',
    keys: ['Ctrl+Shift+M'],
    group: 'Things',
    needs: 'things',
    words: 'instance symbol clone array repeat',
  },
  { id: 'copy.free', title: 'Make linked copies independent', keys: [], group: 'Things', needs: 'copies' },
  { id: 'copy', title: 'Copy the selection', keys: ['Ctrl+C'], group: 'Things', needs: 'things' },
  { id: 'cut', title: 'Cut the selection out', keys: ['Ctrl+X'], group: 'Things', needs: 'things' },
  { id: 'paste', title: 'Paste: things, SVG, a picture or a colour', keys: ['Ctrl+V'], group: 'Things' },
  { id: 'order.up', title: 'Forward in its plane', keys: ['Ctrl+.'], group: 'Things', needs: 'things', words: 'front raise bring to front' },
  { id: 'order.down', title: 'Backward in its plane', keys: ['Ctrl+,'], group: 'Things', needs: 'things', words: 'back lower send to back' },
  { id: 'turn.left', title: 'Turn the selection a quarter to the left', keys: [], group: 'Things', needs: 'shapes', words: 'rotate anticlockwise 90' },
  { id: 'turn.right', title: 'Turn the selection a quarter to the right', keys: [], group: 'Things', needs: 'shapes', words: 'rotate clockwise 90' },
  { id: 'mirror.across', title: 'Mirror the selection across', keys: [], group: 'Things', needs: 'shapes', words: 'flip reflect horizontal' },
  { id: 'mirror.up', title: 'Mirror the selection upright', keys: [], group: 'Things', needs: 'shapes', words: 'flip reflect vertical' },
  { id: 'to.floor', title: 'Lay the selection on the floor', keys: [], group: 'Things', needs: 'shapes' },
  { id: 'to.left', title: 'Lay the selection on the left wall', keys: [], group: 'Things', needs: 'shapes', words: 'move to wall plane' },
  { id: 'to.right', title: 'Lay the selection on the right wall', keys: [], group: 'Things', needs: 'shapes', words: 'move to wall plane' },
  { id: 'to.sheet', title: 'Lay the selection flat on the sheet', keys: [], group: 'Things', needs: 'shapes' },
  { id: 'group', title: 'Group the selection', keys: ['Ctrl+B'], group: 'Things', needs: 'selected' },
  { id: 'ungroup', title: 'Ungroup the selection', keys: ['Ctrl+Shift+B'], group: 'Things', needs: 'group' },
  { id: 'document.new', title: 'New drawing', keys: [], group: 'Document', words: 'new file sheet' },
  { id: 'document.list', title: 'Drawings in this browser', keys: ['Ctrl+O'], group: 'Document' },
  { id: 'document.demo', title: 'Open the demo: Quay Nine, landing', keys: [], group: 'Document' },
  { id: 'document.demo.quay9', title: 'Open the demo: Quay Nine, QUAY 9', keys: [], group: 'Document' },
  { id: 'document.demo.deck', title: 'Open the demo: Quay Nine, deck plan', keys: [], group: 'Document' },
  { id: 'document.demo.lighthouse', title: 'Open the demo: Quay Nine, lighthouse from the water', keys: [], group: 'Document' },
  { id: 'document.demo.hoarding', title: 'Open the demo: Quay Nine, timetable hoarding', keys: [], group: 'Document' },
  { id: 'document.demo.funnel', title: 'Open the demo: Quay Nine, funnel livery', keys: [], group: 'Document' },
  { id: 'document.open-file', title: 'Open a project file', keys: [], group: 'Document' },
  { id: 'document.save-file', title: 'Save a project file', keys: ['Ctrl+S'], group: 'Document' },
] as const satisfies readonly CommandWords[];

export type CommonId = (typeof COMMANDS)[number]['id'];

/** Keys that are no commands: they are held, or belong to the step that is going on. */
export const HELD_KEYS: readonly { readonly keys: string; readonly title: string }[] = [
  { keys: '1 to 9', title: 'The first tools on the bench' },
  { keys: 'Shift + 1 to 9', title: 'The further tools on the bench' },
  { keys: 'Hold Shift', title: 'Lock to the nearest axis; with the pick tool, add to the selection' },
  { keys: 'Hold Alt', title: 'No snap' },
  { keys: 'Hold Ctrl, while drawing', title: 'Move what is being drawn' },
  { keys: 'Press and drag, with Outline', title: 'Set a smooth point' },
  { keys: 'Double-click a boundary', title: 'Add a point there' },
  { keys: 'Hold Space', title: 'Move the sheet' },
  { keys: 'Hold B', title: 'See references over the drawing as long as it is held' },
  { keys: 'Wheel', title: 'Zoom at the pointer' },
  { keys: 'Shift + wheel', title: 'Move the sheet sideways' },
  { keys: 'Middle press and drag', title: 'Move the sheet' },
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
