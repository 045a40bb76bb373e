import { pickTool } from '../../tools/pick.tool';
import { commandsOf, toolsOf, using, type StageDescriptor } from '../../state/stage';
import { lampTool } from './lamp.tool';
import { LightHandlesService } from './light-handles.service';
import { LightService } from './light.service';
import { shadowEndTool } from './shadow-end.tool';
import { LIGHT_COMMANDS, LIGHT_SETTINGS, LIGHT_TOOLS } from './words';

const tools = toolsOf(LIGHT_TOOLS, {
  pick: using({ tool: pickTool }),
  'shadow-end': using({ tool: shadowEndTool }),
  lamp: using({ tool: lampTool }),
});

const commands = commandsOf(LIGHT_COMMANDS, {
  'light.shadows': (get) => {
    const lights = get(LightService);
    lights.castShadows(!lights.shadows().on);
  },
  'light.unshadowed': (get) => get(LightService).setFlag('casts', false),
});

/** Light: where it comes from, the shadows in it, and the tones that it makes. */
export const lightStage: StageDescriptor = {
  name: 'light',
  tools,
  bench: () => import('./light-bench.component').then((m) => m.LightBenchComponent),
  commands,
  settings: LIGHT_SETTINGS,
  handles: LightHandlesService,
  guide: 'light',
};
