/** Makes the shipped stock anew: `npm run stock`. Pictures, their list and the demo maps are written beside this package's sources. */
import { writeFileSync } from 'node:fs';
import { PNG } from 'pngjs';
import { writeMap } from '@yesca/core';
import { firstRoom } from './maps/first-room.ts';
import { tidemill } from './maps/tidemill/tidemill.ts';
import { makePattern } from './materials/noise.ts';
import { RECIPES, type Recipe } from './materials/recipes.ts';
import type { Material } from './materials/types.ts';

const SIZE = 512;

function render(recipe: Recipe, seed: number): { png: Buffer; material: Material } {
  const pattern = makePattern(seed);
  const image = new PNG({ width: SIZE, height: SIZE, colorType: 2 });
  const sum = [0, 0, 0];
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const color = recipe.paint(pattern, x / SIZE, y / SIZE);
      for (let c = 0; c < 3; c++) {
        const value = Math.max(0, Math.min(255, Math.round(color[c]!)));
        image.data[(y * SIZE + x) * 4 + c] = value;
        sum[c]! += value;
      }
      image.data[(y * SIZE + x) * 4 + 3] = 255;
    }
  const average = `#${sum.map((s) => Math.round(s / SIZE / SIZE).toString(16).padStart(2, '0')).join('')}`; // prettier-ignore
  const { name, label, tags } = recipe;
  return {
    png: PNG.sync.write(image, { colorType: 2, inputHasAlpha: true, deflateLevel: 9 }),
    material: { name, label, tags, width: SIZE, height: SIZE, texelsPerCm: 2, average },
  };
}

const here = new URL('..', import.meta.url);
const materials = RECIPES.map((recipe, i) => {
  const { png, material } = render(recipe, i + 1);
  writeFileSync(new URL(`assets/materials/${recipe.name}.png`, here), png);
  return material;
});
writeFileSync(
  new URL('src/materials/list.ts', here),
  `// Written by \`npm run stock\`.\nimport type { Material } from './types.ts';\n\nexport const MATERIALS: readonly Material[] = [\n${materials.map((m) => `  ${JSON.stringify(m)},`).join('\n')}\n]; // prettier-ignore\n`,
);
for (const [file, doc] of [
  ['first-room', firstRoom()],
  ['halyard-tidemill', tidemill()],
] as const) {
  writeFileSync(new URL(`assets/maps/${file}.yesca.json`, here), writeMap(doc));
  console.log(`${doc.name}: ${doc.brushes.size} brushes, ${doc.entities.size} entities`);
}
console.log(`${materials.length} materials of ${SIZE} × ${SIZE}`);
