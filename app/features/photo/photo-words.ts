import type { SolveStep, SurfaceKind, Unsolved } from '@later';

/** What is being done, in words. */
export const STEP_WORDS: Readonly<Record<SolveStep, string>> = {
  registering: 'Laying the two photographs on each other …',
  finding: 'Finding the crossings …',
  fitting: 'Fitting surfaces …',
};

/** Kinds of surfaces, as they are chosen. */
export const KIND_WORDS: Readonly<Record<SurfaceKind, string>> = { panel: 'Flat panel', cylinder: 'Cylinder', cone: 'Cone', patch: 'Free patch' };

/** Why nothing was found: what is said, and what to do about it. */
export const UNSOLVED_WORDS: Readonly<Record<Unsolved, readonly [title: string, advice: string]>> = {
  'no-lattice': [
    'No lattice was found',
    'Photograph it so that its lines are clearly darker than the paper, all around in focus, or set its crossings by hand.',
  ],
  'too-small': ['The lattice is too small in the picture', 'Its boxes need at least 12 px: go nearer, photograph with more px, or print larger boxes.'],
  mirrored: ['The lattice is mirrored', 'Turn the photograph over where it comes from, or photograph the thing itself rather than its reflection.'],
  'other-lattice': ['The lattice has other numbers', 'Say how many boxes it has across and down; their numbers are printed beside the crossings.'],
  'numbers-unclear': ['The numbers of the lattice cannot be read', 'Photograph it sharper or nearer, so that some of the printed numbers are legible.'],
  'different-things': [
    'These are photographs of different things',
    'Both have to show the same thing from the same place, once bare and once with the lattice on it.',
  ],
  'place-unsure': [
    'How the two photographs lie on each other cannot be told',
    'What the paper leaves of the thing looks the same when it is shifted. If neither camera nor thing moved, say so; or take more of it into the picture.',
  ],
  'different-sizes': ['The two photographs do not fit each other', 'One of them was cropped or turned: use both as the camera made them.'],
  'too-few': ['Too few crossings were found', 'Set more of them by hand: a flat panel needs four, a round thing eight.'],
};
