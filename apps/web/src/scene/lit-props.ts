import { chartOfProp, lightOnVertices, verticesLit, type Level } from '@yesca/core';
import type { OnItself } from './own-light.ts';
import { placedProps, type PlacedProp } from './props.ts';

/** The light on themselves of the props of a level. */
export interface LitProps {
  /** How one is lit on itself; null where it is not, or no longer stands as it did when the level was built. */
  readonly of: (prop: PlacedProp) => OnItself | null;
  /** What falls on its vertices or luxels (lux, red, green, blue of each), as lamps shine. */
  readonly falls: (prop: PlacedProp, shares: ReadonlyMap<string, number>) => Float32Array | null;
}

/** Layouts of one level have numbers of their own: the light that is shown may be that of another one soon. */
const told = { levels: 0 };
const PER_LEVEL = 0x10000;

export function litProps(level: Level): LitProps {
  const first = told.levels++ * PER_LEVEL;
  const places = new Map((level.meta.props ?? []).map((thing, k) => [thing, k]));
  const built = new Map(placedProps(level.meta.entities).map((prop) => [prop.thing, prop]));
  const known = new WeakMap<PlacedProp, OnItself | null>();
  const find = (prop: PlacedProp): OnItself | null => {
    const place = places.get(prop.thing) ?? -1;
    const then = built.get(prop.thing);
    if (verticesLit(level, place) === 0 || then?.model !== prop.model) return null;
    if (then.pose.some((c, k) => c !== prop.pose[k])) return null;
    const chart = chartOfProp(level, place);
    return chart ? { ...chart, number: first + chart.number } : 'vertices';
  };
  const of = (prop: PlacedProp): OnItself | null => {
    let own = known.get(prop);
    if (own === undefined) known.set(prop, (own = find(prop)));
    return own;
  };
  return {
    of,
    falls: (prop, shares) => (of(prop) ? lightOnVertices(level, places.get(prop.thing)!, shares) : null),
  };
}
