import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const PROJECTION_TOOLS = [
  { name: 'pick', title: 'Pick' },
  { name: 'projection', title: 'Projection' },
  { name: 'grid', title: 'Grid' },
  { name: 'sheet', title: 'Sheet' },
  { name: 'trace', title: 'From a picture' },
  { name: 'facts', title: 'Facts' },
] as const satisfies readonly ToolWords[];

export const PROJECTION_COMMANDS = [
  { id: 'view.cone', title: 'Show or hide the cone of vision', keys: [], group: 'View', needs: 'perspective' },
  { id: 'view.figure', title: 'Show or hide the standing figure', keys: [], group: 'View' },
  { id: 'view.back', title: 'Back from what was brought into view', keys: [], group: 'View', needs: 'brought' },
  { id: 'sheet.centre', title: 'Centre the drawing on the sheet', keys: [], group: 'Drawing' },
  { id: 'use.isometric', title: 'Use isometric', keys: [], group: 'Drawing' },
  { id: 'use.pixel', title: 'Use pixel isometric 2:1', keys: [], group: 'Drawing' },
  { id: 'use.dimetric', title: 'Use dimetric', keys: [], group: 'Drawing' },
  { id: 'use.trimetric', title: 'Use trimetric', keys: [], group: 'Drawing' },
  { id: 'use.cavalier', title: 'Use cavalier', keys: [], group: 'Drawing' },
  { id: 'use.cabinet', title: 'Use cabinet', keys: [], group: 'Drawing' },
  { id: 'use.planometric', title: 'Use planometric', keys: [], group: 'Drawing' },
  { id: 'use.one-point', title: 'Use one-point perspective', keys: [], group: 'Drawing' },
  { id: 'use.two-point', title: 'Use two-point perspective', keys: [], group: 'Drawing' },
  { id: 'use.three-point', title: 'Use three-point perspective', keys: [], group: 'Drawing' },
  { id: 'projection.calmer', title: 'Calmer perspective', keys: [], group: 'Drawing', needs: 'perspective', words: 'focal length dolly flatter' },
  { id: 'projection.stronger', title: 'Stronger perspective', keys: [], group: 'Drawing', needs: 'perspective' },
  { id: 'trial.set', title: 'Set up a trial box', keys: [], group: 'Drawing', words: 'trial box test cube view judge try preview' },
  { id: 'trial.draw', title: 'Draw the trial box', keys: [], group: 'Drawing' },
  { id: 'trial.away', title: 'Put the trial box away', keys: [], group: 'Drawing' },
  { id: 'reference.add', title: 'Add a reference picture', keys: [], group: 'Document', words: 'image bitmap photo template trace picture import' },
] as const satisfies readonly CommandWords[];

const family = (name: string, words: string): Setting => setting('projection', 'projection', `Projection: ${name}`, words, [name]);

/** What is set in the stage, by what different trades call it. */
export const PROJECTION_SETTINGS: readonly Setting[] = [
  family('isometric', 'isometry 30 degrees axonometric iso'),
  family('pixel isometric', 'isometric 2:1 game'),
  family('dimetric', 'axonometric'),
  family('trimetric', 'axonometric'),
  family('cavalier', 'oblique'),
  family('cabinet', 'oblique'),
  family('planometric', 'plan oblique military axonometric bird’s eye'),
  family('one-point', 'perspective central vanishing point room'),
  family('two-point', 'perspective angular vanishing points corner'),
  family('three-point', 'perspective bird’s eye worm’s eye vanishing points'),
  setting('projection', 'projection', 'Vanishing points', 'vanishing point vp perspective', ['x of a', 'x of b', 'two-point'], 'perspective'),
  setting('projection', 'projection', 'Horizon', 'horizon line eye level', ['y at the middle', 'two-point'], 'perspective'),
  setting('projection', 'projection', 'Eye height', 'camera height viewer viewpoint station point', ['Eye height', 'two-point'], 'perspective'),
  setting('projection', 'projection', 'Angle of view', 'field of view fov focal length lens zoom', ['Angle of view', 'two-point'], 'perspective'),
  setting('projection', 'projection', 'Tilt', 'tilt pitch look down look up', ['Tilt down', 'three-point'], 'perspective'),
  setting('projection', 'projection', 'Turn', 'yaw rotate the view orbit', ['Turn', 'two-point'], 'perspective'),
  setting('projection', 'projection', 'Roll', 'bank dutch angle', ['Roll'], 'perspective'),
  setting('projection', 'projection', 'Trial box', 'trial box test try view placeholder', ['Set up a trial box', 'Extent along a']),
  setting('projection', 'grid', 'Grid: cell', 'grid spacing cell size guide guides line distance module', ['Cell', 'Edge of a cell']),
  setting('projection', 'grid', 'Grid: line width', 'grid line weight thickness', ['Line width, a']),
  setting('projection', 'grid', 'Grid: opacity', 'grid strength transparency fade', ['Opacity, a']),
  setting('projection', 'sheet', 'Sheet size', 'sheet size canvas page paper format A4 A3 letter width height', ['Common sizes', 'Width']),
  setting('projection', 'sheet', 'Units', 'unit units mm cm inch px points', ['Lengths are shown in']),
  setting('projection', 'sheet', 'Resolution', 'dpi ppi px to the inch', ['Resolution']),
  setting('projection', 'sheet', 'Drawing scale', 'drawing scale 1:50 ratio architect', ['1 to']),
  setting('projection', 'sheet', 'Background', 'sheet colour background paper colour', ['Background']),
  setting('projection', 'trace', 'Projection from a picture', 'trace match photo camera solve picture image', ['Add a picture']),
  setting('projection', 'facts', 'Facts and recipes', 'facts matrix transform skew shear recipe foreshortening', ['Facts']),
];
