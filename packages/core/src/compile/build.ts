import type { Brush } from '../brush/index.ts';
import { castsShadow, floods, reflects } from '../entity/index.ts';
import type { Vec3 } from '../math/index.ts';
import {
  doDue,
  doDueOn,
  keptOr,
  type AnyJob,
  type DueJob,
  type KeptResults,
  type StageControl,
  type Thread,
} from '../jobs/index.ts';
import {
  billboardShades,
  hasProps,
  partsOf,
  propBrushes,
  sceneryOf,
  stillBrushes,
  switchedLamps,
  withoutScenery,
  type MapDocument,
  type Scenery,
} from '../map/index.ts';
import type { MeshLookup, PropLookup } from '../prop/index.ts';
import type { MaterialLookup } from '../surface/index.ts';
import { FINENESS, type Fineness } from './fineness.ts';
import {
  packLedger,
  fileProps,
  vertexLit,
  packLevel,
  writeLevel,
  type Ledger,
  type Level,
  type LevelScenery,
} from './level/index.ts';
import {
  LIGHTING_JOBS,
  lightLevel,
  LightFinder,
  lightProbes,
  NO_PROBES,
  roundGains,
  skyGlow,
  traceReflections,
  vertexLight,
  type Lighting,
  type LightingInput,
} from './lighting/index.ts';
import type { FarAway } from './messages.ts';
import { makeReport, type BuildReport } from './report.ts';
import { buildStructure, isSealed, withBodies, type Seed, type Structure } from './structure/index.ts';
import { seeLevel, SIGHT_JOBS, type Visibility } from './visibility/index.ts';

export const STAGES = ['structure', 'visibility', 'lighting', 'level'] as const;
export type Stage = (typeof STAGES)[number];

export interface BuildControl {
  readonly signal?: StageControl['signal'];
  readonly progress?: (stage: Stage, done: number) => void;
  /** Results of earlier builds, of whatever map. */
  readonly kept?: KeptResults;
}

export interface BuildResult {
  readonly level: Level;
  readonly bytes: Uint8Array;
  /** Null unless it was asked for. */
  readonly ledger: Ledger | null;
  readonly report: BuildReport;
  readonly structure: Structure;
  readonly visibility: Visibility | null;
  readonly lighting: Lighting;
}

/** The points from which the inside is flooded. */
export const seedsOf = (doc: MapDocument): Seed[] =>
  [...doc.entities.values()]
    .filter(floods)
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map(({ id, at }) => ({ id, at }));

export interface BuildWishes {
  /** The full visibility, whatever the preset. */
  readonly visibility?: 'full';
  /** What faces reflect and glow. Absent: all reflect half of what falls on them. */
  readonly materials?: MaterialLookup;
  /** What is known of props. Absent: they stand as boxes. */
  readonly props?: PropLookup;
  /** What props look like: of those of `modelsToRead`. Absent: none are lit at their vertices, and decals on them are left to who draws them. */
  readonly meshes?: MeshLookup;
  /** Direct light alone: nothing bounces. */
  readonly direct?: boolean;
  /** The ledger as well: what each light gives. */
  readonly ledger?: boolean;
  /** False: without the light of what moves, which only play needs. */
  readonly probes?: false;
}

/**
 * Builds a level from a map: structure, visibility, lighting, level. Pure and deterministic. A map that leaks gives a level
 * that can be walked and is lit, but not culled. Throws `Cancelled` when the signal is raised.
 */
export function buildLevel(
  doc: MapDocument,
  preset: Fineness,
  control: BuildControl = {},
  wishes: BuildWishes = {},
): BuildResult {
  return doDue(buildingAll(doc, preset, control, wishes));
}

/** As {@link buildLevel}, with what can be cut into shards done on threads. The same bytes come out. */
export function buildLevelOn(
  threads: { readonly open: () => Thread; readonly count: number },
  doc: MapDocument,
  preset: Fineness,
  control: BuildControl = {},
  wishes: BuildWishes = {},
): Promise<BuildResult> {
  return doDueOn(threads.open, threads.count, buildingAll(doc, preset, control, wishes));
}

/** The jobs of a build: what a thread that helps with builds has to know. */
export const BUILD_JOBS: readonly AnyJob[] = [...SIGHT_JOBS, ...LIGHTING_JOBS];

/** What of the first stage a scenery is told to be. */
const FAR_PART = 0.9;

/** The map, and its distant scenery as a level within the level. What is made while one works shows the map alone. */
function* buildingAll(
  doc: MapDocument,
  preset: Fineness,
  control: BuildControl,
  wishes: BuildWishes,
): Generator<DueJob, BuildResult, unknown> {
  const scenery = 'quick' in FINENESS[preset] ? null : sceneryOf(doc);
  const far = scenery && (yield* buildingScenery(scenery, preset, control, wishes));
  const rest = withoutScenery(doc);
  const progress: BuildControl['progress'] = (stage, done) =>
    control.progress?.(stage, far && stage === 'structure' ? FAR_PART + (1 - FAR_PART) * done : done);
  return yield* building(rest, preset, { ...control, progress }, wishes, seedsOf(rest), far);
}

/** A scenery that is built: the level of it alone, and from where it is seen. */
interface BuiltScenery extends LevelScenery {
  readonly brushes: number;
  readonly built: BuildResult;
}

const farAway = ({ brushes, built: { bytes, report } }: BuiltScenery): FarAway => ({
  brushes,
  triangles: report.counts.triangles,
  bytes: bytes.length,
  messages: report.messages,
});

function* buildingScenery(
  { alone, region, at, from, scale }: Scenery,
  preset: Fineness,
  control: BuildControl,
  wishes: BuildWishes,
): Generator<DueJob, BuiltScenery, unknown> {
  const { min, max } = region;
  // From where it is seen from, and down from its sky wherever the ground may be.
  const places: Vec3[] = [at, ...[min, max].flatMap((x) => [min, max].map((y): Vec3 => [x[0], y[1], max[2]]))];
  const inner = (p: Vec3): Vec3 => p.map((c, i) => Math.min(max[i]! - 1, Math.max(min[i]! + 1, c))) as unknown as Vec3;
  const seeds = places.map((p, i) => ({ id: String(i), at: inner(p) }));
  const quiet: BuildControl = {
    signal: control.signal,
    kept: control.kept,
    progress: (stage, done) =>
      control.progress?.('structure', (FAR_PART * (STAGES.indexOf(stage) + done)) / STAGES.length),
  };
  const { materials, props, meshes, direct } = wishes;
  // Nothing of it moves: light at places is there for its props alone.
  const probes = hasProps(alone) ? undefined : false;
  const built = yield* building(alone, preset, quiet, { materials, props, meshes, direct, probes }, seeds, null);
  return { at, from, scale, brushes: alone.brushes.size, built };
}

function* building(
  doc: MapDocument,
  preset: Fineness,
  control: BuildControl,
  wishes: BuildWishes,
  seeds: readonly Seed[],
  far: BuiltScenery | null,
): Generator<DueJob, BuildResult, unknown> {
  const { kept } = control;
  const options = { ...FINENESS[preset], ...(wishes.visibility ? { cheap: false } : {}) };
  /** It does without what is seen only on a second look. */
  const glimpse = 'guess' in options;
  const stage = (name: Stage): StageControl => {
    control.progress?.(name, 0);
    return { signal: control.signal, progress: (done) => control.progress?.(name, done), kept };
  };
  const still = stillBrushes(doc);
  const shape = kept ? kept.hash(JSON.stringify([still, seeds])) : '';
  const structureStage = stage('structure');
  const world = keptOr(
    kept,
    () => `structure ${shape}`,
    () => buildStructure(still, seeds, structureStage),
  );
  const structure = withBodies(world, doc);
  control.progress?.('structure', 1);
  const visibility = !isSealed(structure)
    ? null
    : yield* sight(world, still, options.cheap, shape, stage('visibility'));
  control.progress?.('visibility', 1);
  const { ambientColor, ambientLux, bounced } = doc.settings;
  const materials = wishes.materials ?? (() => undefined);
  const props = propBrushes(doc, wishes.props ?? (() => undefined));
  const input: LightingInput = {
    structure,
    visibility,
    brushes: [...doc.brushes.values(), ...props, ...billboardShades(doc, materials)].filter(
      (b) => !b.owner || castsShadow(doc.entities.get(b.owner.id)),
    ),
    entities: [...doc.entities.values()],
    switched: switchedLamps(doc),
    region: (thing) => partsOf(doc, thing).flat(),
    ledger: wishes.ledger,
    materials,
    options: {
      luxel: options.luxel,
      quick: 'quick' in options,
      guess: glimpse,
      samples: options.samples,
      links: wishes.direct ? 0 : options.links,
      ambientColor,
      ambientLux,
      bounced,
      sky: skyGlow(doc.settings),
    },
  };
  const lighting = yield* lightLevel(input, stage('lighting'));
  control.progress?.('lighting', 1);
  const packing = stage('level');
  let made: LightFinder | null = null;
  // A map without probes and round things needs none.
  const finder = () => (made ??= new LightFinder(input, lighting));
  const probes = wishes.probes === false ? NO_PROBES : lightProbes(input, finder());
  const gains = glimpse
    ? structure.surfaces.map(() => null)
    : roundGains(structure.surfaces, (p) => (finder().isOpen(p) ? finder().parts(p) : null));
  const views = [...doc.entities.values()]
    .filter((e) => !glimpse && reflects(e))
    .sort((a, b) => (a.id < b.id ? -1 : 1));
  const reflections = traceReflections(
    structure,
    views.map(({ id, at }) => ({ thing: id, at })),
    finder,
    packing,
  );
  const filed = fileProps(doc, structure, wishes.props ?? (() => undefined));
  const lit = vertexLit(doc, filed, input.brushes, wishes.meshes ?? (() => undefined), options.luxel);
  const light = vertexLight(lit, finder, packing);
  const level = packLevel(
    doc,
    { solids: props, filed, lit, light, meshes: wishes.meshes },
    preset,
    structure,
    visibility,
    lighting,
    probes,
    gains,
    reflections,
    input.materials,
    far,
  );
  const bytes = writeLevel(level);
  control.progress?.('level', 1);
  const report = makeReport({
    doc,
    preset,
    structure,
    visibility,
    lighting,
    reflections,
    level,
    filed,
    bytes: bytes.length,
    materials: wishes.materials,
    far: far && farAway(far),
  });
  const ledger = wishes.ledger ? packLedger(doc, structure, lighting) : null;
  return { level, bytes, ledger, structure, visibility, lighting, report };
}

/** The visibility of a world, unless it is kept. */
function* sight(
  world: Structure,
  solids: readonly Brush[],
  cheap: boolean,
  shape: string,
  control: StageControl,
): Generator<DueJob, Visibility, unknown> {
  const name = `visibility ${cheap} ${shape}`;
  const known = control.kept?.get(name) as Visibility | undefined;
  if (known) return known;
  const made = yield* seeLevel(world, { cheap, solids }, control);
  control.kept?.put(name, made);
  return made;
}
