export { countBits, countOnes } from './bits.ts';
export { buildVisibility, canSee, type Visibility, type VisibilityOptions } from './visibility.ts';
