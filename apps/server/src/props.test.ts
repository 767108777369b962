import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Document, NodeIO } from '@gltf-transform/core';
import type { FastifyInstance } from 'fastify';
import type { ErrorBody, MapBody, ProjectCard, PropImportReport } from '@yesca/contract';
import { emptyMap, placeProps, writeMap } from '@yesca/core';
import type { Prop } from '@yesca/stock';
import { makeApp } from './app.ts';
import { PLACES } from './testing/places.ts';

let dataDir: string;
let app: FastifyInstance;
beforeAll(async () => {
  dataDir = mkdtempSync(join(tmpdir(), 'yesca-props-'));
  ({ app } = await makeApp({ ...PLACES, dataDir }));
}, 120_000);
afterAll(async () => {
  await app.close();
  rmSync(dataDir, { recursive: true, force: true });
});

/** Sends files as a browser's form does. */
async function send(files: Record<string, Uint8Array>) {
  const edge = 'edge-of-parts';
  const parts = Object.entries(files).flatMap(([name, data]) => [
    Buffer.from(`--${edge}\r\ncontent-disposition: form-data; name="files"; filename="${name}"\r\n\r\n`),
    Buffer.from(data),
    Buffer.from('\r\n'),
  ]);
  const r = await app.inject({
    method: 'POST',
    url: '/api/props/import',
    headers: { 'content-type': `multipart/form-data; boundary=${edge}` },
    payload: Buffer.concat([...parts, Buffer.from(`--${edge}--\r\n`)]),
  });
  return { status: r.statusCode, body: r.json<PropImportReport & ErrorBody>() };
}
const list = async () => (await app.inject({ method: 'GET', url: '/api/stock/props' })).json<Prop[]>();

/** A tetrahedron of so many metres. */
function tetrahedron(size: number): Document {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const place = doc.createAccessor().setType('VEC3').setBuffer(buffer).setArray(Float32Array.from([0, 0, 0, size, 0, 0, 0, size, 0, 0, 0, size])); // prettier-ignore
  const order = doc.createAccessor().setType('SCALAR').setBuffer(buffer).setArray(Uint16Array.from([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3])); // prettier-ignore
  const mesh = doc.createMesh().addPrimitive(doc.createPrimitive().setAttribute('POSITION', place).setIndices(order));
  doc.getRoot().setDefaultScene(doc.createScene().addChild(doc.createNode().setMesh(mesh)));
  return doc;
}
const glb = (size: number) => new NodeIO().writeBinary(tetrahedron(size));

test('models become props: what is good is kept, the rest is said; the same one is known again', async () => {
  const model = await glb(0.5);
  const first = await send({ 'Stone wedge.glb': model, 'broken.glb': model.slice(0, 60), 'crate.glb': await glb(0.6) });
  expect(first.status).toBe(201);
  expect(first.body.added.map((a) => a.name)).toEqual(['stone-wedge', 'crate-2']);
  expect(first.body.added[1]!.notes).toEqual(['The name crate was taken; maps call it crate-2.']);
  expect(first.body.refused.map((r) => [r.file, r.code])).toEqual([['broken.glb', 'model.broken']]);
  const again = await send({ 'other.glb': model });
  expect([again.status, again.body.added, again.body.same]).toEqual([
    200,
    [],
    [{ file: 'other.glb', name: 'stone-wedge' }],
  ]);
  const wedge = (await list()).find((p) => p.name === 'stone-wedge')!;
  expect([wedge.label, wedge.triangles, wedge.tags, wedge.substance]).toEqual([
    'Stone wedge',
    4,
    ['imported'],
    'stone',
  ]);
  expect(wedge.bounds.max.map(Math.round)).toEqual([50, 0, 50]);
  for (const [file, type] of [
    ['stone-wedge.glb', 'model/gltf-binary'],
    ['stone-wedge.webp', 'image/webp'],
    ['crate.glb', 'model/gltf-binary'],
  ] as const) {
    // prettier-ignore
    const r = await app.inject({ method: 'GET', url: `/stock/props/${file}` });
    expect([r.statusCode, r.headers['content-type']]).toEqual([200, type]);
  }
  for (const file of ['nobody.glb', 'stone-wedge.exe', '..%2Fstone-wedge.glb']) expect((await app.inject({ method: 'GET', url: `/stock/props/${file}` })).statusCode).toBe(404); // prettier-ignore
});

test('a .gltf finds what came with it; an upload without a model, or without a form, is refused', async () => {
  const { json, resources } = await new NodeIO().writeJSON(tetrahedron(0.7), { basename: 'bin' });
  const [[name, data]] = Object.entries(resources) as [[string, Uint8Array]];
  const text = new TextEncoder().encode(JSON.stringify(json));
  expect((await send({ 'models/spike.gltf': text, [`models/${name}`]: data })).body.added.map((a) => a.name)).toEqual(['spike']); // prettier-ignore
  expect((await send({ 'spike2.gltf': text })).body.refused[0]!.code).toBe('model.missingFile');
  const beside = await send({ 'spike3.glb': await glb(0.31), 'notes.txt': text });
  expect([beside.body.added.length, beside.body.refused.map((r) => [r.file, r.code])]).toEqual([
    1,
    [['notes.txt', 'model.unasked']],
  ]);
  expect((await send({ 'notes.txt': text })).body.code).toBe('upload.noModel');
  expect((await app.inject({ method: 'POST', url: '/api/props/import', payload: {} })).json<ErrorBody>().code).toBe('upload.form'); // prettier-ignore
});

test('what stands in maps is removed only when that is asked for twice; what ships stays', async () => {
  await send({ 'Mooring ring.glb': await glb(0.9) });
  const props = await list();
  const doc = placeProps(emptyMap('Harbour'), [{ model: 'mooring-ring', at: [0, 0, 0] }], (n) =>
    props.find((p) => p.name === n),
  ).doc;
  const project = await app.inject({ method: 'POST', url: '/api/projects', payload: { name: 'Coast' } });
  const { id: projectId } = project.json<ProjectCard>();
  const made = await app.inject({ method: 'POST', url: '/api/maps', payload: { projectId, name: 'Harbour', document: writeMap(doc) } }); // prettier-ignore
  expect(made.json<MapBody>().document).toContain('mooring-ring');
  const remove = async (name: string, force = '') =>
    app.inject({ method: 'DELETE', url: `/api/props/${name}${force}` });
  const used = await remove('mooring-ring');
  expect([used.statusCode, used.json<ErrorBody>().message]).toEqual([
    409,
    'Mooring ring stands in Harbour (once). Replace it there first, or delete it all the same.',
  ]);
  expect((await remove('mooring-ring', '?force=1')).statusCode).toBe(200);
  expect((await list()).some((p) => p.name === 'mooring-ring')).toBe(false);
  expect([(await remove('crate')).statusCode, (await remove('mooring-ring')).statusCode]).toEqual([403, 404]);
  expect(readFileSync(join(PLACES.stockDir, 'props/crate.glb')).length).toBeGreaterThan(0);
});
