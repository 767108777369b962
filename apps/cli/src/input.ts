import { readFileSync, writeFileSync } from 'node:fs';
import {
  isRefusal,
  MapFileError,
  parseMap,
  parseScript,
  type MapDocument,
  type ProbePoint,
  type ScriptCall,
} from '@yesca/core';

/** Input that nothing can be done with: exit code 2 and a sentence that says where. */
export class Unusable extends Error {}

function readText(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch (error) {
    throw new Unusable(
      `${path} cannot be read (${(error as NodeJS.ErrnoException).code}). Give the path of an existing file.`,
    );
  }
}

/** Does what may be refused; then nothing is written. `path` is whose fault it is. */
export function orUnusable<T>(path: string, run: () => T): T {
  try {
    return run();
  } catch (error) {
    if (isRefusal(error)) throw new Unusable(`${path}: ${error.message} (${error.code}) Nothing was written.`);
    throw error;
  }
}

/** Writes a text where the user wants it. */
export function writeText(path: string, text: string): void {
  try {
    writeFileSync(path, text);
  } catch (error) {
    throw new Unusable(
      `${path} cannot be written (${(error as NodeJS.ErrnoException).code}). Give a path in a folder that is there and yours.`,
    );
  }
}

export function readMap(path: string): MapDocument {
  try {
    return parseMap(readText(path));
  } catch (error) {
    if (error instanceof MapFileError) throw new Unusable(`${path}, ${error.place}: ${error.message} (${error.code})`);
    throw error;
  }
}

export function readScript(path: string): readonly ScriptCall[] {
  try {
    return parseScript(readText(path));
  } catch (error) {
    if (isRefusal(error)) throw new Unusable(`${path}: ${error.message} (${error.code})`);
    throw error;
  }
}

const isTriple = (v: unknown): v is [number, number, number] =>
  Array.isArray(v) && v.length === 3 && v.every((c) => typeof c === 'number' && Number.isFinite(c));

/** So many numbers with commas between them. */
export function readNumbers(option: string, text: string, count: number): number[] {
  const numbers = text.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)));
  if (numbers.length !== count || !numbers.every(Number.isFinite))
    throw new Unusable(
      `${option} must be ${count === 1 ? 'a number' : `${count} numbers with commas between`}: ${text} is not.`,
    );
  return numbers;
}

export function readPoints(path: string): ProbePoint[] {
  let data: unknown;
  try {
    data = JSON.parse(readText(path));
  } catch (error) {
    if (error instanceof Unusable) throw error;
    throw new Unusable(`${path} is not JSON. Write a list like [{"at":[0,0,10],"normal":[0,0,1]}].`);
  }
  if (!Array.isArray(data)) throw new Unusable(`${path} must hold a list of points.`);
  return data.map((point: unknown, i) => {
    const { at, normal } = (point ?? {}) as { at?: unknown; normal?: unknown };
    if (!isTriple(at)) throw new Unusable(`${path}, point ${i}: "at" must be three numbers.`);
    if (normal !== undefined && !isTriple(normal))
      throw new Unusable(`${path}, point ${i}: "normal" must be three numbers.`);
    return normal === undefined ? { at } : { at, normal };
  });
}
