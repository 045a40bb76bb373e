import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const DRAW_TOOLS = [
  { name: 'pick', title: 'Pick', find: 'Pick and move things' },
  { name: 'outline', title: 'Outline', find: 'Draw an outline of corners and smooth points' },
  { name: 'rectangle', title: 'Rectangle', find: 'Draw a rectangle' },
  { name: 'line', title: 'Line', find: 'Draw a straight line' },
  { name: 'circle', title: 'Circle', find: 'Draw a circle' },
  { name: 'ellipse', title: 'Ellipse', find: 'Draw an ellipse in a box' },
  { name: 'polygon', title: 'Polygon', find: 'Draw a regular polygon' },
  { name: 'arc', title: 'Arc', find: 'Draw an arc' },
  { name: 'curve', title: 'Curve', find: 'Draw a smooth curve through points' },
  { name: 'freehand', title: 'Freehand', find: 'Draw freehand, with the pen' },
  { name: 'again', title: 'Repeat last', find: 'Draw the last shape again' },
  { name: 'region', title: 'Region', find: 'Turn a region of loose lines into a shape', words: 'bucket fill region face' },
  { name: 'cut', title: 'Cut away', find: 'Cut away, trim a line between crossings', words: 'erase eraser trim scissors delete part' },
  { name: 'extend', title: 'Extend', find: 'Extend a line to the next crossing' },
  { name: 'measure', title: 'Measure', find: 'Measure between two places', words: 'ruler distance' },
  { name: 'dimension', title: 'Dimension', find: 'Draw a dimension line' },
  { name: 'colour', title: 'Colour', find: 'Pick a colour from the drawing or a reference', words: 'eyedropper pipette pick colour' },
  { name: 'stance', title: 'Free plane', find: 'Free plane through three points, or an edge and an angle', words: 'slope roof plane angle' },
] as const satisfies readonly ToolWords[];

export const DRAW_COMMANDS = [
  { id: 'union', title: 'Join shapes into one', keys: [], group: 'Shapes', needs: 'several', words: 'unite merge weld add combine boolean' },
  {
    id: 'subtract',
    title: 'Take away the upper shapes from the lowest',
    keys: [],
    group: 'Shapes',
    needs: 'several',
    words: 'minus cut out punch boolean difference',
  },
  { id: 'intersect', title: 'Keep the overlap of shapes', keys: [], group: 'Shapes', needs: 'several', words: 'boolean common' },
  { id: 'exclude', title: 'Drop the overlap of shapes', keys: [], group: 'Shapes', needs: 'several', words: 'xor boolean' },
  { id: 'points.smooth', title: 'Turn points smooth', keys: [], group: 'Shapes', needs: 'shapes' },
  { id: 'points.sharp', title: 'Turn points sharp', keys: [], group: 'Shapes', needs: 'shapes' },
  { id: 'points.delete', title: 'Delete the chosen points', keys: [], group: 'Shapes', needs: 'points' },
  { id: 'line.join', title: 'Join lines at their ends', keys: [], group: 'Shapes', needs: 'shapes' },
  { id: 'line.split', title: 'Split a line at the chosen point', keys: [], group: 'Shapes', needs: 'points' },
  { id: 'line.close', title: 'Close lines', keys: [], group: 'Shapes', needs: 'shapes' },
  { id: 'line.open', title: 'Open outlines', keys: [], group: 'Shapes', needs: 'shapes' },
  { id: 'align.low-u', title: 'Align left', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'align.middle-u', title: 'Align middles across', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'align.high-u', title: 'Align right', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'align.low-v', title: 'Align at the bottom', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'align.middle-v', title: 'Align middles in height', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'align.high-v', title: 'Align at the top', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'distribute.u', title: 'Distribute with equal gaps across', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'distribute.v', title: 'Distribute with equal gaps in height', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'same.length', title: 'Same length as the first', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'same.height', title: 'Same height as the first', keys: [], group: 'Shapes', needs: 'several' },
  { id: 'paint.next', title: 'Paint what is drawn next like this', keys: [], group: 'Shapes', needs: 'shapes' },
] as const satisfies readonly CommandWords[];

/** What is set in the stage, by what different trades call it. */
export const DRAW_SETTINGS: readonly Setting[] = [
  setting('draw', 'pick', 'Fill', 'fill colour paint bucket', ['Colour', 'Fill']),
  setting('draw', 'pick', 'Gradient', 'gradient ramp blend linear radial fill', ['Linear']),
  setting('draw', 'pick', 'Line', 'line stroke outline border contour pen', ['Line']),
  setting('draw', 'pick', 'Line width', 'stroke width weight thickness outline line', ['Line width', 'Line']),
  setting('draw', 'pick', 'Opacity', 'opacity transparency alpha strength see through', ['Opacity']),
  setting('draw', 'pick', 'Blend', 'blend mode multiply screen', ['Blend']),
  setting('draw', 'pick', 'Palette', 'swatches colours', ['Palette', 'Add to the palette']),
  setting('draw', 'pick', 'Repeat in rows', 'repeat array pattern copies row step and duplicate grid of', ['Copies'], 'things'),
  setting('draw', 'pick', 'Scale', 'scale resize enlarge shrink size', ['Scale by'], 'things'),
  setting('draw', 'pick', 'Resize to a length', 'resize size scale width length', ['Scale to a length', 'Length along a', 'Scale by'], 'things'),
  setting('draw', 'pick', 'Rotate', 'rotate turn spin angle', ['Turn by'], 'things'),
  setting('draw', 'pick', 'Flip', 'flip mirror reflect', ['Mirror across'], 'things'),
  setting('draw', 'pick', 'Divide', 'divide split columns rows subdivide', ['Columns', 'Divide in'], 'shapes'),
  setting('draw', 'pick', 'Round corners', 'radius fillet round corner', ['Round corners'], 'shapes'),
  setting('draw', 'pick', 'Align', 'align centre distribute', ['Middle'], 'several'),
  setting('draw', 'circle', 'Inscribe a circle', 'inscribe circle in a box face ellipse', ['In a face', 'In a box']),
  setting('draw', 'polygon', 'Sides of a polygon', 'polygon hexagon corners', ['Sides']),
  setting('draw', 'freehand', 'Smoothing', 'smoothing clean pencil brush freehand', ['Smoothing', 'Keep to the axes']),
];
