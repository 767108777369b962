import type { Decoded } from './decode.ts';
import type { MaterialManifest } from '../packs/manifest.ts';
import type { FileName } from './names.ts';
import type { Refused } from '@yesca/intake';

/** A picture that was decoded: its packed forms lie in the upload's folder under these names. */
export type Kept = Omit<Decoded, 'picture' | 'thumb'> & { readonly picture: string; readonly thumb: string };

/** A material of an upload with its pictures. */
export interface FoundMaterial {
  readonly file: string;
  readonly name: FileName;
  readonly albedo: Kept;
  readonly normal?: Kept;
  readonly roughness?: Kept;
  /** What the pack's own list says of it. */
  readonly listed?: MaterialManifest;
}

export interface DecodedUpload {
  readonly found: readonly FoundMaterial[];
  readonly refused: readonly Refused[];
}

/** What is decoded: files of one upload, in its own folder, as `0`, `1` … Those in `skip` were the end of an earlier try. */
export interface DecodeTask {
  readonly folder: string;
  readonly files: readonly { readonly name: string; readonly path: string }[];
  /** Keys of materials that are done already. */
  readonly done: readonly string[];
  readonly skip: readonly string[];
}

/** A line of the list of results: a material begun, or finished. */
export type Outcome =
  | { readonly begun: string; readonly file: string }
  | { readonly key: string; readonly material?: FoundMaterial; readonly refused: readonly Refused[] }
  | { readonly end: readonly Refused[] };

export const OUTCOMES = 'outcomes.ndjson';
