import { pickTool } from '../../tools/pick.tool';
import { commandsOf, toolsOf, using, type StageDescriptor } from '../../state/stage';
import { SOLID_KINDS, type SolidKind } from '@core';
import { BuildSettingsStore } from './build.settings';
import { solidTool } from './solid.tool';
import { setDownTool } from './set-down.tool';
import { SolidHandlesService } from './solid-handles.service';
import { depthTool } from './depth.tool';
import { SpaceService } from '../../state/space.service';
import { ShapingService } from '../../state/shaping.service';
import { letteringTool } from './lettering.tool';
import { LetteringStore } from './lettering.store';
import { openingTool } from './opening.tool';
import { BUILD_COMMANDS, BUILD_SETTINGS, BUILD_TOOLS } from './words';

const solid = (kind: SolidKind): ReturnType<typeof using> => using({ tool: solidTool(kind), settings: BuildSettingsStore, draws: true });

const tools = toolsOf(BUILD_TOOLS, {
  pick: using({ tool: pickTool }),
  depth: using({ tool: depthTool }),
  'set-down': using({ tool: setDownTool }),
  opening: using({ tool: openingTool, settings: BuildSettingsStore, draws: true }),
  lettering: using({ tool: letteringTool, settings: BuildSettingsStore, draws: true }),
  ...(Object.fromEntries(SOLID_KINDS.map((kind) => [kind, solid(kind)])) as Record<SolidKind, ReturnType<typeof using>>),
});

const commands = commandsOf(BUILD_COMMANDS, {
  'solids.join': (get) => get(ShapingService).combine('union'),
  'solids.less': (get) => get(ShapingService).combine('subtract'),
  'solids.common': (get) => get(ShapingService).combine('intersect'),
  'space.drop': (get) => get(SpaceService).drop(),
  'space.stand': (get) => get(SpaceService).stand(),
  'space.turn-a': (get) => get(SpaceService).turn('a'),
  'space.turn-b': (get) => get(SpaceService).turn('b'),
  'space.turn-h': (get) => get(SpaceService).turn('h'),
  'space.mirror-a': (get) => get(SpaceService).mirror('a'),
  'space.mirror-b': (get) => get(SpaceService).mirror('b'),
  'space.mirror-h': (get) => get(SpaceService).mirror('h'),
  'space.other-wall': (get) => get(SpaceService).toOtherWall(),
});

/** Build: depth, and solids drawn at once. */
export const buildStage: StageDescriptor = {
  name: 'build',
  tools,
  bench: () => import('./build-bench.component').then((m) => m.BuildBenchComponent),
  commands,
  settings: BUILD_SETTINGS,
  handles: SolidHandlesService,
  // Text that was being typed when the page went away is taken up.
  begins: (get) => void get(LetteringStore),
  guide: 'building',
};
