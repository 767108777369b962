import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  buildLevel,
  findingsOf,
  modelsToRead,
  PRESETS,
  probe,
  runScript,
  writeMap,
  type Finding,
  type MapDocument,
  type MeshLookup,
  type Preset,
  type Vec3,
} from '@yesca/core';
import { propFacts } from '@yesca/stock';
import { orUnusable, readMap, readPoints, readScript, Unusable, writeText } from './input.ts';
import { shipped } from './shipped.ts';

const placeText = (at?: Vec3): string => (at ? ` at ${at.map((c) => Math.round(c * 10) / 10).join(' ')}` : '');
const line = (f: Finding): string => `${f.severity} ${f.code}${placeText(f.at)}: ${f.text}`;

/** 1 when a message is worse than information. */
const exitCode = (messages: readonly { severity: string }[]): number =>
  messages.some((m) => m.severity !== 'info') ? 1 : 0;

/** What props that ship look like, of those alone that a build of a map has to know. */
async function shippedMeshes(doc: MapDocument): Promise<MeshLookup> {
  const names = modelsToRead(doc, propFacts, shipped);
  if (names.length === 0) return () => undefined;
  // What reads models is much, and few maps need it.
  const { readMeshes } = await import('@yesca/intake/mesh');
  const file = (name: string) =>
    propFacts(name) && fileURLToPath(new URL(`../../../packages/stock/assets/props/${name}.glb`, import.meta.url));
  const meshes = await readMeshes(names, file);
  return (name) => meshes.get(name);
}

export async function runBuild(path: string, { preset, out }: { preset: string; out: string }): Promise<number> {
  if (!(preset in PRESETS)) throw new Unusable(`There is no preset ${preset}. Choose sketch, review or final.`);
  const doc = readMap(path);
  const wishes = { materials: shipped, props: propFacts, meshes: await shippedMeshes(doc) };
  const { bytes, report } = buildLevel(doc, preset as Preset, {}, wishes);
  mkdirSync(out, { recursive: true });
  writeFileSync(join(out, 'level.yescalevel'), bytes);
  writeFileSync(join(out, 'report.json'), `${JSON.stringify(report, null, 2)}\n`);
  for (const message of report.messages) console.log(line(message));
  console.log(
    `${report.counts.surfaces} surfaces, ${report.counts.cells} cells, ${report.counts.luxels} luxels, ${bytes.length} bytes`,
  );
  return exitCode(report.messages);
}

export function runCheck(path: string, { json }: { json?: boolean }): number {
  const doc = readMap(path);
  const all = findingsOf(doc, shipped, undefined, propFacts).findings;
  if (json) console.log(JSON.stringify(all, null, 2));
  else if (all.length === 0) console.log('Nothing wrong was found.');
  else for (const p of all) console.log(line(p));
  return exitCode(all);
}

/** Does a file of commands to a map and writes what comes out; when one is refused nothing is written. */
export function runEdit(path: string, { script, out }: { script: string; out: string }): number {
  const doc = readMap(path);
  const commands = readScript(script);
  const wishes = { materials: shipped, props: propFacts };
  writeText(
    out,
    orUnusable(script, () => writeMap(runScript(doc, commands, wishes).doc)),
  );
  console.log(`${commands.length} command${commands.length === 1 ? '' : 's'} done.`);
  return 0;
}

export function runProbe(path: string, { points, json }: { points: string; json?: boolean }): number {
  const doc = readMap(path);
  const wanted = readPoints(points);
  // Lighting is asked point by point; the coarsest luxels are enough for the rest.
  const answers = probe(
    doc,
    buildLevel(doc, 'sketch', {}, { visibility: 'full', direct: true, materials: shipped }),
    wanted,
    shipped,
  );
  if (json) console.log(JSON.stringify(answers, null, 2));
  else
    for (const a of answers)
      console.log(
        `${a.at.join(' ')}: ${a.inside}, cell ${a.cell}, sees ${a.sees.length} cells${a.illuminance ? `, ${a.illuminance.map((c) => c.toFixed(2)).join(' ')} lux` : ''}`,
      );
  return 0;
}
