/**
 * Every tolerance of the geometry, named once. Lengths are in cm (one unit is one centimetre).
 *
 * Grid positions are small integers or powers of two and therefore exact in doubles; tolerances only
 * decide about points that were computed by intersecting planes.
 */

/** A point this near to a plane lies on it. Far above the rounding of doubles at the world's size, far below a grid step. */
export const ON_PLANE = 0.01;

/** Two points this near are the same corner. A little over ON_PLANE, so that corners found through different planes meet. */
export const SAME_POINT = 0.02;

/** Two unit normals whose components differ by no more than this are the same direction. */
export const SAME_NORMAL = 1e-6;

/** Planes of one direction whose distances differ by no more than this are one plane. */
export const SAME_DISTANCE = 0.002;

/** The shortest edge a brush may have. Under it two planes are one ({@link SAME_DISTANCE}), and so are their corners. */
export const MIN_EDGE = 0.002;

/** The thinnest a brush may be in any of the axes' directions. */
export const MIN_EXTENT = 0.002;

/** The thinnest (cm) that a shape is drawn. What is cut may come out thinner, so that cutting loses nothing. */
export const MIN_DRAWN = 0.25;

/** What a brush operation may lose or add in all, cm³: a millilitre, far under anything that is seen or built on. */
export const LOST_VOLUME = 1;

/** How far from the origin a corner may lie: one kilometre, so that doubles keep 1e-11 cm and floats 0.01 cm. */
export const WORLD_LIMIT = 100_000;

/** Points used to start floods and rays are pushed off surfaces by this much. */
export const OFF_SURFACE = 0.05;
