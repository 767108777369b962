import type { AnyJob } from '../../jobs/index.ts';
import { boundJob, flowJob } from './jobs.ts';

export { countBits, countOnes } from './bits.ts';
export {
  buildVisibility,
  canSee,
  provenShare,
  seeLevel,
  type Visibility,
  type VisibilityOptions,
  type Witnessed,
} from './visibility.ts';

/** What a thread that helps with visibility has to know. */
export const SIGHT_JOBS = [boundJob, flowJob] as unknown as readonly AnyJob[];
