import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import type { AssemblyBody, AssemblyRow, ErrorBody, MaterialUse, PropUse } from '@yesca/contract';
import {
  addBrushes,
  boxSolid,
  dressSolid,
  emptyMap,
  parseMap,
  placeProps,
  writeMap,
  type PropFacts,
} from '@yesca/core';
import { PROPS } from '@yesca/stock';
import { makeApp } from './app.ts';
import { tidyFolder } from './store/tidy.ts';
import type { Context } from './context.ts';
import { PLACES } from './testing/places.ts';

let dataDir: string;
let app: FastifyInstance;
let context: Context;
beforeAll(async () => {
  dataDir = mkdtempSync(join(tmpdir(), 'yesca-assemblies-'));
  ({ app, context } = await makeApp({ ...PLACES, dataDir }));
}, 120_000);
afterAll(async () => {
  await app.close();
  rmSync(dataDir, { recursive: true, force: true });
});

const ask = async <T>(method: 'GET' | 'POST' | 'PATCH' | 'DELETE', url: string, body?: object) => {
  const r = await app.inject({ method, url, ...(body ? { payload: body } : {}) });
  return { status: r.statusCode, body: r.json<T & ErrorBody>() };
};
const list = async () => (await ask<AssemblyRow[]>('GET', '/api/assemblies')).body as readonly AssemblyRow[];

const facts = (name: string) => PROPS.find((p) => p.name === name) as PropFacts | undefined;
const crates = placeProps(
  emptyMap('Copied'),
  [
    { model: 'crate', at: [0, 0, 0] },
    { model: 'barrel', at: [80, 0, 0] },
  ],
  facts,
).doc;
const pile = addBrushes(crates, [dressSolid(boxSolid({ min: [0, 90, 0], max: [64, 150, 30] }), 'b', 'slate')]);

test('a part of a map is kept, drawn with its props, read again, changed and removed', async () => {
  const made = await ask<AssemblyRow>('POST', '/api/assemblies', {
    label: 'Pile',
    tags: ['store'],
    document: writeMap(pile),
  });
  expect(made.status).toBe(201);
  expect(made.body).toMatchObject({ label: 'Pile', tags: ['store'], brushes: 1, things: 2 });
  expect(await list()).toEqual([made.body]);
  // What it needs is used by it as by a map.
  const used = async (what: string) =>
    (await ask<(MaterialUse & PropUse)[]>('GET', `/api/${what}/uses`)).body as readonly object[];
  const by = { mapId: made.body.id, map: 'the assembly Pile' };
  expect(await used('props/crate')).toEqual([{ ...by, things: 1 }]);
  expect(await used('materials/slate')).toEqual([{ ...by, faces: 6, pictures: 0 }]);
  expect(await used('props/boat')).toEqual([]);
  const url = `/api/assemblies/${made.body.id}`;
  const read = parseMap((await ask<AssemblyBody>('GET', url)).body.document);
  expect([...read.entities.keys()].sort()).toEqual([...pile.entities.keys()].sort());
  const drawing = (await ask<{ below: string }>('GET', made.body.drawing!)).body;
  // A slab, a crate and a barrel below the cut.
  expect(drawing.below.match(/M/g)).toHaveLength(3);
  const renamed = await ask<AssemblyRow>('PATCH', url, { label: 'Stack', tags: [] });
  expect(renamed.body).toMatchObject({ label: 'Stack', tags: [], things: 2 });
  const less = await ask<AssemblyRow>('PATCH', url, { document: writeMap(crates) });
  expect(less.body).toMatchObject({ label: 'Stack', brushes: 0, things: 2 });
  // What no row names is tidied away, and it is none of that.
  await tidyFolder(context);
  expect((await ask('GET', url)).status).toBe(200);
  expect((await ask('GET', less.body.drawing!)).status).toBe(200);
  expect((await ask('DELETE', url)).status).toBe(200);
  expect(await list()).toEqual([]);
  expect((await ask('GET', url)).body.code).toBe('assembly.notFound');
  expect((await ask('DELETE', url)).status).toBe(404);
});

test.each([
  ['a body without a name', { document: writeMap(pile) }, 400, 'request.invalid'],
  ['a name that is none', { label: '', document: writeMap(pile) }, 400, 'request.invalid'],
  ['a body without a document', { label: 'Pile' }, 400, 'request.invalid'],
  ['tags that are none', { label: 'Pile', tags: [''], document: writeMap(pile) }, 400, 'request.invalid'],
  ['text that is no map', { label: 'Pile', document: 'stones' }, 422, 'map.notJson'],
  ['a map with nothing in it', { label: 'Pile', document: writeMap(emptyMap('x')) }, 422, 'assembly.empty'],
] as const)('refuses %s, and keeps what is there', async (_, body, status, code) => {
  const before = await list();
  const { status: got, body: said } = await ask('POST', '/api/assemblies', body);
  expect([got, said.code]).toEqual([status, code]);
  expect(await list()).toEqual(before);
});

test('what is put in the place of one that is there is looked at as well', async () => {
  const kept = await ask<AssemblyRow>('POST', '/api/assemblies', { label: 'Kept', document: writeMap(pile) });
  const url = `/api/assemblies/${kept.body.id}`;
  for (const document of ['stones', writeMap(emptyMap('x'))])
    expect((await ask('PATCH', url, { document })).status).toBe(422);
  expect((await ask<AssemblyBody>('GET', url)).body).toMatchObject(kept.body);
  await ask('DELETE', url);
});
