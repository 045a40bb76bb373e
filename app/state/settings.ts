import type { StageName, ToolName } from './stages';

/** A setting that can be found by words: where it stands, and the name of the control that is then focused. */
export interface Setting {
  readonly title: string;
  /** What different trades call it. */
  readonly words: string;
  readonly stage: StageName;
  readonly tool: ToolName;
  /** Names of controls, the wanted one first; the next stand in where it is not shown. */
  readonly controls: readonly string[];
  /** What has to be there for the control to be shown. */
  readonly wants?: 'things' | 'several' | 'shapes' | 'perspective';
}

const setting = (stage: StageName, tool: ToolName, title: string, words: string, controls: readonly string[], wants?: Setting['wants']): Setting => ({
  title,
  words,
  stage,
  tool,
  controls,
  ...(wants && { wants }),
});
const family = (name: string, words: string): Setting => setting('projection', 'projection', `Projection: ${name}`, words, [name]);

/** Every setting that the finder leads to. */
export const SETTINGS: readonly Setting[] = [
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
  setting('build', 'depth', 'Depth', 'depth extrude extrusion thickness height volume 3d', ['Depth', 'Depth 2']),
  setting('light', 'pick', 'Sun', 'sun light direction azimuth elevation shadow shade', ['Turn from a']),
  setting('light', 'pick', 'Tones', 'shade shading tone ramp', ['Facing the sun']),
  setting('artwork', 'place', 'Place artwork', 'artwork place bitmap image logo label svg', ['Add an SVG']),
  setting('output', 'pick', 'Transparent background', 'transparent alpha background png', ['Background']),
  setting('output', 'pick', 'Export the grid', 'export grid only what is exported', ['On the sheet of']),
  setting('output', 'pick', 'Size of the PNG', 'png bitmap image export size px', ['Width']),
];

/** What else commands are called, by their id. */
export const COMMAND_WORDS: Readonly<Record<string, string>> = {
  'tool.cut': 'erase eraser trim scissors delete part',
  'tool.region': 'bucket fill region face',
  'tool.stance': 'slope roof plane angle',
  'tool.colour': 'eyedropper pipette pick colour',
  'tool.measure': 'ruler distance',
  delete: 'erase remove clear',
  duplicate: 'copy repeat clone',
  'copy.linked': 'instance symbol clone array repeat',
  'mirror.across': 'flip reflect horizontal',
  'mirror.up': 'flip reflect vertical',
  'turn.left': 'rotate anticlockwise 90',
  'turn.right': 'rotate clockwise 90',
  union: 'unite merge weld add combine boolean',
  subtract: 'minus cut out punch boolean difference',
  intersect: 'boolean common',
  exclude: 'xor boolean',
  'reference.add': 'image bitmap photo template trace picture import',
  'artwork.add': 'import svg image vector logo',
  'view.grid': 'guide guides lines',
  'view.rulers': 'guide guides ruler units',
  'view.compare': 'side by side',
  'output.png': 'bitmap image transparent raster',
  'output.svg': 'vector',
  'output.pdf': 'print',
  'to.left': 'move to wall plane',
  'to.right': 'move to wall plane',
  'order.up': 'front raise bring to front',
  'order.down': 'back lower send to back',
  'view.alone': 'isolate solo hide others',
  'projection.calmer': 'focal length dolly flatter',
  'document.new': 'new file sheet',
};
