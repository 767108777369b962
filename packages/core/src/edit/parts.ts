import type { Brush } from '../brush/index.ts';
import { entityKind } from '../entity/index.ts';
import { aroundIn, partsOf, propBrushesOf, propsOf, ridersOf, type MapDocument } from '../map/index.ts';
import type { PropLookup } from '../prop/index.ts';
import { transformBrush } from '../surface/index.ts';
import type { Picked } from './brushes.ts';

/** What is picked, with the brushes of picked things and what rides on them, and the things all of whose brushes are picked. */
export function withParts(doc: MapDocument, picked: Picked): Picked {
  const { brushes = new Set<string>(), entities = new Set<string>() } = picked;
  const owners = new Set([...brushes].flatMap((id) => doc.brushes.get(id)?.owner?.id ?? []));
  const whole = [...owners].filter((id) =>
    partsOf(doc, id)
      .flat()
      .every((b) => brushes.has(b.id)),
  );
  const things = new Set([...entities, ...whole]);
  for (const id of [...things]) for (const rider of ridersOf(doc, id)) things.add(rider.id);
  const owned = [...things].flatMap((id) => partsOf(doc, id).flat());
  if (things.size === entities.size && owned.every((b) => brushes.has(b.id))) return picked;
  return { ...picked, brushes: new Set([...brushes, ...owned.map((b) => b.id)]), entities: things };
}

/** What belonged to things that are gone and stays by itself, or what things lost all their parts, as a sentence; null when neither. */
export function partsLeft(before: MapDocument, after: MapDocument): string | null {
  const name = (id: string) => {
    const e = before.entities.get(id)!;
    return e.name ?? `the ${entityKind(e.kind)?.label.toLowerCase() ?? 'thing'}`;
  };
  const said: string[] = [];
  for (const e of before.entities.values()) {
    const parts = partsOf(before, e.id).flat();
    if (parts.length === 0) continue;
    const left = parts.filter((b) => after.brushes.has(b.id)).length;
    if (!after.entities.has(e.id) && left > 0)
      said.push(
        `${left === 1 ? 'A brush' : `${left} brushes`} of ${name(e.id)} ${left === 1 ? 'stays' : 'stay'} and no longer ${left === 1 ? 'moves' : 'move'}.`,
      );
    else if (after.entities.has(e.id) && left === 0) said.push(`${name(e.id)} has no brushes left.`);
  }
  const riders = [...before.entities.values()].filter(
    (e) => e.carrier && !after.entities.has(e.carrier.id) && after.entities.has(e.id),
  );
  if (riders.length)
    said.push(
      `${riders.length === 1 ? 'A thing' : `${riders.length} things`} that rode on it ${riders.length === 1 ? 'stays' : 'stay'} where ${riders.length === 1 ? 'it is' : 'they are'}.`,
    );
  const text = said.slice(0, 3).join(' ');
  return text ? text[0]!.toUpperCase() + text.slice(1) : null;
}

/** The brushes of a thing, those of its props with them, at the places where it comes to rest besides where they were drawn. */
export function endsOf(doc: MapDocument, thing: string, lookup: PropLookup): Brush[] {
  const e = doc.entities.get(thing);
  const ends = e && entityKind(e.kind)?.behaviour?.ends?.(e, aroundIn(doc));
  if (!ends) return [];
  const [own, props] = [partsOf(doc, thing), propsOf(doc, thing)];
  const parts = Array.from({ length: Math.max(own.length, props.length) }, (_, k) => [
    ...(own[k] ?? []),
    ...(props[k] ?? []).flatMap((prop) => propBrushesOf(prop, lookup)),
  ]);
  return ends.flatMap((poses) =>
    parts.flatMap((brushes, k) => (poses[k] ? brushes.map((b) => transformBrush(b, poses[k]!, true)) : [])),
  );
}
