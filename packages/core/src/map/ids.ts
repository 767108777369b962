import { customAlphabet } from 'nanoid';

/** A new random id: short enough for one line a brush, long enough never to meet another (62 bits). */
export const newId: () => string = customAlphabet('23456789abcdefghijkmnpqrstuvwxyz', 12);
