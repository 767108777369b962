import { availableParallelism } from 'node:os';
import { appendFile, readFile, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import pLimit from 'p-limit';
import { readManifest, type MaterialManifest } from '../packs/manifest.ts';
import { decodePicture, type Decoded } from './decode.ts';
import { takeApart, type FileName } from './names.ts';
import { isZip, LIMITS, PACK_LIST, unpack, type Refused, type Room, type UploadFile } from '@yesca/intake';
import { OUTCOMES, type DecodeTask, type Kept, type Outcome } from './outcomes.ts';

interface Found {
  readonly file: UploadFile;
  readonly name: FileName;
  readonly listed?: MaterialManifest;
}

/** Files larger than this (bytes) are not held in memory beside each other. */
const LARGE = 4 * 1024 * 1024;

/**
 * Unpacks and decodes an upload in a process of its own: nothing of it is trusted. Each result is a line of a file as soon as
 * it is there, so that nothing good is lost when the process has to be ended.
 */
export async function decodeUpload({ folder, files, done, skip }: DecodeTask): Promise<void> {
  const tell = (outcome: Outcome) => appendFile(join(folder, OUTCOMES), `${JSON.stringify(outcome)}\n`);
  const refused: Refused[] = [];
  const room: Room = { entries: LIMITS.entries, bytes: LIMITS.unpacked };
  // Single files first: an archive with too much in it must not crowd them out.
  const all: UploadFile[] = [];
  const archives: { name: string; path: string }[] = [];
  for (const file of files) {
    if (await isZip(file.path)) archives.push(file);
    else if (room.entries-- > 0)
      all.push({ name: file.name, size: (await stat(file.path)).size, read: () => readFile(file.path) });
    else
      refused.push({
        file: file.name,
        code: 'upload.entries',
        message: `More than ${LIMITS.entries} files at once. Import the rest in a second go.`,
      });
  }
  const listed = new Map<string, MaterialManifest>();
  const models = new Set<string>();
  for (const archive of archives) {
    const inside = await unpack(archive.name, archive.path, room);
    refused.push(...inside.refused);
    for (const entry of inside.files) {
      if (entry.name !== PACK_LIST) all.push(entry);
      else {
        const text = await entry.read().catch(() => new Uint8Array());
        const manifest = readManifest(new TextDecoder().decode(text));
        if ('code' in manifest) refused.push({ file: `${archive.name}/${PACK_LIST}`, ...manifest });
        else {
          for (const m of manifest.materials) listed.set(m.albedo, m);
          for (const p of manifest.props) models.add(p.model);
        }
      }
    }
  }

  // Normal and roughness pictures belong to the picture of the same name in the same folder, or to the one a list names them for.
  const byKey = new Map<string, Found>();
  const sides = new Map<string, UploadFile>();
  const key = (n: FileName) => [...n.folders, n.stem].join('/').toLowerCase();
  const named = new Set([...listed.values()].flatMap((m) => [m.normal, m.roughness]));
  for (const file of all) {
    // Its models are props.
    if (models.has(file.name)) continue;
    const name = takeApart(file.name);
    if (listed.has(file.name)) byKey.set(file.name, { file, name, listed: listed.get(file.name) });
    else if (named.has(file.name)) sides.set(file.name, file);
    else if (name.kind === 'albedo')
      byKey.set(`${key(name)} ${byKey.has(key(name)) ? file.name : ''}`.trim(), { file, name });
    else sides.set(`${key(name)} ${name.kind}`, file);
  }
  const take = (k: string): UploadFile | undefined => {
    const file = sides.get(k);
    sides.delete(k);
    return file;
  };
  let count = 0;
  const keep = async (picture: Decoded, id: string): Promise<Kept> => {
    const write = async (data: Uint8Array, kind: string) => {
      const name = `${id}-${kind}.webp`;
      await writeFile(join(folder, name), data);
      return name;
    };
    return { ...picture, picture: await write(picture.picture, 'picture'), thumb: await write(picture.thumb, 'thumb') };
  };
  const one = async (k: string, { file, name, listed: list }: Found): Promise<void> => {
    const id = `m${count++}`;
    const bad: Refused[] = [];
    const decode = async (part: UploadFile | undefined, kind: string): Promise<Kept | undefined> => {
      if (!part) return undefined;
      let data: Uint8Array;
      try {
        if (part.size > LIMITS.file) data = new Uint8Array(LIMITS.file + 1);
        else data = await part.read();
      } catch {
        bad.push({
          file: part.name.slice(0, 200),
          code: 'zip.broken',
          message: 'This file of the archive cannot be read to its end. Pack it again.',
        });
        return undefined;
      }
      const picture = await decodePicture({ name: part.name, data });
      if (!('code' in picture)) return keep(picture, `${id}-${kind}`);
      bad.push(picture);
      return undefined;
    };
    const [itsNormal, itsRoughness] = [
      take(list?.normal ?? `${key(name)} normal`),
      take(list?.roughness ?? `${key(name)} roughness`),
    ];
    if (done.includes(k)) return;
    if (skip.includes(k)) {
      await tell({
        key: k,
        refused: [
          {
            file: file.name,
            code: 'image.tooHeavy',
            message: 'Decoding this picture took more memory or time than there is. Make it smaller.',
          },
        ],
      });
      return;
    }
    await tell({ begun: k, file: file.name });
    const albedo = await decode(file, 'albedo');
    if (!albedo) {
      return tell({ key: k, refused: bad });
    }
    const [normal, roughness] = [await decode(itsNormal, 'normal'), await decode(itsRoughness, 'roughness')];
    await tell({
      key: k,
      refused: bad,
      material: { file: file.name, name, albedo, normal, roughness, ...(list ? { listed: list } : {}) },
    });
  };
  // Few at once, and never more pixels together than one picture may have; large files one after another.
  const limit = pLimit(Math.min(4, availableParallelism()));
  const large = pLimit(1);
  await Promise.all(
    [...byKey].map(([k, item]) =>
      item.file.size > LARGE ? large(() => limit(() => one(k, item))) : limit(() => one(k, item)),
    ),
  );
  for (const file of sides.values())
    refused.push({
      file: file.name,
      code: 'image.alone',
      message:
        'A normal or roughness picture came without the picture it belongs to. Import both together under the same name.',
    });
  await tell({ end: refused });
}
