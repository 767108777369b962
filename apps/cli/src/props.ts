import type { PROP_COLLISIONS } from '@yesca/core';
import { boxSize, type PropFacts } from '@yesca/core';
import { modelInFolder, ModelRefusal, readModel, type ReadModel } from '@yesca/intake';
import { Unusable } from './input.ts';

const COLLIDES: Readonly<Record<(typeof PROP_COLLISIONS)[number], string>> = {
  none: 'nothing',
  box: 'its box',
  hull: 'one convex body',
  hulls: 'its convex parts',
};

const sizeOf = ({ bounds }: PropFacts): string =>
  boxSize(bounds)
    .map((c) => String(Math.round(c * 10) / 10))
    .join(' × ');

/** What a model would be as a prop, in lines. */
function told({ facts, notes, scale, excess, glb }: ReadModel): string[] {
  const { label, triangles, collision, hulls, substance, lights } = facts;
  const parts = hulls.length === 1 ? '' : ` (${hulls.length})`;
  const held =
    excess === null
      ? ''
      : `, which ${hulls.length === 1 ? 'holds' : 'hold'} ${Math.round(excess * 100)} % more than it is`;
  return [
    `${label}: ${sizeOf(facts)} cm, ${triangles} triangles, ${Math.ceil(glb.length / 1024)} kB`,
    `  collides as ${COLLIDES[collision]}${parts}${held}; sounds like ${substance}${lights.length ? `; ${lights.length === 1 ? 'a lamp comes' : `${lights.length} lamps come`} with it` : ''}`,
    ...(scale === 1 ? [] : [`  scale ${scale}`]),
    ...notes.map((note) => `  ${note}`),
  ];
}

/** `yesca props check`: what of models would be imported, and why not. 1 where one would not be. */
export async function runPropsCheck(
  paths: readonly string[],
  { json = false, scale }: { readonly json?: boolean; readonly scale?: string },
): Promise<number> {
  const metres = scale === undefined ? undefined : Number(scale);
  if (metres !== undefined && !(metres > 0))
    throw new Unusable(`--scale must be a number above 0: so many m is one of the model's units. 0.01 is for cm.`);
  const found: object[] = [];
  let refused = 0;
  for (const path of paths) {
    try {
      const model = await readModel(await modelInFolder(path), metres === undefined ? {} : { scale: metres });
      if (json)
        found.push({ file: path, imports: true, scale: model.scale, excess: model.excess, notes: model.notes, prop: model.facts }); // prettier-ignore
      else console.log(told(model).join('\n'));
    } catch (error) {
      if (error instanceof ModelRefusal) {
        refused++;
        if (json) found.push({ file: path, imports: false, code: error.code, message: error.message });
        else console.log(`${path} would not be imported (${error.code}): ${error.message}`);
      } else if ((error as NodeJS.ErrnoException).code?.startsWith('E'))
        throw new Unusable(
          `${path} cannot be read (${(error as NodeJS.ErrnoException).code}). Give the path of an existing file.`,
        );
      else throw error;
    }
  }
  if (json) console.log(JSON.stringify(found, null, 2));
  return refused > 0 ? 1 : 0;
}
