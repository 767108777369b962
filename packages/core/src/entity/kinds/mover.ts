import { length, rotationAbout, sub, composeAffine, type Vec3 } from '../../math/index.ts';
import { params, type ParamSpecs } from '../../params/index.ts';
import type { Behaviour, Memory } from '../behaviour.ts';
import { partHandle } from '../handles.ts';
import { compass, defineKind, type Thing } from '../kind.ts';
import { AT_REST, trackLength, trackPose, type Pose } from '../motion.ts';
import { floorMark, metSomebody, obstructedSignal, obstruction, lightSpecs, tellsLight } from '../moving.ts';
import { middleOfPart, partBox } from '../parts.ts';
import { facing, seenFrom } from '../strokes.ts';

const specs = {
  track: params.keyframes({
    label: 'Track',
    help: 'Where it is when, from where it was drawn, and how it is turned about its own place',
  }),
  plays: params.choice(['once', 'toAndFro', 'round', 'keys'], 'toAndFro', {
    label: 'Plays',
    help: 'Its track once, to and fro, over and over from the beginning, or only to the keyframes that wires name',
    names: { once: 'Once', toAndFro: 'To and fro', round: 'Over and over', keys: 'To keyframes' },
  }),
  begins: params.yesNo(true, {
    label: 'Moves at first',
    help: 'It moves when play begins; otherwise a wire has to start it',
  }),
  spin: params.quantity('°/s', 0, {
    label: 'Spins',
    help: 'How fast it turns without end, as a wheel or a fan; counter-clockwise seen from the tip of its axis',
    min: -3600,
    max: 3600,
  }),
  axis: params.axis([0, 0, 1], {
    label: 'Spins about',
    help: 'Which way its axis points; it goes through the place of the mover',
    shownWhen: (v) => v.spin !== 0,
  }),
  soundMoves: params.reference('sound', { label: 'Sound', help: 'What is heard all the while it moves' }),
  ...obstruction('stop'),
  ...lightSpecs,
} satisfies ParamSpecs;

type Mover = Thing<typeof specs>;

interface Now extends Record<string, Memory[string]> {
  /** Where on its track it is, s. */
  readonly time: number;
  /** 1 onwards, −1 back, 0 it stands. */
  readonly goes: number;
  /** At which time it stops; −1: at the end of its track. */
  readonly until: number;
  /** Degrees. */
  readonly angle: number;
  readonly spins: boolean;
}

/** How long tracks are: asked in every step. */
const lengths = new WeakMap<Mover, number>();

function lengthOf(mover: Mover): number {
  let known = lengths.get(mover);
  if (known === undefined) lengths.set(mover, (known = trackLength(mover.values.track)));
  return known;
}

/** When a keyframe, counted from 1, begins; 0 is where it was drawn. */
function timeOfKey({ values }: Mover, key: number): number {
  if (key <= 0) return 0;
  const before = values.track.slice(0, key - 1).reduce((sum, k) => sum + (k.hold ?? 0), 0);
  return (values.track[key - 1]?.at ?? 0) + before;
}

function poseAt({ at, values }: Mover, { time, angle }: Pick<Now, 'time' | 'angle'>): Pose {
  const onTrack =
    time === 0 && !(values.track[0] && values.track[0].at === 0) ? AT_REST : trackPose(values.track, time, at);
  return angle === 0 ? onTrack : composeAffine(onTrack, rotationAbout(values.axis, angle, at));
}

const behaviour: Behaviour<Mover> = {
  begin: ({ values }): Now => ({
    time: 0,
    goes: values.begins && values.plays !== 'keys' ? 1 : 0,
    until: -1,
    angle: 0,
    spins: values.begins && values.spin !== 0,
  }),
  step: (mover, memory, happenings, moment): Memory => {
    const { values } = mover;
    let now = memory as Now;
    for (const h of happenings) if (h.what === 'action') now = told(mover, now, h.action, h.value);
    if (now.spins) now = { ...now, angle: (now.angle + values.spin * moment.dt) % 360 };
    const end = lengthOf(mover);
    if (now.goes === 0 || end === 0) return now;
    const time = now.time + now.goes * moment.dt;
    if (now.until >= 0 && (now.goes > 0 ? time >= now.until - 1e-9 : time <= now.until + 1e-9)) {
      moment.signal('arrives');
      return { ...now, time: now.until, goes: 0, until: -1 };
    }
    // Written out: this is what most steps of most movers are.
    if (time < end - 1e-9 && time > 1e-9)
      return { time, goes: now.goes, until: now.until, angle: now.angle, spins: now.spins };
    moment.signal(now.goes > 0 ? 'ends' : 'begins');
    if (values.plays === 'round') return { ...now, time: now.goes > 0 ? time - end : time + end };
    if (values.plays === 'toAndFro') return { ...now, time: now.goes > 0 ? end : 0, goes: -now.goes };
    return { ...now, time: now.goes > 0 ? end : 0, goes: 0 };
  },
  poses: (mover, memory) => [poseAt(mover, memory as Now)],
  way: (mover, around) => {
    const end = lengthOf(mover);
    const box = partBox(around, mover);
    const radius = box ? length(sub(box.max, box.min)) : 100;
    const legs = mover.values.track.map((k, i) => {
      const before = mover.values.track[i - 1];
      const turned = (length(sub(k.turn, before?.turn ?? [0, 0, 0])) * Math.PI * radius) / 180;
      return length(sub(k.move, before?.move ?? [0, 0, 0])) + turned;
    });
    const steps = end === 0 ? 0 : Math.min(2000, Math.max(1, Math.ceil(legs.reduce((a, b) => a + b, 0) / 8)));
    const track = Array.from({ length: steps + 1 }, (_, k) => (steps ? (end * k) / steps : 0));
    const angles = mover.values.spin === 0 ? [0] : Array.from({ length: 37 }, (_, k) => k * 10);
    return [track.flatMap((time) => angles.map((angle) => poseAt(mover, { time, angle })))];
  },
  hum: ({ values }, memory) => {
    const { goes, spins } = memory as Now;
    return values.soundMoves !== '' && (goes !== 0 || spins)
      ? { sound: values.soundMoves, reach: 1200, volume: 0.6 }
      : null;
  },
  ends: (mover) => mover.values.track.map((_, k) => [poseAt(mover, { time: timeOfKey(mover, k + 1), angle: 0 })]),
  blocked: ({ values }, before, _after, player, moment): Memory => {
    const now = before as Now;
    return metSomebody(values, now, { ...now, goes: -now.goes }, player, moment);
  },
};

function told(mover: Mover, now: Now, action: string, value: unknown): Now {
  const { values } = mover;
  switch (action) {
    case 'start':
      return { ...now, goes: now.goes || (now.time >= lengthOf(mover) ? -1 : 1), until: -1, spins: values.spin !== 0 };
    case 'stop':
      return { ...now, goes: 0, spins: false };
    case 'turnBack':
      return { ...now, goes: now.goes === 0 ? (now.time > 0 ? -1 : 1) : -now.goes, until: -1 };
    case 'startOrStop':
      return now.goes === 0 && !now.spins ? told(mover, now, 'start', value) : told(mover, now, 'stop', value);
    case 'goToKey': {
      if (typeof value !== 'number') return now;
      const until = timeOfKey(mover, value);
      return until === now.time ? now : { ...now, until, goes: until > now.time ? 1 : -1 };
    }
    default:
      return now;
  }
}

export const mover = defineKind({
  kind: 'mover',
  label: 'Mover',
  help: 'Brushes or props that follow a track of keyframes, or spin: platforms, wheels, fans, machines. It turns about its own place.',
  family: 'What moves',
  standsAt: 0,
  body: 'brushes',
  facing: compass('Front towards'),
  grip: 20,
  tries: 'startOrStop',
  turnsAboutMiddle: true,
  params: specs,
  firstBody: { min: [-64, -64, 0], max: [64, 64, 16] },
  signals: {
    arrives: { label: 'arrives', help: 'It arrives at the keyframe that a wire named' },
    ends: { label: 'is at its end', help: 'It reaches the end of its track' },
    begins: { label: 'is back', help: 'It comes back to the beginning of its track' },
    obstructed: obstructedSignal,
  },
  actions: {
    start: { label: 'start', help: 'Goes on along its track, and spins' },
    stop: { label: 'stop', help: 'Stands still where it is' },
    startOrStop: { label: 'start or stop', help: 'Starts when it stands, stops when it moves' },
    turnBack: { label: 'turn back', help: 'Goes the other way along its track' },
    goToKey: {
      label: 'go to keyframe',
      help: 'Along its track to the keyframe of a number; 0 is where it was drawn',
      values: { key: params.integer(1, { label: 'Keyframe', help: 'Number of the keyframe', min: 0, max: 1000 }) },
    },
  },
  symbol: ({ turn }, view) => {
    const [x, y] = seenFrom(view, facing(turn));
    return [
      { circle: 9, fill: 'paper' },
      { circle: 2.5, fill: 'ink' },
      ...[0, 120, 240].map((a) => {
        const [c, s] = facing(a);
        return {
          line: [
            [c * 4, s * 4],
            [c * 9, s * 9],
          ] as const,
        };
      }),
      {
        line: [
          [x * 9, y * 9],
          [x * 15, y * 15],
        ],
      },
    ];
  },
  mark: ({ turn }) => floorMark(turn),
  reach: (mover, around) => {
    const middle = middleOfPart(around, mover);
    const { track } = mover.values;
    const along: Vec3[] = [
      middle,
      ...track.map((k): Vec3 => [middle[0] + k.move[0], middle[1] + k.move[1], middle[2] + k.move[2]]),
    ];
    return track.length ? [{ line: along }] : [];
  },
  handles: (mover, around) => {
    const middle = middleOfPart(around, mover);
    const { track } = mover.values;
    return track.map((key, k) => ({
      ...partHandle({
        id: `key ${k}`,
        label: `Keyframe ${k + 1}`,
        from: middle,
        way: key.move,
        // What turns on the way takes up other room than what only moves.
        ...(mover.values.spin === 0 && [key, track[k - 1]].every((other) => !other || length(other.turn) === 0)
          ? { part: 0 }
          : {}),
        start: track[k - 1]?.move,
        change: (move) => ({ params: { track: track.map((other, i) => (i === k ? { ...other, move } : other)) } }),
      }),
      line: false,
    }));
  },
  ...tellsLight,
  flaws: ({ id, values }, around) => {
    const box = partBox(around, { id });
    if (!box)
      return [
        {
          code: 'noBody',
          severity: 'error',
          text: (name) => `${name} has no brushes or props. Select some and the mover, then add them.`,
        },
      ];
    if (values.track.length === 0 && values.spin === 0)
      return [
        {
          code: 'goesNowhere',
          severity: 'warning',
          text: (name) => `${name} neither has a track nor spins. Add keyframes, or type how fast it spins.`,
        },
      ];
    return [];
  },
  behaviour,
});
