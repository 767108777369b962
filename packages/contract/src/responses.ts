import type { BuildReport, Finding, Preset, Sealing, Stage } from '@yesca/core';

/** Every refusal of the server: a stable code and a sentence that says what to do. */
export interface ErrorBody {
  readonly code: string;
  readonly message: string;
  /** Where in the input the trouble lies. */
  readonly place?: string;
}

/** What a card on the Shelf shows of a map. */
export interface MapSummary {
  readonly brushes: number;
  readonly entities: number;
  /** How many faces have each material. Maps stored before this was kept lack it. */
  readonly materials?: Readonly<Record<string, number>>;
  /** How many decals and billboards show each. Maps stored before this was kept lack it. */
  readonly pictures?: Readonly<Record<string, number>>;
}

export interface MapCard {
  readonly id: string;
  readonly projectId: string;
  readonly name: string;
  readonly version: number;
  readonly updatedAt: string;
  readonly summary: MapSummary;
  /** Address of its plan (a `PlanDrawing` of core as JSON); another one when the plan changes. */
  readonly drawing: string | null;
  readonly lastBuild: {
    readonly id: string;
    readonly preset: Preset;
    readonly sealed: boolean;
    readonly endedAt: string;
  } | null;
}

export interface ProjectCard {
  readonly id: string;
  readonly name: string;
  readonly maps: readonly MapCard[];
}

export interface MapBody {
  readonly id: string;
  readonly projectId: string;
  readonly name: string;
  readonly version: number;
  /** The map file's text. */
  readonly document: string;
}

/** What was found out about a map at a version, without building it. */
export interface MapFindings {
  readonly mapId: string;
  readonly name: string;
  readonly version: number;
  readonly sealing: Sealing;
  readonly findings: readonly Finding[];
}

export interface RevisionRow {
  readonly version: number;
  readonly savedAt: string;
  readonly name: string | null;
}

export type BuildStatus = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled' | 'interrupted';

export interface BuildRow {
  readonly id: string;
  readonly mapId: string;
  readonly preset: Preset;
  /** SHA-256 of the map file that was built: whether the map has changed since. */
  readonly content: string;
  readonly status: BuildStatus;
  readonly startedAt: string;
  readonly endedAt: string | null;
  /** Why it failed, as a sentence. */
  readonly error: string | null;
  readonly report: BuildReport | null;
  /** Milliseconds a stage took. */
  readonly times: Partial<Record<Stage, number>>;
  readonly progress: Partial<Record<Stage, number>>;
}

/** A part of a map that is kept in Stock to be placed again. */
export interface AssemblyRow {
  readonly id: string;
  readonly label: string;
  readonly tags: readonly string[];
  readonly brushes: number;
  readonly things: number;
  /** Address of its plan (a `PlanDrawing` of core as JSON); null where it has nothing to draw. */
  readonly drawing: string | null;
}

/** An assembly with its map file's text. */
export interface AssemblyBody extends AssemblyRow {
  readonly document: string;
}

/** A set of imported materials and props: how many there are of each. */
export interface PackRow {
  readonly id: string;
  readonly name: string;
  readonly materials: number;
  readonly props: number;
}

/** What became of an upload, file by file. What was good is kept even when other files were not. */
export interface ImportReport {
  readonly pack: PackRow;
  readonly added: readonly { readonly file: string; readonly name: string; readonly note?: string }[];
  /** Pictures that were there already, and under which name. */
  readonly same: readonly { readonly file: string; readonly name: string }[];
  readonly refused: readonly { readonly file: string; readonly code: string; readonly message: string }[];
}

/** What became of models, file by file. */
export interface PropImportReport {
  /** Where they are; null when nothing was new. */
  readonly pack: PackRow | null;
  readonly added: readonly { readonly file: string; readonly name: string; readonly notes: readonly string[] }[];
  /** Models that were there already, and under which name. */
  readonly same: readonly { readonly file: string; readonly name: string }[];
  readonly refused: readonly { readonly file: string; readonly code: string; readonly message: string }[];
}

/** A map, or an assembly in Stock, that needs something of Stock. */
interface Use {
  readonly mapId: string;
  /** Its name; of an assembly, that it is one. */
  readonly map: string;
}

/** Where a prop stands. */
export interface PropUse extends Use {
  readonly things: number;
}

/** Where a material is used. */
export interface MaterialUse extends Use {
  readonly faces: number;
  /** Decals and billboards that show it. */
  readonly pictures: number;
}
