import type { Vec3 } from '../../math/index.ts';
import type { LitChart } from './direct-job.ts';
import type { Source } from './lights.ts';

/** Lights that are dimmed, coloured and switched together. */
export interface Group {
  readonly name: string;
  /** Play can switch it. */
  readonly switched: boolean;
  /** Of the strongest of its colours' parts what the others are: what white light is multiplied by. */
  readonly tint: Vec3;
  readonly strength: number;
  /** Of white light what comes straight to all surfaces, lm. */
  readonly flux: number;
  /** The sources, with their strength without the tint. */
  readonly parts: ReadonlyMap<string, Vec3>;
}

/** So many lights go each by itself; of more the weaker go together, since each costs a pass over all links. */
const MOST_APART = 64;

/** What the light of those is counted to that go together. No id of a thing holds a space. */
export const OTHERS = 'other lights';

/** In a cm². */
const SQUARE_METRES = 1e-4;

/** The surface that is open to light, m². */
export const openArea = (lit: readonly LitChart[]): number =>
  lit.reduce((sum, { patches }) => sum + patches.area.reduce((n, a) => n + a, 0), 0) * SQUARE_METRES;

/**
 * The lights by groups, strongest first: each that can be switched or is strong by itself, the others together. Those that reach nothing
 * are left out.
 */
export function groupsOf(lit: readonly LitChart[], sources: readonly Source[], switched: ReadonlySet<string>): Group[] {
  const power = new Map<string, number>();
  for (const { shines, patches } of lit)
    for (const { source, means } of shines) {
      let sum = 0;
      for (let p = 0; p < means.length; p++) sum += means[p]! * patches.area[p]!;
      power.set(source, (power.get(source) ?? 0) + sum);
    }
  const byName = new Map<string, Source[]>();
  for (const s of sources) {
    const list = byName.get(s.group);
    if (list) list.push(s);
    else byName.set(s.group, [s]);
  }
  const powerOf = (list: readonly Source[]) =>
    list.reduce((n, { id, strength }) => n + (power.get(id) ?? 0) * Math.max(...strength), 0);
  const ranked = [...byName]
    .map(([name, list]) => ({ name, list, power: powerOf(list), switched: switched.has(name) }))
    .sort((a, b) => b.power - a.power || (a.name < b.name ? -1 : 1));
  const shining = ranked.filter((g) => g.power > 0 || g.switched);
  const always = shining.filter((g) => !g.switched);
  const apart = always.slice(0, MOST_APART);
  const rest = always.slice(MOST_APART).flatMap((g) => g.list);
  const alone = [...apart, ...shining.filter((g) => g.switched)].map(({ name, list, switched, power }): Group => {
    const strength = Math.max(...list[0]!.strength);
    const tint = list[0]!.strength.map((c) => (strength > 0 ? c / strength : 0)) as unknown as Vec3;
    const parts = new Map(list.map(({ id }): [string, Vec3] => [id, [strength, strength, strength]]));
    return { name, switched, tint, strength, flux: power * SQUARE_METRES, parts };
  });
  const together: Group = {
    name: OTHERS,
    switched: false,
    tint: [1, 1, 1],
    strength: 1,
    flux: always.slice(MOST_APART).reduce((sum, g) => sum + g.power, 0) * SQUARE_METRES,
    parts: new Map(rest.map((s) => [s.id, s.strength])),
  };
  return rest.length > 0 ? [...alone, together] : alone;
}
