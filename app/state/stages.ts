export type StageName = 'projection' | 'draw' | 'build' | 'light' | 'artwork' | 'output';
export type ToolName =
  | 'pick'
  | 'projection'
  | 'grid'
  | 'sheet'
  | 'trace'
  | 'facts'
  | 'outline'
  | 'rectangle'
  | 'line'
  | 'circle'
  | 'ellipse'
  | 'polygon'
  | 'arc'
  | 'curve'
  | 'freehand'
  | 'again'
  | 'region'
  | 'cut'
  | 'extend'
  | 'measure'
  | 'dimension'
  | 'colour'
  | 'stance'
  | 'depth'
  | 'place';
/** The stages in the order of work, and the tools on each one's bench; a tool's digit is its place. */
export const STAGES: readonly { readonly name: StageName; readonly title: string; readonly tools: readonly ToolName[] }[] = [
  { name: 'projection', title: 'Projection', tools: ['pick', 'projection', 'grid', 'sheet', 'trace', 'facts'] },
  {
    name: 'draw',
    title: 'Draw',
    tools: [
      ...(['pick', 'outline', 'rectangle', 'line', 'circle', 'ellipse', 'polygon', 'arc', 'curve'] as const),
      ...(['freehand', 'again', 'region', 'cut', 'extend', 'measure', 'dimension', 'colour', 'stance'] as const),
    ],
  },
  { name: 'build', title: 'Build', tools: ['pick', 'depth'] },
  { name: 'light', title: 'Light', tools: ['pick'] },
  { name: 'artwork', title: 'Artwork', tools: ['pick', 'place'] },
  { name: 'output', title: 'Output', tools: ['pick'] },
];

export const TOOL_TITLES: Readonly<Record<ToolName, string>> = {
  pick: 'Pick',
  projection: 'Projection',
  grid: 'Grid',
  sheet: 'Sheet',
  trace: 'From a picture',
  facts: 'Facts',
  outline: 'Outline',
  rectangle: 'Rectangle',
  line: 'Line',
  circle: 'Circle',
  ellipse: 'Ellipse',
  polygon: 'Polygon',
  arc: 'Arc',
  curve: 'Curve',
  freehand: 'Freehand',
  again: 'Repeat last',
  region: 'Region',
  cut: 'Cut away',
  extend: 'Extend',
  measure: 'Measure',
  dimension: 'Dimension',
  colour: 'Colour',
  stance: 'Free plane',
  depth: 'Depth',
  place: 'Place artwork',
};

/** The tools that draw on the plane, and so show its grid over the drawing and take the arrow keys. */
export const DRAWING_TOOLS: readonly ToolName[] = [
  ...(['outline', 'rectangle', 'line', 'circle', 'ellipse', 'polygon', 'arc', 'curve', 'freehand', 'again', 'region', 'measure', 'dimension'] as const),
];
