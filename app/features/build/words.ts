import type { CommandWords } from '../../state/keys';
import { setting, type Setting } from '../../state/settings';
import type { ToolWords } from '../../state/stage';

/** The tools of the stage in the order of its bench. */
export const BUILD_TOOLS = [
  { name: 'pick', title: 'Pick' },
  { name: 'depth', title: 'Depth', find: 'Give shapes depth', words: 'extrude extrusion thickness volume 3d' },
  { name: 'set-down', title: 'Set down', find: 'Set things down on what is under the pointer', words: 'place rest stack put move on top against wall' },
  { name: 'opening', title: 'Opening', find: 'Press an opening into a face', words: 'hole cut recess niche hatch window pocket' },
  { name: 'box', title: 'Box', find: 'Draw a box', words: 'cuboid block crate solid' },
  { name: 'cylinder', title: 'Cylinder', find: 'Draw a cylinder', words: 'round column drum pillar elliptic solid' },
  { name: 'prism', title: 'Prism', find: 'Draw a regular prism', words: 'hexagon octagon column solid' },
  { name: 'wedge', title: 'Wedge', find: 'Draw a wedge', words: 'ramp slope roof gable solid' },
  { name: 'pyramid', title: 'Pyramid', find: 'Draw a pyramid', words: 'frustum tapered roof solid' },
  { name: 'cone', title: 'Cone', find: 'Draw a cone', words: 'frustum tapered round solid' },
  { name: 'steps', title: 'Steps', find: 'Draw steps', words: 'treads risers flight solid' },
  { name: 'arch', title: 'Arch', find: 'Draw an arch', words: 'gate bridge vault solid' },
  { name: 'tube', title: 'Tube', find: 'Draw a tube', words: 'pipe ring hollow solid' },
  { name: 'frame', title: 'Frame', find: 'Draw a frame', words: 'slab opening rim border solid' },
  { name: 'ball', title: 'Ball', find: 'Draw a ball', words: 'sphere round solid' },
  { name: 'dome', title: 'Dome', find: 'Draw a dome', words: 'hemisphere cap round solid' },
  { name: 'lettering', title: 'Lettering', find: 'Write text', words: 'type text letters font words cell letters' },
] as const satisfies readonly ToolWords[];

export const BUILD_COMMANDS = [
  { id: 'solids.join', title: 'Join solids into one', keys: [], group: 'Solids', needs: 'several', words: 'unite merge union add boolean' },
  {
    id: 'solids.less',
    title: 'Take away the later solids from the first',
    keys: [],
    group: 'Solids',
    needs: 'several',
    words: 'subtract difference cut minus boolean',
  },
  { id: 'solids.common', title: 'Keep the overlap of solids', keys: [], group: 'Solids', needs: 'several', words: 'intersect common boolean' },
  { id: 'space.drop', title: 'Drop to the floor', keys: [], group: 'Solids', needs: 'selected', words: 'ground fall down rest' },
  { id: 'space.stand', title: 'Stand on what is below', keys: [], group: 'Solids', needs: 'selected', words: 'stack rest put on top pile' },
  { id: 'space.turn-a', title: 'Quarter turn about a', keys: [], group: 'Solids', needs: 'selected', words: 'rotate 90 degrees tip over' },
  { id: 'space.turn-b', title: 'Quarter turn about b', keys: [], group: 'Solids', needs: 'selected', words: 'rotate 90 degrees tip over' },
  { id: 'space.turn-h', title: 'Quarter turn about h', keys: [], group: 'Solids', needs: 'selected', words: 'rotate 90 degrees' },
  { id: 'space.mirror-a', title: 'Mirror in space along a', keys: [], group: 'Solids', needs: 'selected', words: 'flip reflect other wall' },
  { id: 'space.mirror-b', title: 'Mirror in space along b', keys: [], group: 'Solids', needs: 'selected', words: 'flip reflect other wall' },
  { id: 'space.mirror-h', title: 'Mirror in space along h', keys: [], group: 'Solids', needs: 'selected', words: 'flip reflect upside down' },
  { id: 'space.other-wall', title: 'Mirror to the other wall', keys: [], group: 'Solids', needs: 'selected', words: 'flip reflect swap left right wall' },
] as const satisfies readonly CommandWords[];

/** What is set in the stage, by what different trades call it. */
export const BUILD_SETTINGS: readonly Setting[] = [
  setting('build', 'prism', 'Sides of prisms', 'sides corners hexagon', ['Sides']),
  setting('build', 'steps', 'Steps by count, rise or run', 'steps count rise run treads', ['Steps', 'Rise', 'Run']),
  setting('build', 'pick', 'Line up in space', 'align distribute equal gaps middle centre solids', ['Middle along a'], 'several'),
  setting('build', 'depth', 'Depth', 'depth extrude extrusion thickness height volume 3d', ['Depth', 'Depth 2']),
];
