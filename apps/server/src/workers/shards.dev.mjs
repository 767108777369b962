/** While developing threads run the source itself: a thread that is opened by a thread has to be told how. */
import { register } from 'tsx/esm/api';

register();
await import('./shards.ts');
