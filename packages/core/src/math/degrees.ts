import { arcTangent2 } from './exact.ts';
/** An angle in degrees as 0 up to 360. */
export const wrapDegrees = (degrees: number): number => (((degrees % 360) + 360) % 360) + 0;

/** Which way a vector on the plan points, in degrees counter-clockwise from east, 0 up to 360. */
export const bearing = (x: number, y: number): number => wrapDegrees((arcTangent2(y, x) * 180) / Math.PI);
