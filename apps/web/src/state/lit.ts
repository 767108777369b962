import { create } from 'zustand';
import {
  brushMark,
  EVEN,
  layerColors,
  lightMark,
  mixLayers,
  modelOf,
  readLedger,
  readLevel,
  reflects,
  shines,
  type Brush,
  type Entity,
  type Ledger,
  type Level,
  type LightMix,
  type MapDocument,
  type MaterialLookup,
  type Share,
} from '@yesca/core';
import type { BuildRow } from '@yesca/contract';
import { getFile } from '../api/client.ts';
import { useEditor } from './editor.ts';
import { keptStore } from './kept.ts';

/** A level with the light of each of its lamps, which the Eye shows. */
export interface Lit {
  readonly mapId: string;
  /** Where it comes from: a build, or light that follows the map. */
  readonly from: 'build' | 'live';
  readonly preset: string;
  readonly level: Level;
  readonly ledger: Ledger;
  readonly mix: LightMix;
  /** Whether a brush is still as it was lit. */
  readonly covers: (brush: Brush) => boolean;
}

export interface LitState {
  readonly lit: Lit | null;
  /** The build that is shown beside it, and how far from the left (0 to 1) it reaches; null for none. */
  readonly beside: { readonly build: string; readonly lit: Lit } | null;
  readonly split: number;
  /** How far light is that is being found, 0 to 1; null when none is. */
  readonly done: number | null;
  /** The map whose last build was asked for its light, whatever came of it. */
  readonly asked: string | null;
  /** How often the light that is shown was mixed: what reads it reads it again. */
  readonly mixed: number;
  /** The lamps that shine alone for now, and those that are put out for now: the map does not change by it. */
  readonly alone: ReadonlySet<string>;
  readonly out: ReadonlySet<string>;
}

/** What of the map's light is shown. */
export const useLit = create<LitState>()(() => ({
  lit: null,
  beside: null,
  split: 0.5,
  done: null,
  asked: null,
  mixed: 0,
  alone: new Set(),
  out: new Set(),
}));

/** How light is shown and found, kept in this browser. */
export const useLitOptions = keptStore<{
  /** Light follows the map; else the Eye shows that of the last build. */
  readonly live: boolean;
  /** Brighter or darker than Play, in stops. */
  readonly stops: number;
  /** Whether surfaces are striped that are too dark or too bright for play, and from which lux. */
  readonly banded: boolean;
  readonly dark: number;
  readonly bright: number;
  /** Whether lines between luxels are shown. */
  readonly luxels: boolean;
  /** Whether relief, highlights and reflections are seen, here and in Play. */
  readonly relief: boolean;
  /** Whether decals that are left out where little is to be drawn are seen, here and in Play. */
  readonly details: boolean;
  /** How much light may take of a level, MB: what takes more is said. */
  readonly budget: number;
  /** Whether, beside another build, the picture is by how much light differs. */
  readonly difference: boolean;
}>(
  'lit',
  {
    live: true,
    stops: 0,
    banded: false,
    dark: 2,
    bright: 2000,
    luxels: false,
    relief: true,
    details: true,
    budget: 32,
    difference: false,
  },
  ['luxels', 'relief', 'details', 'budget', 'difference', 'live', 'stops', 'banded', 'dark', 'bright'],
);

/** Reads what was lit. */
export function readLit(
  files: { readonly level: Uint8Array; readonly ledger: Uint8Array },
  about: Pick<Lit, 'mapId' | 'from' | 'preset'> & { readonly doc?: MapDocument },
): Lit {
  const level = readLevel(files.level);
  const ledger = readLedger(files.ledger);
  const mix = mixLayers(level.meta.pages, new Uint32Array(level.lightTexels.length), ledger.layers);
  const { doc, ...rest } = about;
  return { ...rest, level, ledger, mix, covers: doc ? (b) => doc.brushes.get(b.id) === b : coversByMark(ledger) };
}

/** The light of a build, from the server. Throws what {@link getFile} throws. */
export async function litOfBuild(
  mapId: string,
  { id, preset }: Pick<BuildRow, 'id' | 'preset'>,
  signal: AbortSignal,
): Promise<Lit> {
  const [level, ledger] = await Promise.all([
    getFile(`/api/builds/${id}/level`, signal),
    getFile(`/api/builds/${id}/ledger`, signal),
  ]);
  return readLit({ level, ledger }, { mapId, from: 'build', preset });
}

/** What of the light of the map that is worked on is known. */
export function useMapLit(): Lit | null {
  const mapId = useEditor((s) => s.mapId);
  return useLit((s) => (s.lit?.mapId === mapId ? s.lit : null));
}

/** What the light of a level takes of it, bytes: its pages, and the layers of lamps that play can switch. */
export const lightBytes = ({
  lightTexels,
  lightWays,
  layerTexels,
  reflectionTexels,
}: Pick<Level, 'lightTexels' | 'lightWays' | 'layerTexels' | 'reflectionTexels'>): number =>
  (lightTexels.length + lightWays.length + layerTexels.length + reflectionTexels.length) * 4;

/** Whether anything but the even light shines: what is dark is seen by the light of the workroom instead. */
export const hasLight = ({ ledger }: Lit): boolean => ledger.layers.some((l) => l.thing !== EVEN);

/** Tells brushes that are still as they were built by their marks, each of which is worked out once. */
function coversByMark({ brushes }: Ledger): Lit['covers'] {
  const marks = new Map(brushes.map(({ id, mark }) => [id, mark]));
  const known = new WeakMap<Brush, boolean>();
  return (brush) => {
    let covered = known.get(brush);
    if (covered === undefined) known.set(brush, (covered = marks.get(brush.id) === brushMark(brush)));
    return covered;
  };
}

/** Whether light that was found for a map is that of another state of it, but for strengths and colours. */
export function isOf({ ledger, level, covers }: Lit, doc: MapDocument): boolean {
  if (propMarks(level.meta.entities) !== propMarks(doc.entities.values())) return false;
  if (ledger.brushes.length !== doc.brushes.size) return false;
  for (const brush of doc.brushes.values()) if (!covers(brush)) return false;
  const marks = new Map(ledger.layers.map((l) => [l.thing, l.mark]));
  // A lamp that reaches nothing has no layer; where it cannot be told whose the light is it is found anew.
  return [...doc.entities.values()].every((e) => !shines(e) || marks.get(e.id) === lightMark(doc, e));
}

/** What of a prop changes the light. */
const propMark = ({ at, turn, params }: Entity): string => JSON.stringify([at, turn, params]);

const propMarks = (things: Iterable<Entity>): string =>
  [...things]
    .flatMap((e) => (modelOf(e) ? [`${e.id} ${propMark(e)}`] : []))
    .sort()
    .join();

/** With what colour each light shines: as the map is now, but for those that are put out or alone for now. */
export function sharesNow(
  { ledger }: Lit,
  doc: MapDocument,
  materials: MaterialLookup,
  { alone, out }: Pick<LitState, 'alone' | 'out'>,
): ReadonlyMap<string, Share> {
  const shares = new Map<string, Share>(layerColors(ledger.layers, doc, materials));
  for (const name of shares.keys()) if (out.has(name) || (alone.size > 0 && !alone.has(name))) shares.set(name, 0);
  return shares;
}

/** With what colour each light shone when it was built. */
export const sharesThen = ({ ledger, level }: Lit, materials: MaterialLookup): ReadonlyMap<string, Share> =>
  layerColors(
    ledger.layers,
    { entities: new Map(level.meta.entities.map((e) => [e.id, e])), brushes: new Map(), settings: level.meta.settings },
    materials,
  );

/** Whether all that a document's light and reflections depend on but strengths and colours is what it is in another one. */
export function sameButStrengths(a: MapDocument, b: MapDocument): boolean {
  if (a === b) return true;
  if (a.brushes !== b.brushes && !sameItems(a.brushes, b.brushes)) return false;
  // A sky that did not shine has no light that could be turned up.
  if ((a.settings.skyNits ?? 0) > 0 !== (b.settings.skyNits ?? 0) > 0) return false;
  if (a.settings.bounced !== b.settings.bounced) return false;
  if (a.entities === b.entities) return true;
  const of = (doc: MapDocument) =>
    [...doc.entities.values()]
      .filter((e) => shines(e) || reflects(e) || modelOf(e))
      .map((e) => `${e.id} ${modelOf(e) ? propMark(e) : shines(e) ? lightMark(doc, e) : e.at.join(' ')}`)
      .sort()
      .join();
  return of(a) === of(b);
}

function sameItems<T>(a: ReadonlyMap<string, T>, b: ReadonlyMap<string, T>): boolean {
  if (a.size !== b.size) return false;
  for (const [id, item] of a) if (b.get(id) !== item) return false;
  return true;
}
