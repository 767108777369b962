import { open } from 'node:fs/promises';
import yauzl from 'yauzl';

/** One file of an upload, as it lies in the upload's own folder. */
export interface UploadFile {
  readonly name: string;
  readonly size: number;
  readonly read: () => Promise<Uint8Array>;
}

export interface Refused {
  readonly file: string;
  readonly code: string;
  readonly message: string;
}

/** All hold for an upload as a whole, however many archives it comes in. */
export const LIMITS = {
  /** Files, archives' entries counted. */
  entries: 2000,
  /** Bytes of one picture as it lies in a file. */
  file: 32 * 1024 * 1024,
  /** Bytes of all pictures out of archives together, unpacked. */
  unpacked: 512 * 1024 * 1024,
  /** How many times larger an archive's entry may become. */
  ratio: 200,
  /** Pixels of a picture, and along an edge. */
  pixels: 32 * 1024 * 1024,
  edge: 8192,
} as const;

/** What of the limits an upload has left. */
export interface Room {
  entries: number;
  bytes: number;
}

export async function isZip(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const head = Buffer.alloc(4);
    await file.read(head, 0, 4, 0);
    return head[0] === 0x50 && head[1] === 0x4b && (head[2] === 3 || head[2] === 5);
  } finally {
    await file.close();
  }
}

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

const openZip = (path: string): Promise<yauzl.ZipFile> =>
  new Promise((done, fail) =>
    yauzl.open(
      path,
      { lazyEntries: true, autoClose: false, validateEntrySizes: true, decodeStrings: false },
      (error, zip) => (error ? fail(error) : done(zip)),
    ),
  );

const readEntry = (zip: yauzl.ZipFile, entry: yauzl.Entry): Promise<Uint8Array> =>
  new Promise((done, fail) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) return fail(error);
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('error', fail);
      stream.on('end', () => done(Buffer.concat(parts)));
    }),
  );

/**
 * The files of an archive within what room an upload has left; entries that cannot be taken are named with a sentence, the
 * others kept. Only the list is read: each file when it is asked for, one after the other.
 */
export async function unpack(
  name: string,
  path: string,
  room: Room,
): Promise<{ files: UploadFile[]; refused: Refused[]; close: () => void }> {
  const refused: Refused[] = [];
  const files: UploadFile[] = [];
  const refuse = (file: string, code: string, message: string): void =>
    void refused.push({ file: file.slice(0, 200), code, message });
  const broken = {
    files: [],
    refused: [
      {
        file: name,
        code: 'zip.broken',
        message: 'The archive cannot be read to its end. It may be cut off or locked; pack it again.',
      },
    ],
    close: () => undefined,
  };
  let zip: yauzl.ZipFile;
  try {
    zip = await openZip(path);
  } catch {
    return broken;
  }
  const most = room.entries;
  let full = false;
  const take = (entry: yauzl.Entry): void => {
    const inside = (entry.fileName as unknown as Buffer).toString('utf8');
    const { compressedSize: size, uncompressedSize: larger } = entry;
    if (isLitter(inside) && !leadsOut(inside)) return;
    if (room.entries <= 0) {
      if (!full)
        refuse(
          name,
          'zip.entries',
          `The archive holds more files than can be taken at once (${LIMITS.entries}). Split it; the first ${most} were read.`,
        );
      full = true;
    } else if (leadsOut(inside))
      refuse(inside, 'zip.path', 'This name leads out of the archive. Pack the files anew from inside their folder.');
    else if (/\.zip$/i.test(inside))
      refuse(inside, 'zip.nested', 'An archive in an archive is not opened. Import it by itself.');
    else if (larger > LIMITS.file)
      refuse(
        inside,
        'image.tooLarge',
        `This file is larger than ${LIMITS.file / 1024 / 1024} MB unpacked. Make the picture smaller.`,
      );
    else if (larger > size * LIMITS.ratio + 65536)
      refuse(inside, 'zip.bomb', 'This file would unpack to many times its size, as no picture does. It was left out.');
    else if (larger > room.bytes)
      refuse(
        inside,
        'zip.tooLarge',
        `The upload unpacks to more than ${LIMITS.unpacked / 1024 / 1024} MB. Import the rest in a second go.`,
      );
    else {
      room.bytes -= larger;
      room.entries--;
      files.push({ name: inside, size: larger, read: () => readEntry(zip, entry) });
    }
  };
  try {
    await new Promise<void>((done, fail) => {
      zip.on('entry', (entry: yauzl.Entry) => {
        take(entry);
        zip.readEntry();
      });
      zip.on('end', done);
      zip.on('error', fail);
      zip.readEntry();
    });
  } catch {
    zip.close();
    return broken;
  }
  return { files, refused, close: () => zip.close() };
}
