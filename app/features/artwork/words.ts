import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const ARTWORK_TOOLS = [
  { name: 'pick', title: 'Pick' },
  { name: 'place', title: 'Place artwork' },
] as const satisfies readonly ToolWords[];

export const ARTWORK_COMMANDS = [
  {
    id: 'artwork.add',
    title: 'Add a picture or SVG as artwork',
    keys: [],
    group: 'Document',
    words: 'import svg png jpeg webp photo image bitmap vector logo',
  },
  { id: 'artwork.start', title: 'Start a flat artwork sheet', keys: [], group: 'Document', words: 'new blank label sign poster' },
  { id: 'artwork.flat', title: 'Edit flat: the artwork of the selection', keys: ['Ctrl+Shift+F'], group: 'Things', words: 'open source design unproject' },
  { id: 'artwork.there', title: 'Work on the drawing again', keys: ['Ctrl+Shift+D'], group: 'View', words: 'see it there in place back' },
  { id: 'artwork.lift', title: 'Lift the selection into a flat artwork', keys: [], group: 'Things', needs: 'things', words: 'convert symbol unproject' },
  {
    id: 'artwork.unfold',
    title: 'Unfold the selected solid into a net',
    keys: [],
    group: 'Solids',
    needs: 'things',
    words: 'box cardboard die line template package flat pattern',
  },
  { id: 'artwork.put-back', title: 'Put artwork back as shapes', keys: [], group: 'Things', needs: 'things', words: 'expand release convert' },
] as const satisfies readonly CommandWords[];

/** What is set in the stage, by what different trades call it. */
export const ARTWORK_SETTINGS: readonly Setting[] = [
  setting('artwork', 'place', 'Place artwork', 'artwork place bitmap image photo logo label svg', ['Add a picture or SVG']),
];
