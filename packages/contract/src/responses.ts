import type { BuildReport, PlanDrawing, Preset, Stage } from '@yesca/core';

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
  readonly drawing: PlanDrawing | null;
}

export interface MapCard {
  readonly id: string;
  readonly projectId: string;
  readonly name: string;
  readonly version: number;
  readonly updatedAt: string;
  readonly summary: MapSummary;
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
