import { availableParallelism } from 'node:os';
import pMap from 'p-map';
import type { MaterialManifest } from '../materials/manifest.ts';
import { readManifest, MANIFEST_NAME } from '../materials/manifest.ts';
import { decodePicture, type Decoded } from '../materials/decode.ts';
import { takeApart, type FileName } from '../materials/names.ts';
import { isZip, LIMITS, unpack, type Refused, type UploadFile } from '../materials/unpack.ts';

/** A material of an upload with its pictures. */
export interface FoundMaterial {
  readonly file: string;
  readonly name: FileName;
  readonly albedo: Decoded;
  readonly normal?: Decoded;
  readonly roughness?: Decoded;
  /** What the pack's own list says of it. */
  readonly listed?: MaterialManifest;
}

export interface DecodedUpload {
  readonly found: readonly FoundMaterial[];
  readonly refused: readonly Refused[];
}

/** Pictures decoded side by side. Few: one of 32 million pixels takes 128 MB while it is worked on. */
const AT_ONCE = Math.min(4, availableParallelism());

/** Unpacks and decodes an upload in a worker thread: nothing of it is trusted. */
export default async function decodeUpload(files: readonly UploadFile[]): Promise<DecodedUpload> {
  const refused: Refused[] = [];
  // Single files first: an archive with too much in it must not crowd them out.
  const all = files.filter((f) => !isZip(f.data));
  const listed = new Map<string, MaterialManifest>();
  for (const file of files.filter((f) => isZip(f.data))) {
    const inside = unpack(file, Math.max(0, LIMITS.entries - all.length));
    refused.push(...inside.refused);
    for (const entry of inside.files) {
      if (entry.name !== MANIFEST_NAME) all.push(entry);
      else {
        const manifest = readManifest(new TextDecoder().decode(entry.data));
        if ('code' in manifest) refused.push({ file: `${file.name}/${MANIFEST_NAME}`, ...manifest });
        else for (const m of manifest.materials) listed.set(m.albedo, m);
      }
    }
  }
  if (all.length > LIMITS.entries) refused.push(...all.splice(LIMITS.entries).map((f) => ({ file: f.name, code: 'upload.entries', message: `More than ${LIMITS.entries} files at once. Import the rest in a second go.` }))); // prettier-ignore

  // Normal and roughness pictures belong to the picture of the same name in the same folder, or to the one a list names them for.
  const byKey = new Map<string, { file: UploadFile; name: FileName; listed?: MaterialManifest }>();
  const sides = new Map<string, UploadFile>();
  const key = (n: FileName) => [...n.folders, n.stem].join('/').toLowerCase();
  const named = new Set([...listed.values()].flatMap((m) => [m.normal, m.roughness]));
  for (const file of all) {
    const name = takeApart(file.name);
    if (listed.has(file.name)) byKey.set(file.name, { file, name, listed: listed.get(file.name) });
    else if (named.has(file.name)) sides.set(file.name, file);
    else if (name.kind === 'albedo')
      byKey.set(`${key(name)} ${byKey.has(key(name)) ? file.name : ''}`.trim(), { file, name }); // prettier-ignore
    else sides.set(`${key(name)} ${name.kind}`, file);
  }
  const take = (k: string): UploadFile | undefined => {
    const file = sides.get(k);
    sides.delete(k);
    return file;
  };
  const outcomes = await pMap(
    byKey.values(),
    async ({ file, name, listed: list }): Promise<{ bad: Refused[]; material?: FoundMaterial }> => {
      const bad: Refused[] = [];
      const decode = async (part: UploadFile | undefined): Promise<Decoded | undefined> => {
        const picture = part && (await decodePicture(part));
        if (!picture || !('code' in picture)) return picture;
        bad.push(picture);
        return undefined;
      };
      const [itsNormal, itsRoughness] = [take(list?.normal ?? `${key(name)} normal`), take(list?.roughness ?? `${key(name)} roughness`)]; // prettier-ignore
      const albedo = await decode(file);
      if (!albedo) return { bad };
      const [normal, roughness] = [await decode(itsNormal), await decode(itsRoughness)];
      return { bad, material: { file: file.name, name, albedo, normal, roughness, ...(list ? { listed: list } : {}) } };
    },
    { concurrency: AT_ONCE },
  );
  const found = outcomes.flatMap((o) => o.material ?? []);
  refused.push(...outcomes.flatMap((o) => o.bad));
  for (const file of sides.values())
    refused.push({ file: file.name, code: 'image.alone', message: 'A normal or roughness picture came without the picture it belongs to. Import both together under the same name.' }); // prettier-ignore
  return { found, refused };
}
