import { pickTool } from '../../tools/pick.tool';
import { commandsOf, toolsOf, using, type StageDescriptor } from '../../state/stage';
import { AidsStore } from '../../state/aids.store';
import { ReferencesService } from '../../state/references.service';
import { SteeringService } from '../../state/steering.service';
import { TrialService } from '../../state/trial.service';
import { ViewStore } from '../../state/view.store';
import { ProjectionHandlesService } from './projection-handles.service';
import { TraceToolSettings } from './trace.settings';
import { traceTool } from './trace.tool';
import { PROJECTION_COMMANDS, PROJECTION_SETTINGS, PROJECTION_TOOLS } from './words';

const tools = toolsOf(PROJECTION_TOOLS, {
  pick: using({ tool: pickTool }),
  projection: using({ tool: pickTool }),
  grid: using({ tool: pickTool }),
  sheet: using({ tool: pickTool }),
  trace: using({ tool: traceTool, settings: TraceToolSettings }),
  facts: using({ tool: pickTool }),
});

const commands = commandsOf(PROJECTION_COMMANDS, {
  'view.cone': (get) => get(AidsStore).patch({ cone: !get(AidsStore).cone() }),
  'view.figure': (get) => get(AidsStore).patch({ figure: !get(AidsStore).figure() }),
  'view.back': (get) => get(ViewStore).lookBack(),
  'sheet.centre': (get) => get(SteeringService).centre(),
  'use.isometric': (get) => get(SteeringService).choose('isometric'),
  'use.pixel': (get) => get(SteeringService).choose('pixel'),
  'use.dimetric': (get) => get(SteeringService).choose('dimetric'),
  'use.trimetric': (get) => get(SteeringService).choose('trimetric'),
  'use.cavalier': (get) => get(SteeringService).choose('cavalier'),
  'use.cabinet': (get) => get(SteeringService).choose('cabinet'),
  'use.planometric': (get) => get(SteeringService).choose('planometric'),
  'use.one-point': (get) => get(SteeringService).choose('one-point'),
  'use.two-point': (get) => get(SteeringService).choose('two-point'),
  'use.three-point': (get) => get(SteeringService).choose('three-point'),
  'projection.calmer': (get) => get(SteeringService).calmer(1.25),
  'projection.stronger': (get) => get(SteeringService).calmer(0.8),
  'trial.set': (get) => get(TrialService).set(),
  'trial.draw': (get) => get(TrialService).draw(),
  'trial.away': (get) => get(TrialService).away(),
  'reference.add': (get) => get(ReferencesService).choose(),
});

/** Projection: families, cameras, grids, sheets and references. */
export const projectionStage: StageDescriptor = {
  name: 'projection',
  tools,
  bench: () => import('./projection-bench.component').then((m) => m.ProjectionBenchComponent),
  commands,
  settings: PROJECTION_SETTINGS,
  handles: ProjectionHandlesService,
  guide: 'projections',
};
