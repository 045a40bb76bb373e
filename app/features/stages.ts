import type { StageLink } from '../state/stage';

/** Asked for with the page itself: it is the stage that is shown first. */
const draw = import('./draw/stage');

/** The stages in the order of work, each loaded when it is first wanted. */
export const STAGES: readonly StageLink[] = [
  { name: 'projection', title: 'Projection', load: () => import('./projection/stage').then((m) => m.projectionStage) },
  { name: 'draw', title: 'Draw', load: () => draw.then((m) => m.drawStage) },
  { name: 'build', title: 'Build', load: () => import('./build/stage').then((m) => m.buildStage) },
  { name: 'light', title: 'Light', load: () => import('./light/stage').then((m) => m.lightStage) },
  { name: 'artwork', title: 'Artwork', load: () => import('./artwork/stage').then((m) => m.artworkStage) },
  { name: 'photo', title: 'Photo', load: () => import('./photo/stage').then((m) => m.photoStage) },
  { name: 'output', title: 'Output', load: () => import('./output/stage').then((m) => m.outputStage) },
];
