import type { EntityKind } from '../kind.ts';
import { billboard } from './billboard.ts';
import { door } from './door/index.ts';
import { breakable } from './breakable.ts';
import { checkpoint } from './checkpoint.ts';
import { evenLight } from './even-light.ts';
import { exit } from './exit.ts';
import { lift } from './lift.ts';
import { mover } from './mover.ts';
import { decal } from './decal.ts';
import { prop } from './prop.ts';
import { pickup } from './pickup.ts';
import { pointLight } from './point-light.ts';
import { reflectionProbe } from './reflection-probe.ts';
import { scenery } from './scenery.ts';
import { sound } from './sound.ts';
import { spawn } from './spawn.ts';
import { spotLight } from './spot-light.ts';
import { sun } from './sun.ts';
import { teleporter } from './teleporter.ts';
import { zone } from './zone.ts';

/** Every kind of thing that can be placed, in the order in which Stock shows them. */
export const ENTITY_KINDS: readonly EntityKind[] = [
  spawn,
  pickup,
  prop,
  decal,
  billboard,
  sound,
  door,
  lift,
  mover,
  breakable,
  zone,
  teleporter,
  checkpoint,
  exit,
  scenery,
  pointLight,
  spotLight,
  sun,
  evenLight,
  reflectionProbe,
];
