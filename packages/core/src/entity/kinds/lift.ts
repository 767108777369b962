import { add, length, sub, translation, type Vec3 } from '../../math/index.ts';
import { params, type ParamSpecs, type ValuesOf } from '../../params/index.ts';
import type { Behaviour, Memory } from '../behaviour.ts';
import { partHandle } from '../handles.ts';
import { defineKind, type Thing } from '../kind.ts';
import { AT_REST, eased, type Pose } from '../motion.ts';
import { middleOfPart, partBox } from '../parts.ts';
import {
  easing,
  floorMark,
  metSomebody,
  movingSounds,
  obstructedSignal,
  obstruction,
  lightSpecs,
  tellsLight,
} from '../moving.ts';

const stop = {
  name: params.text('', { label: 'Name', help: 'What this stop is called', longest: 60 }),
  at: params.way([0, 0, 256], { label: 'Where', help: 'How far from where the lift was drawn, in cm' }),
} satisfies ParamSpecs;

const specs = {
  stops: params.list(params.record(stop, { label: 'Stop', help: 'A place where the lift halts', first: 2 }), {
    label: 'Further stops',
    help: 'Where it halts besides where it was drawn, in order; that place is stop 1',
    most: 32,
    initial: [{ name: '', at: [0, 0, 256] }],
  }),
  calls: params.choice(['step', 'use', 'wires'], 'step', {
    label: 'Leaves by',
    help: 'What a player on it does to go to the next stop; wires always can call it',
    names: { step: 'Stepping on', use: 'Use', wires: 'Wires only' },
  }),
  delay: params.quantity('s', 0.5, { label: 'Waits before', help: 'How long after a call it leaves', min: 0, max: 60 }),
  stay: params.quantity('s', 1, {
    label: 'Stays',
    help: 'How long it stays at a stop before it answers the next call',
    min: 0,
    max: 600,
  }),
  speed: params.quantity('cm/s', 160, { label: 'Speed', help: 'Its mean speed between two stops', min: 1, max: 1200 }),
  ease: easing,
  returns: params.yesNo(false, { label: 'Returns', help: 'Goes back to stop 1 when nobody has called it for a while' }),
  after: params.quantity('s', 5, {
    label: 'Returns after',
    help: 'How long nobody has called it',
    min: 0,
    max: 3600,
    shownWhen: (v) => v.returns === true,
  }),
  skirt: params.yesNo(true, {
    label: 'Closed beneath',
    help: 'Players cannot get under it: the space below, as high as it rises, holds them back',
  }),
  ...movingSounds('winch', 'bolt'),
  ...obstruction('stop'),
  ...lightSpecs,
} satisfies ParamSpecs;

type Lift = Thing<typeof specs>;
export type LiftStop = ValuesOf<typeof stop>;

interface Now extends Record<string, Memory[string]> {
  /** The stop it is at or comes from, and the one it goes to: the same while it stands. */
  readonly from: number;
  readonly to: number;
  /** How much of its way it has gone, 0 to 1 of its time. */
  readonly gone: number;
  /** Stops it was called to, in order. */
  readonly called: readonly number[];
  /** How long it has stood, and since when it has been called, s. */
  readonly stood: number;
  readonly since: number;
  /** Somebody stands on it: who stays on it does not call it again. */
  readonly ridden: boolean;
  /** Which way the next stop lies: 1 or −1. */
  readonly heads: number;
}

/** For longer than this (s) it does not matter how long it has stood. */
const LONG = 7200;

const placeOf = ({ values }: Lift, k: number): Vec3 => (k <= 0 ? [0, 0, 0] : (values.stops[k - 1]?.at ?? [0, 0, 0]));

function poseAt(lift: Lift, { from, to, gone }: Now): Pose {
  const a = placeOf(lift, from);
  if (from === to || gone === 0) return from === 0 ? AT_REST : translation(a);
  const b = placeOf(lift, to);
  const t = eased(lift.values.ease, gone);
  return translation([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t]);
}

/** Called to a stop; it comes there after those it was called to before. A call to where it stands, or is going, is no call. */
function calledTo(now: Now, to: number, count: number): Now {
  if (!(to >= 0 && to < count) || now.called.includes(to)) return now;
  if (now.to === to && now.called.length === 0) return now;
  return { ...now, called: [...now.called, to], since: now.called.length ? now.since : 0 };
}

const nextStop = (now: Now, count: number): Now => {
  const heads = now.to + now.heads >= count || now.to + now.heads < 0 ? -now.heads : now.heads;
  return calledTo({ ...now, heads }, now.to + heads, count);
};

const behaviour: Behaviour<Lift> = {
  begin: (): Now => ({ from: 0, to: 0, gone: 0, called: [], stood: LONG, since: 0, ridden: false, heads: 1 }),
  step: (lift, memory, happenings, moment): Memory => {
    const { values } = lift;
    const count = values.stops.length + 1;
    let now = memory as Now;
    let ridden = false;
    for (const h of happenings) {
      if (h.what === 'ridden') {
        ridden = true;
        // Who is carried along does not call it on.
        if (values.calls === 'step' && !now.ridden && now.from === now.to) now = nextStop(now, count);
      } else if (h.what === 'used' && values.calls === 'use') now = nextStop(now, count);
      else if (h.what === 'action') {
        if (h.action === 'next') now = nextStop(now, count);
        else if (h.action === 'first') now = calledTo(now, 0, count);
        else if (h.action === 'last') now = calledTo(now, count - 1, count);
        else if (h.action === 'goTo' && typeof h.value === 'number') now = calledTo(now, h.value - 1, count);
      }
    }
    if (ridden !== now.ridden) now = { ...now, ridden };
    if (now.from !== now.to) {
      const way = length(sub(placeOf(lift, now.to), placeOf(lift, now.from)));
      const gone = now.gone + (way > 0 ? (moment.dt * values.speed) / way : 1);
      if (gone < 1 - 1e-9) return { ...now, gone };
      moment.signal('arrives');
      if (now.to === 0) moment.signal('arrivesFirst');
      if (now.to === count - 1) moment.signal('arrivesLast');
      return { ...now, from: now.to, gone: 0, stood: 0, since: 0 };
    }
    const stood = Math.min(now.stood + moment.dt, LONG);
    if (now.called.length === 0) {
      if (now.to === 0 || !values.returns) return stood - moment.dt < values.stay ? { ...now, stood } : now;
      return stood >= values.after + values.stay && !ridden ? calledTo({ ...now, stood }, 0, count) : { ...now, stood };
    }
    const since = now.since + moment.dt;
    if (stood < values.stay || since < values.delay) return { ...now, stood, since };
    const [to, ...called] = now.called;
    if (to === now.from) return { ...now, called, since: 0 };
    moment.signal('leaves');
    return { ...now, to: to!, called, gone: 0, since: 0 };
  },
  poses: (lift, memory) => [poseAt(lift, memory as Now)],
  way: (lift) => {
    const count = lift.values.stops.length + 1;
    const places = Array.from({ length: count }, (_, k) => placeOf(lift, k));
    // Between any two stops it goes straight.
    return [
      places.flatMap((a, i) =>
        places.slice(i + 1).flatMap((b) => {
          const steps = Math.max(1, Math.ceil(length(sub(b, a)) / 64));
          return Array.from({ length: steps + 1 }, (_, k) =>
            translation(add(a, sub(b, a).map((c) => (c * k) / steps) as unknown as Vec3)),
          );
        }),
      ),
    ];
  },
  ends: (lift) => lift.values.stops.map(({ at }) => [translation(at)]),
  beneath: ({ id, values }, around) => {
    const box = partBox(around, { id });
    if (!values.skirt || !box) return [];
    const heights = [0, ...values.stops.map(({ at }) => at[2])];
    const rise = Math.max(...heights) - Math.min(...heights);
    // As high as it rises: at its highest the whole of the shaft is closed.
    return rise < 1
      ? []
      : [{ min: [box.min[0], box.min[1], box.min[2] - rise], max: [box.max[0], box.max[1], box.min[2]] }];
  },
  blocked: ({ values }, before, _after, player, moment): Memory => {
    const now = before as Now;
    const back = { ...now, from: now.to, to: now.from, gone: now.from === now.to ? 0 : 1 - now.gone };
    return metSomebody(values, now, back, player, moment);
  },
};

export const lift = defineKind({
  kind: 'lift',
  label: 'Lift',
  help: 'Brushes or props that go between stops and carry who stands on them. It never turns round between two stops: calls wait.',
  family: 'What moves',
  standsAt: 0,
  body: 'brushes',
  grip: 20,
  carries: true,
  tries: 'next',
  params: specs,
  firstBody: { min: [-64, -64, 0], max: [64, 64, 16] },
  signals: {
    leaves: { label: 'leaves', help: 'It leaves a stop' },
    arrives: { label: 'arrives', help: 'It arrives at a stop' },
    arrivesFirst: { label: 'arrives at its first stop', help: 'It arrives where it was drawn' },
    arrivesLast: { label: 'arrives at its last stop', help: 'It arrives at the last of its stops' },
    obstructed: obstructedSignal,
  },
  actions: {
    next: { label: 'go on', help: 'To the next stop, and back again from the last' },
    first: { label: 'come to the first stop', help: 'As a call plate there does' },
    last: { label: 'go to the last stop', help: 'As a call plate there does' },
    goTo: {
      label: 'go to stop',
      help: 'To the stop of a number; 1 is where it was drawn',
      values: { stop: params.integer(1, { label: 'Stop', help: 'Number of the stop', min: 1, max: 33 }) },
    },
  },
  symbol: (_, view) => {
    const plan = Math.abs(view.up[2]) < 0.5;
    const up = plan ? 0 : 1;
    return [
      {
        line: [
          [-9, -9 + up * 3],
          [9, -9 + up * 3],
          [9, 9 - up * 9],
          [-9, 9 - up * 9],
        ],
        closed: true,
        fill: 'paper',
      },
      {
        line: [
          [-3, -1 + up * 5],
          [0, 4 + up * 5],
          [3, -1 + up * 5],
        ],
      },
      {
        line: [
          [0, 4 + up * 5],
          [0, -5 + up * 3],
        ],
      },
    ];
  },
  mark: () => floorMark(0),
  reach: (lift, around) => {
    const middle = middleOfPart(around, lift);
    return [{ line: [middle, ...lift.values.stops.map(({ at }) => add(middle, at))] }];
  },
  handles: (lift, around) => {
    const middle = middleOfPart(around, lift);
    return lift.values.stops.map((s, k) => ({
      ...partHandle({
        id: `stop ${k}`,
        label: `Stop ${k + 2}`,
        from: middle,
        way: s.at,
        part: 0,
        start: lift.values.stops[k - 1]?.at,
        change: (at) => ({
          params: { stops: lift.values.stops.map((other, i) => (i === k ? { ...other, at } : other)) },
        }),
      }),
      line: k === 0,
    }));
  },
  sounds: ({ values: { soundMoves, soundEnds } }) => ({ leaves: soundMoves, arrives: soundEnds }),
  ...tellsLight,
  usable: ({ values }) => values.calls === 'use',
  flaws: ({ id, values }, around) => {
    const box = partBox(around, { id });
    if (!box)
      return [
        {
          code: 'noCar',
          severity: 'error',
          text: (name) => `${name} has nothing to stand on. Select brushes or props and the lift, then add them.`,
        },
      ];
    if (values.stops.length === 0 || values.stops.every(({ at }) => length(at) < 0.01))
      return [
        {
          code: 'noStops',
          severity: 'error',
          text: (name) => `${name} has nowhere to go. Add a stop, and drag its handle to where it halts.`,
        },
      ];
    return [];
  },
  behaviour,
});
