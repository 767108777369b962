import type { MessagePort } from 'node:worker_threads';
import {
  buildLevelOn,
  modelsToRead,
  parseMap,
  STAGES,
  writeLedger,
  type BuildReport,
  type MaterialFacts,
  type Preset,
  type PropFacts,
  type Stage,
} from '@yesca/core';
import { readMeshes } from '@yesca/intake/mesh';
import { openKept } from './kept.ts';
import { THREADS } from './threads.ts';

export interface BuildTask {
  readonly text: string;
  readonly preset: Preset;
  /** All that the project knows: what their faces reflect and glow. */
  readonly materials: readonly MaterialFacts[];
  readonly props: readonly PropFacts[];
  /** Where the models of props lie, by their names. */
  readonly models: Readonly<Record<string, string>>;
  readonly port: MessagePort;
  /** The file of what earlier builds made. */
  readonly kept: string;
}

export interface BuildOutcome {
  readonly bytes: Uint8Array;
  readonly ledger: Uint8Array;
  readonly report: BuildReport;
  readonly times: Partial<Record<Stage, number>>;
}

/** Steps of progress smaller than this are not worth a message. */
const STEP = 0.02;

/** Builds one map in a worker thread and tells its progress over the port. */
export default async function build({
  text,
  preset,
  materials,
  props,
  models: files,
  port,
  kept: file,
}: BuildTask): Promise<BuildOutcome> {
  const began: Partial<Record<Stage, number>> = {};
  const times: Partial<Record<Stage, number>> = {};
  let told = { stage: '' as Stage | '', done: 0 };
  const kept = openKept(file);
  const known = new Map(materials.map((m) => [m.name, m]));
  const models = new Map(props.map((p) => [p.name, p]));
  const control = {
    kept,
    progress: (stage: Stage, done: number) => {
      began[stage] ??= performance.now();
      times[stage] = performance.now() - began[stage];
      if (stage === told.stage && done < 1 && done - told.done < STEP) return;
      told = { stage, done };
      port.postMessage({ stage, done });
    },
  };
  const doc = parseMap(text);
  const lookups = { materials: (name: string) => known.get(name), props: (name: string) => models.get(name) };
  const meshes = await readMeshes(modelsToRead(doc, lookups.props, lookups.materials), (name) => files[name]);
  const wishes = { ...lookups, meshes: (name: string) => meshes.get(name), ledger: true };
  const { bytes, ledger, report } = await buildLevelOn(THREADS, doc, preset, control, wishes);
  kept?.save();
  for (const stage of STAGES) times[stage] = Math.round(times[stage] ?? 0);
  return { bytes, ledger: writeLedger(ledger!), report, times };
}
