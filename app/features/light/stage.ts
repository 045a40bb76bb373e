import { pickTool } from '../../tools/pick.tool';
import { toolsOf, using, type StageDescriptor } from '../../state/stage';
import { LIGHT_SETTINGS, LIGHT_TOOLS } from './words';

const tools = toolsOf(LIGHT_TOOLS, {
  pick: using({ tool: pickTool }),
});

/** Light: the sun and the tones of planes. */
export const lightStage: StageDescriptor = {
  name: 'light',
  tools,
  bench: () => import('./light-bench.component').then((m) => m.LightBenchComponent),
  commands: [],
  settings: LIGHT_SETTINGS,
  guide: 'first-drawing',
};
