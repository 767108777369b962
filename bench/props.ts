import { NodeIO } from '@gltf-transform/core';
import { readFileSync } from 'node:fs';
import {
  addBrushes,
  boxSolid,
  dressSolid,
  emptyMap,
  placeEntity,
  placeProps,
  scatterProps,
  type MapDocument,
} from '@yesca/core';
import { readModel } from '@yesca/intake';
import { PROPS, propFacts } from '@yesca/stock';
import { best } from './table.ts';

/** A floor of so many cm. */
function floor(side: number): MapDocument {
  const solid = boxSolid({ min: [0, 0, -16], max: [side, side, 0] });
  return placeEntity(addBrushes(emptyMap('Floor'), [dressSolid(solid, 'floor', 'oak-plank')]), 'spawn', [
    side - 96,
    side - 96,
    0,
  ]);
}

/** Two thousand props of forty kinds on a floor, the first before the others. */
export function furnished(): MapDocument {
  const kinds = PROPS.slice(0, 40);
  const props = Array.from({ length: 2000 }, (_, k) => ({
    model: k === 0 ? 'crate' : kinds[k % kinds.length]!.name,
    at: (k === 0 ? [200, 200, 0] : [400 + (k % 50) * 160, 400 + Math.floor(k / 50) * 160, 0]) as [
      number,
      number,
      number,
    ],
    turn: (k * 37) % 360,
  }));
  return placeProps(floor(8800), props, propFacts).doc;
}

/** Models read, checked, cut into convex parts, pictured and written anew, beside their files only read: ms for all. */
export async function measureModels(count: number): Promise<{ ours: number; peer: number }> {
  const models = Array.from({ length: count }, (_, k) => {
    const { name } = PROPS[k % PROPS.length]!;
    const path = new URL(`../packages/stock/assets/props/${name}.glb`, import.meta.url);
    return { name: `${name}.glb`, bytes: new Uint8Array(readFileSync(path)) };
  });
  let began = performance.now();
  for (const model of models) await readModel({ ...model, beside: () => Promise.resolve(null) });
  const ours = performance.now() - began;
  const io = new NodeIO();
  began = performance.now();
  for (const { bytes } of models) await io.readBinary(bytes);
  return { ours, peer: performance.now() - began };
}

/** About five thousand props strewn over a floor: ms, and how many. */
export function measureScatter(): { ours: number; count: number } {
  const doc = floor(8000);
  const top = doc.brushes
    .get('floor')!
    .faces.find((f) => f.loop.every((v) => doc.brushes.get('floor')!.vertices[v]![2] === 0))!;
  let count = 0;
  const ours = best(() => {
    const wishes = { models: ['stones', 'reeds'], spacing: 96, seed: 7, spread: 0.3 };
    count = scatterProps(doc, [{ brush: 'floor', face: top.id }], wishes, propFacts).made.entities.length;
  });
  return { ours, count };
}
