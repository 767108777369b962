import { params, type ParamSpecs } from '../../params/index.ts';
import {
  ATTENDS,
  regionFlaw,
  regionMark,
  regionSymbol,
  switchActions,
  switched,
  withInside,
  type Attended,
} from '../areas.ts';
import type { Behaviour } from '../behaviour.ts';
import { facingHandle } from '../handles.ts';
import { compass, defineKind, type Thing } from '../kind.ts';
import { facing, seenFrom } from '../strokes.ts';

const specs = {
  heals: params.yesNo(false, { label: 'Heals', help: 'Who comes to it has full health again' }),
} satisfies ParamSpecs;

const behaviour: Behaviour<Thing<typeof specs>> = {
  begin: () => ATTENDS,
  step: ({ at, turn, values }, memory, happenings, moment) => {
    let now = memory as Attended;
    let { inside } = now;
    for (const h of happenings)
      if (h.what === 'action') now = switched(now, h.action);
      else if (h.what === 'inside' && now.on && !inside.includes(h.by)) {
        // Whoever has been here begins here again until they come to another one.
        moment.begins(h.by, at, turn);
        if (values.heals) moment.harm(h.by, -Infinity);
        moment.signal('reached', h.by);
        inside = [...inside, h.by];
      }
    const there = happenings.flatMap((h) => (h.what === 'inside' ? [h.by] : []));
    const kept = inside.filter((k) => there.includes(k));
    return withInside(now, kept);
  },
};

export const checkpoint = defineKind({
  kind: 'checkpoint',
  label: 'Checkpoint',
  help: 'Who has been in it begins again at its place, looking as it faces, when their health is gone.',
  family: 'Regions',
  standsAt: 0,
  body: 'zone',
  facing: compass('Looks towards'),
  params: specs,
  firstBody: { min: [-96, -96, 0], max: [96, 96, 192] },
  signals: { reached: { label: 'is reached', help: 'Somebody comes to it' } },
  actions: switchActions,
  symbol: ({ turn }, view) => {
    const [x, y] = seenFrom(view, facing(turn));
    return regionSymbol(
      {
        line: [
          [-3, -5],
          [-3, 6],
          [5, 3],
          [-3, 0.5],
        ],
      },
      {
        line: [
          [x * 9, y * 9],
          [x * 16, y * 16],
        ],
      },
    );
  },
  mark: ({ turn }) => regionMark(turn),
  handles: ({ turn }) => [facingHandle(turn, 60)],
  flaws: regionFlaw,
  behaviour,
});
