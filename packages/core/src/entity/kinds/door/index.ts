import { initialValues } from '../../../params/index.ts';
import { asks } from '../../areas.ts';
import { add, applyAffine, boxCenter, dot, length, normalize, scale, sub, type Vec3 } from '../../../math/index.ts';
import { facingHandle, partHandle, turnHandle } from '../../handles.ts';
import { compass, defineKind } from '../../kind.ts';
import { middleOfPart, partBox } from '../../parts.ts';
import { floorMark, obstructedSignal, tellsLight } from '../../moving.ts';
import { facing, seenFrom, type SpaceLine } from '../../strokes.ts';
import { specs, leafPose, type Door, type Leaf } from './params.ts';
import { behaviour } from './motion.ts';

/** A hinge farther than this (cm) beside its leaf is likely a mistake. */
const HINGE_OFF = 12;

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
