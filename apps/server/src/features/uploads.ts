import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { mkdir, rm } from 'node:fs/promises';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { nanoid } from 'nanoid';
import { LIMITS } from '@yesca/intake';
import { Refusal } from '../errors.ts';

/** Bytes of one upload, all files together. */
export const UPLOAD_LIMIT = 256 * 1024 * 1024;

/** Writes the files of an upload into a folder as they come, so that none of them is ever in memory whole. */
async function receive(request: FastifyRequest, folder: string) {
  const files: { name: string; path: string }[] = [];
  let name = '';
  let packId = '';
  let bytes = 0;
  const tooLarge = () =>
    new Refusal(
      413,
      'upload.tooLarge',
      `The files are larger than ${UPLOAD_LIMIT / 1024 / 1024} MB together. Import them in several goes.`,
    );
  try {
    // Names keep their folders: what is a path is only ever read as words.
    for await (const part of request.parts({ preservePath: true })) {
      if (part.type === 'file') {
        const path = join(folder, String(files.length));
        part.file.on('data', (chunk: Buffer) => {
          bytes += chunk.length;
          if (bytes > UPLOAD_LIMIT) part.file.destroy(tooLarge());
        });
        await pipeline(part.file, createWriteStream(path));
        if (part.file.truncated) throw tooLarge();
        files.push({ name: tidyName(part.filename ?? '') || 'unnamed', path });
      } else if (part.fieldname === 'pack') packId = String(part.value);
      else if (part.fieldname === 'name') name = String(part.value);
    }
  } catch (error) {
    const { code } = error as { code?: string };
    if (error instanceof Refusal || code === 'ENOSPC') throw error;
    if (code === 'FST_FILES_LIMIT')
      throw new Refusal(
        413,
        'upload.entries',
        `More than ${LIMITS.entries} files at once. Import them in several goes, or pack them in a ZIP.`,
      );
    if (code === 'FST_REQ_FILE_TOO_LARGE') throw tooLarge();
    throw new Refusal(400, 'upload.cutOff', 'The upload ended before all of it had come. Send it again.');
  }
  if (files.length === 0) throw new Refusal(400, 'upload.empty', 'Choose one or more files, or a ZIP of them.');
  return { files, name, packId };
}

/** A name without what cannot be stored or shown: control characters, halves of characters. */
export const tidyName = (name: string): string =>
  name
    .replace(/[\p{Surrogate}\p{Cc}\ufffd]/gu, '')
    .trim()
    .slice(0, 200);

/** The name, or the first free one with a number behind it. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  for (let k = 1; ; k++) {
    const tried = k === 1 ? name : `${name}-${k}`;
    if (!taken.has(tried)) return tried;
  }
}

/** Takes an upload into a folder of its own while `work` reads it there; when who asked is gone the signal is raised. */
export async function inUpload<Report>(
  request: FastifyRequest,
  reply: FastifyReply,
  dataDir: string,
  work: (
    upload: Awaited<ReturnType<typeof receive>> & { readonly folder: string; readonly signal: AbortSignal },
  ) => Promise<Report>,
): Promise<Report> {
  if (!request.isMultipart()) throw new Refusal(400, 'upload.form', 'Send the files as a form (multipart/form-data).');
  const cancel = new AbortController();
  request.raw.once('close', () => !request.raw.complete && cancel.abort());
  reply.raw.once('close', () => !reply.raw.writableEnded && cancel.abort());
  const folder = join(dataDir, 'uploads', nanoid());
  await mkdir(folder, { recursive: true });
  try {
    return await work({ ...(await receive(request, folder)), folder, signal: cancel.signal });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
