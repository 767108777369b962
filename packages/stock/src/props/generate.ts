import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { glbOf } from './gltf.ts';
import { factsOf } from './mesh.ts';
import { thumbOfPieces } from './thumb.ts';
import { PROP_RECIPES } from './recipes/index.ts';

/** Writes the props that ship as files, and the list of them. Gives how many. */
export async function writeProps(here: URL): Promise<number> {
  const files = new URL('assets/props/', here);
  mkdirSync(files, { recursive: true });
  for (const file of readdirSync(files)) rmSync(new URL(file, files));
  for (const recipe of PROP_RECIPES) {
    writeFileSync(new URL(`${recipe.name}.webp`, files), await thumbOfPieces(recipe.pieces));
    writeFileSync(new URL(`${recipe.name}.glb`, files), await glbOf(recipe, new URL('assets/materials/', here)));
  }
  const props = PROP_RECIPES.map((recipe) => {
    return { ...factsOf(recipe), tags: recipe.tags };
  });
  // As text: it is read faster than it would be as code.
  writeFileSync(
    new URL('src/props/list.generated.ts', here),
    `// Written by \`npm run stock\`.\nexport const LIST = JSON.parse(\n  String.raw\`[\n${props.map((p) => JSON.stringify(p)).join(',\n')}\n]\`,\n) as unknown;\n`,
  );
  return props.length;
}
