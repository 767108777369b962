import type { EntityKind } from '../kind.ts';
import { door } from './door.ts';
import { lift } from './lift.ts';
import { mover } from './mover.ts';
import { pointLight } from './point-light.ts';
import { spawn } from './spawn.ts';
import { spotLight } from './spot-light.ts';
import { sun } from './sun.ts';

/** Every kind of thing that can be placed, in the order in which Stock shows them. */
export const ENTITY_KINDS: readonly EntityKind[] = [spawn, pointLight, spotLight, sun, door, lift, mover];
