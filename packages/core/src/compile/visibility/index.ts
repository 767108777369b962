export { buildVisibility, canSee, type Visibility, type VisibilityOptions } from './visibility.ts';
