import { unzipSync } from 'fflate';

/** One file of an upload. */
export interface UploadFile {
  readonly name: string;
  readonly data: Uint8Array;
}

export interface Refused {
  readonly file: string;
  readonly code: string;
  readonly message: string;
}

export const LIMITS = {
  /** Files in one upload, archives' entries counted. */
  entries: 2000,
  /** Bytes of one picture as it lies in a file. */
  file: 32 * 1024 * 1024,
  /** Bytes of all pictures of an archive together, unpacked. */
  unpacked: 512 * 1024 * 1024,
  /** How many times larger an archive's entry may become. */
  ratio: 200,
  /** Pixels of a picture, and along an edge. */
  pixels: 32 * 1024 * 1024,
  edge: 8192,
} as const;

export const isZip = (data: Uint8Array): boolean =>
  data[0] === 0x50 && data[1] === 0x4b && (data[2] === 3 || data[2] === 5);

/** A name from an archive that leads out of it or to somewhere absolute. */
const leadsOut = (name: string): boolean =>
  name.startsWith('/') ||
  name.includes('\\') ||
  /^[a-z]:/i.test(name) ||
  name.split('/').includes('..') ||
  name.includes('\0');

/** What systems leave in archives and nobody means. */
const isLitter = (name: string): boolean =>
  name.endsWith('/') || name.split('/').some((part) => part.startsWith('.') || part === '__MACOSX');

/** Unpacks an archive within the limits; entries that cannot be taken are named with a sentence, the others kept. */
export function unpack(archive: UploadFile, room: number): { files: UploadFile[]; refused: Refused[] } {
  const refused: Refused[] = [];
  const refuse = (file: string, code: string, message: string): false => {
    refused.push({ file: file.slice(0, 200), code, message });
    return false;
  };
  let bytes = 0;
  let entries = 0;
  let full = false;
  let unpacked: Record<string, Uint8Array>;
  try {
    unpacked = unzipSync(archive.data, {
      filter: ({ name, size, originalSize }) => {
        if (isLitter(name) && !leadsOut(name)) return false;
        if (++entries > room) {
          if (!full) refuse(archive.name, 'zip.entries', `The archive holds more files than can be taken at once (${LIMITS.entries}). Split it; the first ${room} were read.`); // prettier-ignore
          full = true;
          return false;
        }
        if (leadsOut(name)) return refuse(name, 'zip.path', 'This name leads out of the archive. Pack the files anew from inside their folder.'); // prettier-ignore
        if (originalSize > LIMITS.file) return refuse(name, 'image.tooLarge', `This file is larger than ${LIMITS.file / 1024 / 1024} MB unpacked. Make the picture smaller.`); // prettier-ignore
        if (originalSize > size * LIMITS.ratio + 65536) return refuse(name, 'zip.bomb', 'This file would unpack to many times its size, as no picture does. It was left out.'); // prettier-ignore
        bytes += originalSize;
        if (bytes > LIMITS.unpacked) return refuse(name, 'zip.tooLarge', `The archive unpacks to more than ${LIMITS.unpacked / 1024 / 1024} MB. Split it.`); // prettier-ignore
        return true;
      },
    });
  } catch {
    return { files: [], refused: [{ file: archive.name, code: 'zip.broken', message: 'The archive cannot be read to its end. It may be cut off or locked; pack it again.' }] }; // prettier-ignore
  }
  return { files: Object.entries(unpacked).map(([name, data]) => ({ name, data })), refused };
}
