import {
  boxCorners,
  add,
  applyAffine,
  boxCenter,
  cross,
  dot,
  length,
  normalize,
  rotationAbout,
  scale,
  sub,
  translation,
  type Vec3,
} from '../../math/index.ts';
import { initialValues, params, type ParamSpecs, type ValuesOf } from '../../params/index.ts';
import { asks } from '../areas.ts';
import type { Behaviour, Memory, Moment } from '../behaviour.ts';
import { facingHandle, partHandle, turnHandle } from '../handles.ts';
import { compass, defineKind, type Around, type Thing } from '../kind.ts';
import { AT_REST, eased, farthestMove, type Pose } from '../motion.ts';
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
import { facing, seenFrom, type SpaceLine } from '../strokes.ts';

const leaf = {
  moves: params.choice(['slides', 'turns'], 'slides', {
    label: 'Motion',
    help: 'Whether this leaf slides or turns on a hinge',
    names: { slides: 'Slides', turns: 'Turns' },
  }),
  travel: params.way([0, 0, 200], {
    label: 'Slides by',
    help: 'How far it slides until it is open, in cm',
    shownWhen: (v) => v.moves === 'slides',
  }),
  hinge: params.way([0, 0, 0], {
    label: 'Hinge',
    help: 'A point of the line that it turns about, in cm from the door',
    shownWhen: (v) => v.moves === 'turns',
  }),
  axis: params.axis([0, 0, 1], {
    label: 'Hinge line',
    help: 'Which way the line runs that it turns about',
    shownWhen: (v) => v.moves === 'turns',
  }),
  angle: params.angle(90, {
    label: 'Turns by',
    help: 'How far it turns until it is open, in degrees; negative turns the other way',
    min: -180,
    max: 180,
    shownWhen: (v) => v.moves === 'turns',
  }),
} satisfies ParamSpecs;

/** One moving part of a door. */
export type Leaf = ValuesOf<typeof leaf>;

const specs = {
  leaves: params.list(params.record(leaf, { label: 'Leaf', help: 'One moving part of the door' }), {
    label: 'Leaves',
    help: 'The parts that move, each with a way of its own. Brushes belong to one of them',
    most: 16,
    initial: [{ moves: 'slides', travel: [0, 0, 200], hinge: [0, 0, 0], axis: [0, 0, 1], angle: 90 }],
  }),
  opens: params.choice(['use', 'touch', 'near', 'wires'], 'use', {
    label: 'Opens by',
    help: 'What a player does to open it; wires always can',
    names: { use: 'Use', touch: 'Touch', near: 'Coming near', wires: 'Wires only' },
  }),
  near: params.length(150, {
    label: 'Notices within',
    help: 'How near a player has to come, in cm',
    min: 1,
    max: 5000,
    shownWhen: (v) => v.opens === 'near',
  }),
  away: params.yesNo(true, {
    label: 'Away from who opens',
    help: 'Leaves that turn open away from the player; otherwise always the way they are drawn',
    shownWhen: (v) => turnsOf(v.leaves as readonly Leaf[]),
  }),
  pace: params.choice(['time', 'speed'], 'time', {
    label: 'Pace by',
    help: 'Whether the time to open is given, or the speed of the leaf that goes farthest',
    names: { time: 'Time', speed: 'Speed' },
  }),
  seconds: params.quantity('s', 1.2, {
    label: 'Opens in',
    help: 'How long it takes to open or close',
    min: 0.05,
    max: 120,
    shownWhen: (v) => v.pace === 'time',
  }),
  speed: params.quantity('cm/s', 160, {
    label: 'Speed',
    help: 'How fast the leaf that goes farthest moves',
    min: 1,
    max: 2000,
    shownWhen: (v) => v.pace === 'speed',
  }),
  ease: easing,
  stays: params.yesNo(false, { label: 'Stays open', help: 'Once open it closes only when it is told to' }),
  wait: params.quantity('s', 3, {
    label: 'Closes after',
    help: 'How long it stands open before it closes',
    min: 0,
    max: 3600,
    shownWhen: (v) => v.stays === false,
  }),
  open: params.yesNo(false, { label: 'Starts open', help: 'It stands open when play begins' }),
  locked: params.yesNo(false, {
    label: 'Starts locked',
    help: 'It opens only after a wire has unlocked it, or with its key',
  }),
  key: params.text('', {
    label: 'Key',
    help: 'Name of the key that a player has to carry; none when empty',
    longest: 60,
  }),
  price: params.integer(0, {
    label: 'Price',
    help: 'Tokens that a player pays to open it the first time',
    max: 100_000,
  }),
  ...movingSounds('hinge', 'thud'),
  soundRefused: params.reference('sound', {
    label: 'Sound when refused',
    help: 'What is heard when a player cannot open it',
    initial: 'denied',
  }),
  ...obstruction('back'),
  ...lightSpecs,
} satisfies ParamSpecs;

type Door = Thing<typeof specs>;

const turnsOf = (leaves: readonly Leaf[]): boolean => leaves.some((l) => l.moves === 'turns');

/** Where a leaf is when it is open by a share of its way; `sense` −1 turns it against how it is drawn. */
function leafPose(at: Vec3, l: Leaf, share: number, sense: number): Pose {
  if (share === 0) return AT_REST;
  return l.moves === 'turns'
    ? rotationAbout(l.axis, l.angle * share * sense, add(at, l.hinge))
    : translation(scale(l.travel, share));
}

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

const behaviour: Behaviour<Door> = {
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

/** A hinge farther than this (cm) beside its leaf is likely a mistake. */
const HINGE_OFF = 12;

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

/** The way that a point of a leaf takes, from the door. */
const sweptLine = (door: Door, l: Leaf, from: Vec3): SpaceLine =>
  Array.from({ length: l.moves === 'turns' ? 17 : 2 }, (_, i, all = l.moves === 'turns' ? 16 : 1) =>
    sub(applyAffine(leafPose(door.at, l, i / all, 1), add(door.at, from)), door.at),
  );

export const door = defineKind({
  kind: 'door',
  label: 'Door',
  help: 'Leaves made of brushes or props that slide or turn until they are open. All leaves open together.',
  family: 'What moves',
  standsAt: 0,
  body: 'brushes',
  parted: {
    list: 'leaves',
    moved: (entry, by) => ({ ...(entry as Leaf), hinge: sub((entry as Leaf).hinge, by) }),
    slides: (entry) => ((entry as Leaf).moves === 'slides' ? (entry as Leaf).travel : null),
    slid: (entry, travel) => ({ ...(entry as Leaf), travel }),
  },
  facing: compass('Leads towards'),
  grip: 100,
  closes: true,
  tries: 'toggle',
  likely: 'open',
  params: specs,
  firstBody: { min: [-4, -56, 0], max: [4, 56, 208] },
  signals: {
    opens: { label: 'opens', help: 'It begins to open' },
    opened: { label: 'is open', help: 'It is fully open' },
    closes: { label: 'closes', help: 'It begins to close' },
    closed: { label: 'is closed', help: 'It is fully closed' },
    refused: { label: 'is refused', help: 'A player could not open it: it is locked, or a key or tokens are missing' },
    obstructed: obstructedSignal,
  },
  actions: {
    open: { label: 'open', help: 'Opens, unless it is locked' },
    close: { label: 'close', help: 'Closes' },
    toggle: { label: 'open or close', help: 'Opens when it is closed, closes when it is open' },
    lock: { label: 'lock', help: 'Players and wires cannot open it any more' },
    unlock: { label: 'unlock', help: 'Takes the lock away' },
  },
  symbol: ({ turn }, view) => {
    const [x, y] = seenFrom(view, facing(turn + 90));
    const [u, v] = seenFrom(view, facing(turn));
    const at = (along: number, out: number) => [x * along + u * out, y * along + v * out] as const;
    return [
      { circle: 12, fill: 'paper' },
      { line: [at(-11, -2), at(-11, 2)] },
      { line: [at(11, -2), at(11, 2)] },
      { line: [at(-11, 0), at(-3, 0)], fill: 'ink' },
      { line: [at(3, 0), at(11, 0)], fill: 'ink' },
      { line: [at(-3, 0), at(-7, 4)] },
      { line: [at(3, 0), at(7, 4)] },
      { circle: 2.5, fill: 'paper' },
    ];
  },
  mark: ({ turn }) => floorMark(turn),
  reach: (door, around) =>
    door.values.leaves.flatMap((l, k) => {
      const middle = middleOfPart(around, door, k);
      return [
        { line: sweptLine(door, l, middle) },
        ...(l.moves === 'turns' ? [{ line: [-1, 1].map((s) => add(l.hinge, scale(normalize(l.axis), s * 60))) }] : []),
      ];
    }),
  handles: (door, around) => [
    facingHandle(door.turn, 60),
    ...door.values.leaves.flatMap((l, k) => {
      const middle = middleOfPart(around, door, k);
      const name = door.values.leaves.length > 1 ? ` ${k + 1}` : '';
      const change = (to: Partial<Leaf>) => ({
        params: { leaves: door.values.leaves.map((other, i) => (i === k ? { ...other, ...to } : other)) },
      });
      return l.moves === 'slides'
        ? [
            partHandle({
              id: `travel ${k}`,
              label: `Leaf${name} slides by`,
              from: middle,
              way: l.travel,
              part: k,
              hides: true,
              change: (travel) => change({ travel }),
            }),
          ]
        : [
            {
              ...partHandle({
                id: `hinge ${k}`,
                label: `Hinge of leaf${name}`,
                from: [0, 0, 0],
                way: l.hinge,
                change: (hinge) => change({ hinge }),
              }),
              line: false,
            },
            turnHandle({
              id: `angle ${k}`,
              label: `Leaf${name} turns by`,
              origin: door.at,
              hinge: l.hinge,
              axis: l.axis,
              from: middle,
              degrees: l.angle,
              part: k,
              change: (angle) => change({ angle }),
            }),
          ];
    }),
  ],
  ...asks,
  sounds: ({ values: { soundMoves, soundEnds, soundRefused } }) => ({
    opens: soundMoves,
    closes: soundMoves,
    opened: soundEnds,
    closed: soundEnds,
    refused: soundRefused,
  }),
  usable: ({ values }) => values.opens === 'use',
  ...tellsLight,
  flaws: ({ id, at, values }, around) => {
    const empty = values.leaves.flatMap((_, k) => (partBox(around, { id }, k) ? [] : [k + 1]));
    const loose = values.leaves.flatMap((l, k) => {
      const box = partBox(around, { id }, k);
      if (l.moves !== 'turns' || !box || length(l.axis) < 1e-9) return [];
      const axis = normalize(l.axis);
      const off = sub(add(at, l.hinge), boxCenter(box));
      const beside = length(sub(off, scale(axis, dot(off, axis))));
      return beside > length(sub(box.max, box.min)) / 2 + HINGE_OFF ? [k + 1] : [];
    });
    const still = values.leaves.flatMap((l, k) =>
      (l.moves === 'slides' ? length(l.travel) < 0.01 : l.angle === 0 || length(l.axis) < 1e-9) ? [k + 1] : [],
    );
    const said = (ks: number[]) => (values.leaves.length === 1 ? '' : ` ${ks.join(', ')}`);
    return [
      ...(values.leaves.length === 0
        ? [
            {
              code: 'noLeaves',
              severity: 'error' as const,
              text: (name: string) => `${name} has no leaves. Add one, and give it brushes.`,
            },
          ]
        : []),
      ...(empty.length
        ? [
            {
              code: 'emptyLeaf',
              severity: 'error' as const,
              text: (name: string) =>
                `${name}: leaf${said(empty)} has no brushes or props. Select some and the door, then Add to the door.`,
            },
          ]
        : []),
      ...(loose.length
        ? [
            {
              code: 'looseHinge',
              severity: 'warning' as const,
              text: (name: string) =>
                `${name}: the hinge of leaf${said(loose)} lies off it. Drag the hinge to the edge of the leaf.`,
            },
          ]
        : []),
      ...(still.length
        ? [
            {
              code: 'stillLeaf',
              severity: 'warning' as const,
              text: (name: string) =>
                `${name}: leaf${said(still)} goes nowhere. Drag its arrow, or type how far it moves.`,
            },
          ]
        : []),
    ];
  },
  behaviour,
});

/** What a new door with some leaves is. */
export const doorWith = (leaves: readonly Leaf[]) => ({
  kind: door.kind,
  params: { ...initialValues(specs), leaves },
});
