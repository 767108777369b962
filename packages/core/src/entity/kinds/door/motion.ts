import {
  add,
  boxCenter,
  cross,
  dot,
  length,
  normalize,
  scale,
  sub,
  type Vec3,
  boxCorners,
} from '../../../math/index.ts';
import type { Behaviour, Memory, Moment } from '../../behaviour.ts';
import type { Around } from '../../kind.ts';
import { AT_REST, eased, farthestMove } from '../../motion.ts';
import { partBox } from '../../parts.ts';
import { metSomebody } from '../../moving.ts';
import { turnsOf, leafPose, type Door } from './params.ts';

/** How long the door takes to open, s. */
function timeOf({ id, at, values }: Door, around: Around): number {
  if (values.pace === 'time') return values.seconds;
  const longest = values.leaves.map((l, k) => {
    if (l.moves === 'slides') return length(l.travel);
    const box = partBox(around, { id }, k);
    if (!box) return 0;
    // Along the arc of the corner that is farthest from the hinge.
    const axis = normalize(l.axis);
    const radius = Math.max(
      ...boxCorners(box).map((p) => {
        const from = sub(p, add(at, l.hinge));
        return length(sub(from, scale(axis, dot(from, axis))));
      }),
    );
    return (Math.abs(l.angle) * Math.PI * radius) / 180;
  });
  return Math.max(0.05, Math.max(0, ...longest) / values.speed);
}

/** Which sense each leaf turns in so that it moves away from a player. */
function sensesFor({ id, at, values }: Door, around: Around, feet: Vec3): readonly number[] {
  return values.leaves.map((l, k) => {
    const box = partBox(around, { id }, k);
    if (l.moves !== 'turns' || !values.away || !box) return 1;
    const middle = boxCenter(box);
    const goes = cross(scale(l.axis, Math.sign(l.angle)), sub(middle, add(at, l.hinge)));
    return dot(goes, sub(feet, middle)) > 0 ? -1 : 1;
  });
}

interface Now extends Record<string, Memory[string]> {
  /** How much of its time it has used, 0 to 1. */
  readonly open: number;
  /** 1 opening, −1 closing, 0 neither. */
  readonly going: number;
  /** How long it has stood open, s. */
  readonly waited: number;
  readonly locked: boolean;
  /** The price was paid. */
  readonly paid: boolean;
  readonly senses: readonly number[];
}

/** How a door moves, and what moves it. */
export const behaviour: Behaviour<Door> = {
  begin: ({ values }): Now => ({
    open: values.open ? 1 : 0,
    going: 0,
    waited: 0,
    locked: values.locked,
    paid: values.price === 0,
    senses: values.leaves.map(() => 1),
  }),
  notices: ({ values }) => (values.opens === 'near' ? values.near : null),
  step: (door, memory, happenings, moment): Memory => {
    const { values } = door;
    let now = memory as Now;
    for (const h of happenings) {
      if (h.what === 'action') now = acted(door, now, h.action, h.by, moment);
      else if (h.what === 'used' && values.opens === 'use')
        now = now.going > 0 || now.open === 1 ? close(now, moment) : open(door, now, h.by, moment);
      else if ((h.what === 'touched' && values.opens === 'touch') || (h.what === 'near' && values.opens === 'near'))
        now = now.going > 0 || now.open === 1 ? kept(now) : open(door, now, h.by, moment);
    }
    if (now.going !== 0) {
      const at = now.open + (now.going * moment.dt) / timeOf(door, moment.around);
      if (at > 1 - ENDS) {
        moment.signal('opened');
        return { ...now, open: 1, going: 0, waited: 0 };
      }
      if (at < ENDS) {
        moment.signal('closed');
        return { ...now, open: 0, going: 0 };
      }
      return { ...now, open: at };
    }
    if (now.open === 1 && !values.stays && !values.open) {
      const waited = now.waited + moment.dt;
      return waited >= values.wait ? close(now, moment) : { ...now, waited };
    }
    return now;
  },
  poses: ({ at, values }, memory) => {
    const { open: used, senses } = memory as Now;
    const share = eased(values.ease, used);
    return values.leaves.map((l, k) => leafPose(at, l, share, senses[k] ?? 1));
  },
  way: ({ id, at, values }, around) => {
    return values.leaves.map((l, k) => {
      const box = partBox(around, { id }, k);
      const senses = l.moves === 'turns' && values.away ? [-1, 1] : [1];
      return senses.flatMap((sense) => {
        const end = leafPose(at, l, 1, sense);
        const far = box ? farthestMove(box, AT_REST, end) : 0;
        const steps = Math.max(
          1,
          Math.ceil(far / WAY_STEP),
          l.moves === 'turns' ? Math.ceil(Math.abs(l.angle) / 10) : 1,
        );
        return Array.from({ length: steps + 1 }, (_, i) => leafPose(at, l, i / steps, sense));
      });
    });
  },
  ends: ({ at, values }) =>
    (values.away && turnsOf(values.leaves) ? [1, -1] : [1]).map((sense) =>
      values.leaves.map((l) => leafPose(at, l, 1, sense)),
    ),
  blocked: ({ values }, before, _after, player, moment): Memory => {
    const now = before as Now;
    return metSomebody(values, now, { ...now, going: -now.going }, player, moment);
  },
};

/** So near to an end (a share of the way) it is there: sums of steps are off by rounding. */
const ENDS = 1e-9;

/** Places on a leaf's way lie this near to each other, cm. */
const WAY_STEP = 16;

const kept = (now: Now): Now => (now.open === 1 && now.going === 0 ? { ...now, waited: 0 } : now);

function close(now: Now, moment: Moment): Now {
  if (now.open === 0) return now;
  moment.signal('closes');
  return { ...now, going: -1, waited: 0 };
}

function open(door: Door, now: Now, by: number | undefined, moment: Moment, force = false): Now {
  const { values } = door;
  if (now.going > 0 || now.open === 1) return now;
  let { locked, paid } = now;
  if (!force) {
    const hasKey = values.key !== '' && by !== undefined && moment.holds(by, values.key);
    if (hasKey) locked = false;
    if (locked || (values.key !== '' && !hasKey)) {
      moment.signal('refused', by);
      return now;
    }
    if (!paid && !(by !== undefined && moment.pay(by, values.price))) {
      moment.signal('refused', by);
      return now;
    }
    paid = true;
  }
  moment.signal('opens', by);
  // A leaf that is on its way keeps its sense: it would jump otherwise.
  const senses = now.open > 0 || by === undefined ? now.senses : sensesFor(door, moment.around, moment.feetOf(by));
  return { ...now, going: 1, locked, paid, senses, waited: 0 };
}

function acted(door: Door, now: Now, action: string, by: number | undefined, moment: Moment): Now {
  switch (action) {
    case 'open':
      // A wire that opens it is stronger than its key and price, but not than its lock.
      return now.locked ? (moment.signal('refused', by), now) : open(door, now, by, moment, true);
    case 'close':
      return close(now, moment);
    case 'toggle':
      return now.going > 0 || now.open === 1 ? close(now, moment) : acted(door, now, 'open', by, moment);
    case 'lock':
      return now.locked ? now : { ...now, locked: true };
    case 'unlock':
      return now.locked ? { ...now, locked: false } : now;
    default:
      return now;
  }
}
