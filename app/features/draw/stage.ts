import { pickTool } from '../../tools/pick.tool';
import { commandsOf, toolsOf, using, type StageDescriptor } from '../../state/stage';
import { ArrangingService } from '../../state/arranging.service';
import { PaintingService } from '../../state/painting.service';
import { ShapingService } from '../../state/shaping.service';
import { DrawSettingsStore } from './draw.settings';
import { arcTool, circleTool, ellipseTool, lineTool, polygonTool, spiralTool, starTool } from './form.tool';
import { guideTool } from './guide.tool';
import { GuidesService } from '../../state/guides.service';
import { freehandTool } from './freehand.tool';
import { cutTool, extendTool, regionTool } from './line-tools';
import { curveTool, outlineTool, resumeOutline } from './outline.tool';
import { PointHandlesService } from './point-handles.service';
import { rectangleTool } from './rectangle.tool';
import { againTool, colourTool, dimensionTool, measureTool, stanceTool } from './space-tools';
import { DRAW_COMMANDS, DRAW_SETTINGS, DRAW_TOOLS } from './words';

const settings = DrawSettingsStore;

const tools = toolsOf(DRAW_TOOLS, {
  pick: using({ tool: pickTool }),
  outline: using({ tool: outlineTool, settings, draws: true, draft: { of: ({ plane, points }) => ({ plane, points }), resume: resumeOutline } }),
  rectangle: using({ tool: rectangleTool, settings, draws: true }),
  line: using({ tool: lineTool, settings, draws: true }),
  circle: using({ tool: circleTool, settings, draws: true }),
  ellipse: using({ tool: ellipseTool, settings, draws: true }),
  polygon: using({ tool: polygonTool, settings, draws: true }),
  star: using({ tool: starTool, settings, draws: true }),
  spiral: using({ tool: spiralTool, settings, draws: true }),
  guide: using({ tool: guideTool, settings, draws: true }),
  arc: using({ tool: arcTool, settings, draws: true }),
  curve: using({ tool: curveTool, settings, draws: true }),
  freehand: using({ tool: freehandTool, settings, draws: true }),
  again: using({ tool: againTool, settings, draws: true }),
  region: using({ tool: regionTool, settings, draws: true }),
  cut: using({ tool: cutTool, settings }),
  extend: using({ tool: extendTool, settings }),
  measure: using({ tool: measureTool, settings, draws: true }),
  dimension: using({ tool: dimensionTool, settings, draws: true }),
  colour: using({ tool: colourTool, settings }),
  stance: using({ tool: stanceTool, settings }),
});

const commands = commandsOf(DRAW_COMMANDS, {
  union: (get) => get(ShapingService).combine('union'),
  subtract: (get) => get(ShapingService).combine('subtract'),
  intersect: (get) => get(ShapingService).combine('intersect'),
  exclude: (get) => get(ShapingService).combine('exclude'),
  'points.smooth': (get) => get(ShapingService).smooth(),
  'points.sharp': (get) => get(ShapingService).sharpen(),
  'points.delete': (get) => get(ShapingService).deletePoints(),
  'line.join': (get) => get(ShapingService).join(),
  'line.split': (get) => get(ShapingService).split(),
  'line.close': (get) => get(ShapingService).close(),
  'line.open': (get) => get(ShapingService).open(),
  'align.low-u': (get) => get(ArrangingService).align('u', 'low'),
  'align.middle-u': (get) => get(ArrangingService).align('u', 'middle'),
  'align.high-u': (get) => get(ArrangingService).align('u', 'high'),
  'align.low-v': (get) => get(ArrangingService).align('v', 'low'),
  'align.middle-v': (get) => get(ArrangingService).align('v', 'middle'),
  'align.high-v': (get) => get(ArrangingService).align('v', 'high'),
  'distribute.u': (get) => get(ArrangingService).distribute('u'),
  'distribute.v': (get) => get(ArrangingService).distribute('v'),
  'same.length': (get) => get(ArrangingService).sameLength('u'),
  'same.height': (get) => get(ArrangingService).sameLength('v'),
  'guides.show': (get) => get(GuidesService).toggleAll('hidden'),
  'guides.lock': (get) => get(GuidesService).toggleAll('locked'),
  'guides.clear': (get) => get(GuidesService).clear(),
  'paint.next': (get) => get(PaintingService).nextLikeThis(),
});

/** Draw: shapes, lines and paint on planes. */
export const drawStage: StageDescriptor = {
  name: 'draw',
  tools,
  bench: () => import('./draw-bench.component').then((m) => m.DrawBenchComponent),
  commands,
  settings: DRAW_SETTINGS,
  handles: PointHandlesService,
  guide: 'drawing',
};
