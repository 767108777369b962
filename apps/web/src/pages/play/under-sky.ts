import {
  emptyMap,
  layerColors,
  mixLayers,
  readLedger,
  scale,
  takeSky,
  type Ledger,
  type Level,
  type LightMix,
  type MapSettings,
  type Share,
  type Vec3,
} from '@yesca/core';
import { getFile } from '../../api/client.ts';
import { materialFacts } from '../../state/library.ts';

/** The light of a level apart by what it comes from. */
export interface LedgerLight {
  readonly layers: Ledger['layers'];
  readonly mix: LightMix;
}

/** A level's look under some sky. */
export interface UnderSky {
  readonly mix: LightMix;
  readonly settings: MapSettings;
  /** With what colour each light shines that is lit. */
  readonly colors: ReadonlyMap<string, Vec3>;
}

/** With what colours lights shine under a sky, each with so much of its strength: those that are not named with all of it. */
export const sharesUnder = ({ colors }: UnderSky, lit: ReadonlyMap<string, number>): ReadonlyMap<string, Share> =>
  new Map([...colors].map(([thing, color]) => [thing, scale(color, lit.get(thing) ?? 1)]));

/** The light of a build, from the server. Throws what {@link getFile} throws. */
export async function ledgerLight(level: Level, build: string): Promise<LedgerLight> {
  const { layers } = readLedger(await getFile(`/api/builds/${build}/ledger`, new AbortController().signal));
  return { layers, mix: mixLayers(level.meta.pages, new Uint32Array(level.lightTexels.length), layers) };
}

/** How a level looks under a sky that people know, told by its id, without a build; null for its own. */
export function underSky({ meta }: Level, { layers, mix }: LedgerLight, sky: string | null): UnderSky {
  const built = {
    ...emptyMap(meta.name),
    entities: new Map(meta.entities.map((e) => [e.id, e])),
    settings: meta.settings,
  };
  const doc = sky === null ? built : takeSky(built, sky);
  return { mix, settings: doc.settings, colors: layerColors(layers, doc, materialFacts, () => 1) };
}
