/**
 * Every tolerance of core, each with its unit and its reason. Signs (side of a line, inside or outside) do not
 * use any of these: they come from robust predicates.
 */

/** Parts of a cell that are stored: 2^4 * 3^2 * 5^2 * 7, so halves to tenths and their mixtures are exact. */
export const TICKS_PER_CELL = 25_200;

/** Largest coordinate in cells that is accepted; ticks then stay far below 2^53, and sums of them exact. */
export const MAX_CELLS = 1_000_000;

/**
 * Relative to the size of the picture: overlaps thinner than this are touching edges, not overlaps. Sheet
 * coordinates of 1e3 carry rounding of 1e-13, so 1e-9 leaves four digits on either side.
 */
export const TOUCHING = 1e-9;

/**
 * Relative to the scene's nearness range: two faces whose nearness differs by less over their whole overlap lie in
 * one plane, and the document's order decides between them.
 */
export const COPLANAR = 1e-9;

/**
 * Cells by which two bodies may reach into each other and still count as side by side: two ticks, since corners of
 * slanting things are rounded to one. On a sheet it is less than a thousandth of a mm.
 */
export const SIDE_BY_SIDE = 2 / TICKS_PER_CELL;

/**
 * Width in mm of the sheet of a strip in which two surfaces may be the other way round and still not count as cutting
 * through each other: what rounding corners to ticks leaves, on a cell of 50 mm.
 */
export const CUTS_THROUGH = 2e-3;

/**
 * Of the larger gap between two surfaces with a curved one among them, what the smaller has to exceed for them to cut
 * through each other: facets lie beside the true curve.
 */
export const CUTS_THROUGH_CURVED = 2e-2;

/** Square of the cosine between a face and the line of sight below which it is seen edge-on and not drawn. */
export const EDGE_ON = 1e-12;

/** Screen px within which the pointer catches a point, a middle, a centre or an edge: half a finger's width. */
export const CATCH_PX = 9;

/** Screen px within which the pointer catches an alignment, smaller so that it never outbids a real thing. */
export const ALIGN_PX = 5;

/** Angle in radians under which a direction counts as running along an axis in figures shown to people. */
export const ALONG_AXIS = 1e-9;

/** Smallest focal length and smallest depth of the nearest corner in mm: nearer, the eye touches the picture. */
export const MIN_FOCAL = 0.5;

/** Smallest height of the eye over the floor, as a part of the focal length; lower, the floor's cells are thinner than a hair. */
export const MIN_EYE_HEIGHT = 1e-3;

/**
 * Near plane as a part of the focal length: what is nearer to the eye is clipped, never divided by its depth. Drawn
 * coordinates then stay below a thousand times the picture's extent.
 */
export const NEAR_PLANE = 1e-3;

/** Shortest period of dashes in mm of the sheet that is drawn as dashes: at the largest zoom (64) it is 5 px long. */
export const MIN_DASH_MM = 0.02;

/** Most dashes of one straight piece: more cannot be told apart on a sheet, and would only cost time. */
export const MAX_DASHES = 5_000;

/** Most dashes that a painter is given for one path: it takes a microsecond for each. */
export const MAX_PEN_DASHES = 100_000;

/**
 * A determinant smaller than this part of the sum of its products' sizes is rounding: six products of three factors
 * carry less than 30 roundings of 1.1e-16.
 */
export const SINGULAR = 4e-15;

/** Largest focal length in mm that a camera may have: 100 km. */
export const MAX_FOCAL = 1e8;
/** Farthest place in mm: 1000 km. */
export const MAX_FAR = 1e9;

/** Cells within which two places are one: sums of coordinates of up to a million cells are right to 1e-10. */
export const SAME_PLACE = 1e-9;

/** Cells within which the ends of curves that were found by iteration are one: what Newton's method leaves, many times over. */
export const SAME_FOUND = 1e-6;

/** Parts of a curve's parameter from 0 to 1 within which two places of it are one. */
export const SAME_PARAMETER = 1e-9;

/** The same for parameters that were found by iteration or read off chords. */
export const FOUND_PARAMETER = 1e-6;

/** By how much a unit vector's component may miss 0 or 1 and still be it: what a few roundings leave. */
export const UNIT = 1e-12;

/** By how much unit vectors may miss being square to each other or of length 1: what is typed and stored carries ten digits. */
export const SQUARE = 1e-9;

/** A determinant or leading term smaller than this part of its matrix counts as nothing: half of a double's digits. */
export const NO_DETERMINANT = 1e-12;

/** What the near plane is multiplied by where things are clipped, so that rounding leaves no corner before it. */
export const CLEAR_OF_NEAR = 1 + 1e-9;

/** Distance in cells between a curve and its chords where part of its surface lies before the near plane, and the rest is seen from close by. */
export const CLOSE_BY = 1e-6;

/** Distance in mm of the sheet between a drawn curve and the corners that stand for it in cuts and under the pointer. */
export const CORNERS = 0.004;

/** Distance in mm of the sheet between the edge of a shadow on a round side and the curve that is drawn for it: less than a px at 2,500 px to the inch. */
export const SHADOW_CURVES = 0.01;

/** Distance in mm of the sheet between what is drawn of artwork in perspective or round a side and where it truly lies: a hundredth of a px at 300 px to the inch. */
export const MAPPED_CURVES = 0.0008;
