import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { maskOf } from '@yesca/core';
import { MATERIALS } from './list.ts';

/** Writes which parts of the pictures of materials that are not solid hide what is behind them, from the pictures in a folder. */
export async function writeMasks(pictures: URL): Promise<void> {
  const masks: Record<string, string> = {};
  for (const { name, solidity } of MATERIALS) {
    if (solidity === 'solid') continue;
    const { data, info } = await sharp(fileURLToPath(new URL(`${name}.albedo.webp`, pictures)))
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    masks[name] = maskOf(data, info.width, info.height);
  }
  writeFileSync(
    new URL('masks.generated.ts', import.meta.url),
    `// Written by \`npm run stock\`.\nexport const MASKS: Readonly<Record<string, string>> = ${JSON.stringify(masks, null, 2)}; // prettier-ignore\n`,
  );
}
