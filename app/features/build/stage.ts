import { pickTool } from '../../tools/pick.tool';
import { toolsOf, using, type StageDescriptor } from '../../state/stage';
import { DepthHandleService } from './depth-handle.service';
import { depthTool } from './depth.tool';
import { BUILD_SETTINGS, BUILD_TOOLS } from './words';

const tools = toolsOf(BUILD_TOOLS, {
  pick: using({ tool: pickTool }),
  depth: using({ tool: depthTool }),
});

/** Build: depth. */
export const buildStage: StageDescriptor = {
  name: 'build',
  tools,
  bench: () => import('./build-bench.component').then((m) => m.BuildBenchComponent),
  commands: [],
  settings: BUILD_SETTINGS,
  handles: DepthHandleService,
  guide: 'first-drawing',
};
