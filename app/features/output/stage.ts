import { pickTool } from '../../tools/pick.tool';
import { commandsOf, toolsOf, using, type StageDescriptor } from '../../state/stage';
import { BenchSettings } from '../../state/bench-settings';
import { HandOverService } from '../../state/hand-over.service';
import { OUTPUT_COMMANDS, OUTPUT_SETTINGS, OUTPUT_TOOLS } from './words';

const tools = toolsOf(OUTPUT_TOOLS, {
  pick: using({ tool: pickTool }),
});

const commands = commandsOf(OUTPUT_COMMANDS, {
  'output.png': (get) => get(HandOverService).png(),
  'output.pdf': (get) => get(HandOverService).pdf(),
  'output.svg': (get) => get(HandOverService).svg(),
  'output.practise': (get) => get(HandOverService).practise(),
  'output.practise-lattice': (get) => get(HandOverService).practiseLattice(get(BenchSettings).lattice()),
  'output.grid-svg': (get) => get(HandOverService).grid('svg'),
  'output.grid-png': (get) => get(HandOverService).grid('png'),
});

/** Output: what is handed over. */
export const outputStage: StageDescriptor = {
  name: 'output',
  tools,
  bench: () => import('./output-bench.component').then((m) => m.OutputBenchComponent),
  commands,
  settings: OUTPUT_SETTINGS,
  guide: 'first-drawing',
};
