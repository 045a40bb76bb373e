/** The solids that are drawn at once. */
export const SOLID_KINDS = ['box', 'cylinder', 'prism', 'wedge', 'pyramid', 'cone', 'steps', 'arch', 'tube', 'frame', 'ball', 'dome'] as const;

/** A solid that is drawn at once. */
export type SolidKind = (typeof SOLID_KINDS)[number];

/** The smallest end of what tapers, in parts of its base, that is not a point. */
export const LEAST_TOP = 0.001;
