/** Makes the shipped stock anew: `npm run stock`. Pictures, their list and the demo maps are written beside this package's sources. */
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { SOUNDS, writeMap, type SoundName } from '@yesca/core';
import { soundOf } from './sounds/recipes.ts';
import { wavFile } from './sounds/synth.ts';
import { firstRoom } from './maps/first-room.ts';
import { ropewalk } from './maps/ropewalk.ts';
import { tidemill } from './maps/tidemill/tidemill.ts';
import { RECIPES } from './materials/recipes/index.ts';
import { renderMaterial } from './materials/render.ts';
import type { Material } from './materials/types.ts';
import { writeProps } from './props/generate.ts';
import { writeMasks } from './materials/masks.ts';

const here = new URL('..', import.meta.url);
const pictures = new URL('assets/materials/', here);

const [only] = process.argv.slice(2);
if (!only) {
  mkdirSync(pictures, { recursive: true });
  for (const file of readdirSync(pictures)) rmSync(new URL(file, pictures));
  const materials: Material[] = [];
  for (const [i, recipe] of RECIPES.entries()) {
    const { material, files } = await renderMaterial(recipe, i + 1);
    for (const [kind, data] of Object.entries(files))
      writeFileSync(new URL(`${recipe.name}.${kind}.webp`, pictures), data);
    materials.push(material);
  }
  writeFileSync(
    new URL('src/materials/list.ts', here),
    `// Written by \`npm run stock\`.\nimport type { Material } from './types.ts';\n\nexport const MATERIALS: readonly Material[] = [\n${materials.map((m) => `  ${JSON.stringify(m)},`).join('\n')}\n]; // prettier-ignore\n`,
  );
  console.log(`${materials.length} materials`);
}
if (only !== '--maps') await writeMasks(pictures);
if (only === '--masks') process.exit(0);
if (only !== '--maps') console.log(`${await writeProps(here)} props`);
const sounds = new URL('assets/sounds/', here);
mkdirSync(sounds, { recursive: true });
for (const name of Object.keys(SOUNDS) as SoundName[])
  writeFileSync(new URL(`${name}.wav`, sounds), wavFile(soundOf(name)));
console.log(`${Object.keys(SOUNDS).length} sounds`);
for (const [file, doc] of [
  ['first-room', firstRoom()],
  ['halyard-tidemill', tidemill()],
  ['ropewalk', ropewalk(false)],
  ['ropewalk-finished', ropewalk(true)],
] as const) {
  writeFileSync(new URL(`assets/maps/${file}.yesca.json`, here), writeMap(doc));
  console.log(`${doc.name}: ${doc.brushes.size} brushes, ${doc.entities.size} entities`);
}
