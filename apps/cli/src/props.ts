import { boxSize, COLLISION_WORDS, type PropFacts } from '@yesca/core';
import { ModelRefusal, openModels, readModel, type ModelFiles, type ReadModel } from '@yesca/intake';
import { Unusable } from './input.ts';

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
    `  collides as ${COLLISION_WORDS[collision]}${parts}${held}; sounds like ${substance}${lights.length ? `; ${lights.length === 1 ? 'a lamp comes' : `${lights.length} lamps come`} with it` : ''}`,
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
  const refuse = (file: string, { code, message }: Pick<ModelRefusal, 'code' | 'message'>): void => {
    refused++;
    if (json) found.push({ file, imports: false, code, message });
    else console.log(`${file} would not be imported (${code}): ${message}`);
  };
  const check = async (file: string, open: () => Promise<ModelFiles>): Promise<void> => {
    const model = await readModel(await open(), metres === undefined ? {} : { scale: metres });
    const { scale, excess, notes, facts } = model;
    if (json) found.push({ file, imports: true, scale, excess, notes, prop: facts });
    else console.log(told(model).join('\n'));
  };
  /** What is refused is told, and the next one is looked at. */
  const trying = async (file: string, work: () => Promise<void>): Promise<void> => {
    try {
      await work();
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (error instanceof ModelRefusal) refuse(file, error);
      else if (code?.startsWith('E'))
        throw new Unusable(`${file} cannot be read (${code}). Give the path of an existing file.`);
      else throw error;
    }
  };
  for (const path of paths)
    await trying(path, async () => {
      const shelf = await openModels(path);
      const within = (name: string) => (shelf.models.length > 1 ? `${path}/${name}` : path);
      for (const r of shelf.refused) refuse(within(r.file), r);
      try {
        for (const { name, open } of shelf.models) await trying(within(name), () => check(within(name), open));
      } finally {
        shelf.close();
      }
    });
  if (json) console.log(JSON.stringify(found, null, 2));
  return refused > 0 ? 1 : 0;
}
