/** From 0 to 1 as a share goes from 0 to 1, without a corner at either end: the cubic `3t² − 2t³`. */
export const smoothStep = (t: number): number => t * t * (3 - 2 * t);
