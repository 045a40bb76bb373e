import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const OUTPUT_TOOLS = [{ name: 'pick', title: 'Pick' }] as const satisfies readonly ToolWords[];

export const OUTPUT_COMMANDS = [
  { id: 'output.png', title: 'Export the sheet as PNG', keys: [], group: 'Document', words: 'bitmap image transparent raster' },
  { id: 'output.pdf', title: 'Export the sheet as PDF', keys: [], group: 'Document', words: 'print' },
  { id: 'output.svg', title: 'Export the sheet as SVG', keys: ['Ctrl+Enter'], group: 'Document', words: 'vector' },
  { id: 'output.practise', title: 'Show the sheet on paper in true size', keys: [], group: 'Document', words: 'practice printer print preview size paper' },
  {
    id: 'output.practise-lattice',
    title: 'Show the calibration lattice on paper in true size',
    keys: [],
    group: 'Document',
    words: 'practice printer print preview lattice',
  },
  { id: 'output.grid-svg', title: 'Export the grid alone as SVG', keys: [], group: 'Document' },
  { id: 'output.grid-png', title: 'Export the grid alone as PNG, transparent', keys: [], group: 'Document' },
] as const satisfies readonly CommandWords[];

/** What is set in the stage, by what different trades call it. */
export const OUTPUT_SETTINGS: readonly Setting[] = [
  setting('output', 'pick', 'Transparent background', 'transparent alpha background png', ['Background']),
  setting('output', 'pick', 'Export the grid', 'export grid only what is exported', ['On the sheet of']),
  setting('output', 'pick', 'Size of the PNG', 'png bitmap image export size px', ['Width']),
];
