import { readFileSync } from 'node:fs';
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
