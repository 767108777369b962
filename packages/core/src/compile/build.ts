import { brushBounds, DRAWN_ROLES, type Brush } from '../brush/index.ts';
import { castsShadow, entityName, floods, reflects, type Entity } from '../entity/index.ts';
import { boxCenter, type Vec3 } from '../math/index.ts';
import { BUILD_RULES, runChecks, type Finding, type Leak } from '../checks/index.ts';
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
  litPlaces,
  propBrushes,
  sceneryOf,
  stillBrushes,
  switchedLamps,
  SKY_SIDES,
  withoutScenery,
  type MapDocument,
  type Scenery,
} from '../map/index.ts';
import type { MeshLookup, PropLookup } from '../prop/index.ts';
import type { MaterialLookup } from '../surface/index.ts';
import {
  gatesOf,
  packLedger,
  fileProps,
  vertexLit,
  verticesLit,
  packLevel,
  writeLevel,
  type Ledger,
  type FiledProp,
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
  glaring,
  MOST_REFLECTIONS,
  skyGlow,
  traceReflections,
  vertexLight,
  type Lighting,
  type LightingInput,
  type Reflections,
} from './lighting/index.ts';
import { kernelStarts } from './tracing/index.ts';
import {
  areasOf,
  buildStructure,
  isSealed,
  placesOf,
  withBodies,
  type Seed,
  type Structure,
} from './structure/index.ts';
import { countBits, provenShare, seeLevel, SIGHT_JOBS, type Visibility } from './visibility/index.ts';

export const PRESETS = {
  sketch: { luxel: 32, samples: 1, links: 36, cheap: true },
  review: { luxel: 16, samples: 2, links: 64, cheap: false },
  final: { luxel: 8, samples: 4, links: 64, cheap: false },
} as const;
export type Preset = keyof typeof PRESETS;

/** How fine a build is: a preset, or a glimpse of or a glance at the light while the map is worked on. */
const FINENESS = {
  ...PRESETS,
  glimpse: { luxel: 64, samples: 1, links: 0, cheap: true, quick: true, guess: true },
  glance: { luxel: 32, samples: 1, links: 16, cheap: false, quick: true },
} as const;
export type Fineness = keyof typeof FINENESS;

export const STAGES = ['structure', 'visibility', 'lighting', 'level'] as const;
export type Stage = (typeof STAGES)[number];

/** What a build found out, for people and for `report.json`. */
export interface BuildReport {
  readonly map: string;
  readonly preset: Fineness;
  readonly sealed: boolean;
  readonly leak: Leak | null;
  readonly messages: readonly Finding[];
  readonly counts: {
    readonly brushes: number;
    readonly surfaces: number;
    readonly triangles: number;
    readonly cells: number;
    readonly portals: number;
    readonly luxels: number;
    readonly pages: number;
    readonly bytes: number;
    /** Mean share of the inside cells that a cell sees, 0 to 1. */
    readonly seen: number;
    /** Share of the pairs of cells in sight of one another that a line proves; absent of old builds and where none were looked for. */
    readonly proven?: number;
  };
  /** After each bounce how much of the light could still come, as a share of what was given off at first. Absent of old builds. */
  readonly bounces?: readonly number[];
  /** From how many places reflections are seen, and what they take in the level file. Absent of old builds. */
  readonly reflections?: { readonly places: number; readonly bytes: number };
  /** How many props stand there, how many triangles they are together, and at how many places their light is found. Absent of old builds. */
  readonly props?: { readonly count: number; readonly triangles: number; readonly lit: number };
  /** Luxels on faces of each material, the most first, by what the faces are part of. Absent of old builds. */
  readonly light?: readonly LightShare[];
}

/** What of the lightmaps goes to one material. */
export interface LightShare {
  readonly material: string;
  readonly structure: number;
  readonly detail: number;
  readonly moving: number;
}

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
  const report = makeReport(
    doc,
    preset,
    structure,
    visibility,
    lighting,
    reflections,
    level,
    filed,
    bytes.length,
    wishes.materials,
    far,
  );
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

function makeReport(
  doc: MapDocument,
  preset: Fineness,
  structure: Structure,
  visibility: Visibility | null,
  lighting: Lighting,
  reflections: Reflections,
  level: Level,
  filed: readonly FiledProp[],
  bytes: number,
  materials?: MaterialLookup,
  far: BuiltScenery | null = null,
): BuildReport {
  const inside = structure.cells.filter((c) => c.inside).length;
  return {
    map: doc.name,
    preset,
    sealed: visibility !== null,
    leak: structure.leak,
    messages: [
      ...messagesOf(doc, structure, visibility, lighting, materials),
      ...(far ? ofScenery(far) : []),
      ...manyProbes(doc),
      ...glare(doc, glaring(structure, lighting, reflections, materials ?? (() => undefined))),
    ],
    counts: {
      brushes: doc.brushes.size,
      surfaces: structure.surfaces.length,
      triangles: level.index.length / 3,
      cells: inside,
      portals: level.portalCells.length / 2,
      luxels: lighting.luxels,
      pages: lighting.pages.length,
      bytes,
      seen: visibility && inside ? countBits(visibility.rows) / (inside * inside) : 1,
      ...(visibility?.searched ? { proven: provenShare(visibility) } : {}),
    },
    bounces: lighting.left,
    reflections: {
      places: reflections.places.length,
      bytes: reflections.texels.byteLength + reflections.ofSurface.byteLength,
    },
    props: {
      count: filed.length,
      triangles: filed.reduce((sum, p) => sum + p.triangles, 0),
      lit: filed.reduce((sum, { thing }, k) => sum + litOf(level, k, doc.entities.get(thing)!), 0),
    },
    light: lightShares(doc, structure, lighting),
  };
}

/** At how many places the light of a prop was found. */
const litOf = (level: Level, k: number, thing: Entity): number => verticesLit(level, k) || litPlaces(thing).length;

/** What of a scenery is told beside its map: how much it is, and what does not shine. */
const ofScenery = ({ brushes, built: { bytes, report } }: BuiltScenery): Finding[] => [
  {
    id: 'build.scenery',
    code: 'build.scenery',
    severity: 'info',
    text: `The distant scenery is ${brushes - SKY_SIDES} brushes and ${report.counts.triangles} triangles, ${Math.ceil(bytes.length / 1024)} kB of the level.`,
  },
  ...report.messages.filter(({ code }) => code === 'build.lightLost' || code === 'build.glowHidden'),
];

function manyProbes({ entities }: MapDocument): Finding[] {
  const count = [...entities.values()].filter(reflects).length;
  const text = `Of ${count} reflection probes ${MOST_REFLECTIONS} are used: the picture of all would be larger than graphics cards take. Remove those that see much the same.`;
  return count > MOST_REFLECTIONS
    ? [{ id: 'build.manyProbes', code: 'build.manyProbes', severity: 'warning', text }]
    : [];
}

const glare = (doc: MapDocument, things: readonly string[]): Finding[] =>
  things.flatMap((id): Finding[] => {
    const thing = doc.entities.get(id);
    if (!thing) return [];
    return [
      {
        id: `build.glare ${id}`,
        code: 'build.glare',
        severity: 'info',
        text: `${entityName(thing)} sees something far brighter than the dark shiny floor that reflects it, so the floor glares. Move it, choose another for the floor, or light the floor.`,
        at: thing.at,
        entities: [id],
      },
    ];
  });

function lightShares({ brushes }: MapDocument, { surfaces, bodyFirst }: Structure, { places }: Lighting): LightShare[] {
  const shares = new Map<string, { structure: number; detail: number; moving: number }>();
  surfaces.forEach(({ material, brush }, i) => {
    const place = places[i];
    if (!place) return;
    let share = shares.get(material);
    if (!share) shares.set(material, (share = { structure: 0, detail: 0, moving: 0 }));
    const part = i >= bodyFirst[0]! ? 'moving' : brushes.get(brush)?.role === 'structure' ? 'structure' : 'detail';
    share[part] += place.chart.width * place.chart.height;
  });
  const all = (s: Omit<LightShare, 'material'>) => s.structure + s.detail + s.moving;
  return [...shares]
    .map(([material, share]) => ({ material, ...share }))
    .sort((a, b) => all(b) - all(a) || (a.material < b.material ? -1 : 1));
}

/** What the checks that concern a build say of its structure, and what only a build finds out. */
function messagesOf(
  doc: MapDocument,
  structure: Structure,
  visibility: Visibility | null,
  lighting: Lighting,
  materials?: MaterialLookup,
): Finding[] {
  const say = (severity: Finding['severity'], code: string, text: string): Finding => ({
    id: code,
    severity,
    code,
    text,
  });
  const out: Finding[] = [];
  if (doc.brushes.size === 0)
    out.push(
      say('error', 'build.empty', 'The map has no brushes. Draw a room first: tool Room, then drag on the Plan.'),
    );
  else if (![...doc.brushes.values()].some((b) => b.role === 'structure'))
    out.push(
      say(
        'error',
        'build.noStructure',
        'No brush has the role Structure, so nothing can be sealed. Set the walls to Structure.',
      ),
    );
  out.push(
    ...runChecks(
      doc,
      {
        leak: structure.leak,
        leaks: structure.leaks,
        gates: structure.leak
          ? []
          : gatesOf(doc, areasOf(structure, doc.brushes.values()), materials ?? (() => undefined)),
        placeOf: placesOf(structure),
        materials,
      },
      BUILD_RULES,
    ),
  );
  out.push(...lostLights(doc, structure, lighting, out, materials));
  if (!kernelStarts())
    out.push(
      say(
        'info',
        'build.plain',
        'WebAssembly cannot start here, so the light was found by plain code: it is the same, but takes several times as long.',
      ),
    );
  if (visibility && visibility.fellBack > 0)
    out.push(
      say(
        'info',
        'build.coarse',
        `${visibility.fellBack} portals were too busy and use the coarse visibility. The level is right, but draws a little more than needed.`,
      ),
    );
  if (visibility) out.push(say('info', 'build.sealed', 'The map is sealed.'));
  return out;
}

/** Lights that reach nothing, and faces that glow where nobody sees them; what is said of a light already is not said again. */
function lostLights(
  doc: MapDocument,
  structure: Structure,
  { lost }: Lighting,
  said: readonly Finding[],
  materials?: MaterialLookup,
): Finding[] {
  const known = new Set(said.flatMap((f) => f.entities ?? []));
  const ofThings = lost.flatMap(({ group }): Finding[] => {
    const thing = doc.entities.get(group);
    if (!thing || known.has(group)) return [];
    const text = `${entityName(thing)} reaches nothing: no light of it falls on any surface. Move it, turn it, or remove it.`;
    return [
      {
        id: `build.lightLost ${group}`,
        code: 'build.lightLost',
        severity: 'warning',
        text,
        at: thing.at,
        entities: [group],
      },
    ];
  });
  const drawn = new Set(structure.surfaces.flatMap((s) => s.brushes.map((brush) => `${brush} ${s.material}`)));
  const hidden = [...doc.brushes.values()].flatMap((brush): Finding[] => {
    const faces = brush.faces.filter((f) => f.show === undefined && (materials?.(f.material)?.glow ?? 0) > 0);
    if (!DRAWN_ROLES.has(brush.role) || faces.length === 0) return [];
    if (faces.some((f) => drawn.has(`${brush.id} ${f.material}`))) return [];
    const text = 'A face that glows is hidden: solids cover it, or it looks out of the map. Move it into the open.';
    const id = `build.glowHidden ${brush.id}`;
    return [
      {
        id,
        code: 'build.glowHidden',
        severity: 'warning',
        text,
        at: boxCenter(brushBounds(brush)),
        brushes: [brush.id],
      },
    ];
  });
  return [...ofThings, ...hidden];
}
