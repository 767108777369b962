import type { Entity } from '../entity/index.ts';
import type { MapDocument } from '../map/index.ts';

/** Things of a map gathered by a name that each is given; null leaves one out. */
export function thingsBy(
  { entities }: Pick<MapDocument, 'entities'>,
  nameOf: (thing: Entity) => string | null,
): Map<string, Entity[]> {
  const out = new Map<string, Entity[]>();
  for (const thing of entities.values()) {
    const name = nameOf(thing);
    if (name === null) continue;
    const list = out.get(name);
    if (list) list.push(thing);
    else out.set(name, [thing]);
  }
  return out;
}
