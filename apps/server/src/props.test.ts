import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Document, getBounds, NodeIO } from '@gltf-transform/core';
import type { FastifyInstance } from 'fastify';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { BuildRow, ErrorBody, MapBody, ProjectCard, PropImportReport } from '@yesca/contract';
import {
  changeEntity,
  emptyMap,
  lightOnVertices,
  placeProps,
  readLevel,
  solidVolume,
  writeMap,
  type MapDocument,
} from '@yesca/core';
import { TEMPLATES, type Prop } from '@yesca/stock';
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
async function send(files: Record<string, Uint8Array>, fields: Record<string, string> = {}) {
  const edge = 'edge-of-parts';
  const words = Object.entries(fields).map(([name, value]) =>
    Buffer.from(`--${edge}\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`),
  );
  const parts = Object.entries(files).flatMap(([name, data]) => [
    Buffer.from(`--${edge}\r\ncontent-disposition: form-data; name="files"; filename="${name}"\r\n\r\n`),
    Buffer.from(data),
    Buffer.from('\r\n'),
  ]);
  const r = await app.inject({
    method: 'POST',
    url: '/api/props/import',
    headers: { 'content-type': `multipart/form-data; boundary=${edge}` },
    payload: Buffer.concat([...words, ...parts, Buffer.from(`--${edge}--\r\n`)]),
  });
  return { status: r.statusCode, body: r.json<PropImportReport & ErrorBody>() };
}
const list = async () => (await app.inject({ method: 'GET', url: '/api/stock/props' })).json<Prop[]>();

/** A tetrahedron of so many metres. */
function tetrahedron(size: number): Document {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const place = doc
    .createAccessor()
    .setType('VEC3')
    .setBuffer(buffer)
    .setArray(Float32Array.from([0, 0, 0, size, 0, 0, 0, size, 0, 0, 0, size]));
  const order = doc
    .createAccessor()
    .setType('SCALAR')
    .setBuffer(buffer)
    .setArray(Uint16Array.from([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]));
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
  expect([wedge.label, wedge.triangles, wedge.tags, wedge.substance]).toEqual(['Stone wedge', 4, [], 'stone']);
  expect(wedge.bounds.max.map(Math.round)).toEqual([50, 0, 50]);
  for (const [file, type] of [
    ['stone-wedge.glb', 'model/gltf-binary'],
    ['stone-wedge.webp', 'image/webp'],
    ['crate.glb', 'model/gltf-binary'],
  ] as const) {
    const r = await app.inject({ method: 'GET', url: `/stock/props/${file}` });
    expect([r.statusCode, r.headers['content-type']]).toEqual([200, type]);
  }
  for (const file of ['nobody.glb', 'stone-wedge.exe', '..%2Fstone-wedge.glb'])
    expect((await app.inject({ method: 'GET', url: `/stock/props/${file}` })).statusCode).toBe(404);
});

test('a .gltf finds what came with it; an upload without a model, or without a form, is refused', async () => {
  const { json, resources } = await new NodeIO().writeJSON(tetrahedron(0.7), { basename: 'bin' });
  const [[name, data]] = Object.entries(resources) as [[string, Uint8Array]];
  const text = new TextEncoder().encode(JSON.stringify(json));
  expect((await send({ 'models/spike.gltf': text, [`models/${name}`]: data })).body.added.map((a) => a.name)).toEqual([
    'spike',
  ]);
  expect((await send({ 'spike2.gltf': text })).body.refused[0]!.code).toBe('model.missingFile');
  const beside = await send({ 'spike3.glb': await glb(0.31), 'notes.txt': text });
  expect([beside.body.added.length, beside.body.refused.map((r) => [r.file, r.code])]).toEqual([
    1,
    [['notes.txt', 'model.unasked']],
  ]);
  expect((await send({ 'notes.txt': text })).body.code).toBe('upload.noModel');
  expect((await app.inject({ method: 'POST', url: '/api/props/import', payload: {} })).json<ErrorBody>().code).toBe(
    'upload.form',
  );
});

test('what stands in maps is removed only when that is asked for twice; what ships stays', async () => {
  await send({ 'Mooring ring.glb': await glb(0.9) });
  const props = await list();
  const doc = placeProps(emptyMap('Harbour'), [{ model: 'mooring-ring', at: [0, 0, 0] }], (n) =>
    props.find((p) => p.name === n),
  ).doc;
  const project = await app.inject({ method: 'POST', url: '/api/projects', payload: { name: 'Coast' } });
  const { id: projectId } = project.json<ProjectCard>();
  const made = await app.inject({
    method: 'POST',
    url: '/api/maps',
    payload: { projectId, name: 'Harbour', document: writeMap(doc) },
  });
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

const ask = (method: 'GET' | 'PATCH' | 'DELETE', url: string, payload?: object) => app.inject({ method, url, payload });

test('a pack goes out and comes in again: what was said of its props is kept, what is there already is known', async () => {
  const first = await send({ 'Winch.glb': await glb(0.41), 'Anchor.glb': await glb(0.42) }, { name: 'Harbour gear' });
  const pack = first.body.pack!;
  expect([pack.name, pack.materials, pack.props]).toEqual(['Harbour gear', 0, 2]);
  const said = { label: 'Iron anchor', tags: ['harbour', 'heavy'], substance: 'metal', collision: 'box' };
  expect((await ask('PATCH', '/api/props/anchor', said)).json<Prop>()).toMatchObject({ ...said, pack: pack.id });
  const exported = await ask('GET', `/api/packs/${pack.id}/export`);
  expect(exported.headers['content-disposition']).toBe('attachment; filename="harbour-gear.zip"');
  const zip = exported.rawPayload;
  const listed = JSON.parse(strFromU8(unzipSync(zip)['pack.json']!)) as { props: { name: string; model: string }[] };
  expect(listed.props.map((p) => [p.name, p.model])).toEqual([
    ['anchor', 'anchor.glb'],
    ['winch', 'winch.glb'],
  ]);
  const again = await send({ 'gear.zip': zip });
  expect([again.body.pack, again.body.added, again.body.same.map((s) => s.name).sort()]).toEqual([
    null,
    [],
    ['anchor', 'winch'],
  ]);
  expect((await ask('DELETE', `/api/packs/${pack.id}`)).statusCode).toBe(200);
  expect((await list()).some((p) => p.name === 'anchor')).toBe(false);
  const back = await send({ 'gear.zip': zip });
  expect(back.body.pack).toMatchObject({ name: 'Harbour gear', props: 2 });
  const anchor = (await list()).find((p) => p.name === 'anchor')!;
  expect(anchor).toMatchObject(said);
  expect(anchor.bounds.max[0]).toBeCloseTo(42, 3);
});

test('a ZIP of several models without a list makes a pack of its name; a bad list is said and the models are taken', async () => {
  const zip = zipSync({
    'a/capstan.glb': await glb(0.51),
    'post.glb': await glb(0.52),
    'pack.json': strToU8('{"format"'),
  });
  const { body } = await send({ 'Quay things.zip': zip });
  expect(body.added.map((a) => a.name)).toEqual(['capstan', 'post']);
  expect(body.refused.map((r) => [r.file, r.code])).toEqual([['Quay things.zip/pack.json', 'pack.manifest']]);
  expect(body.pack!.name).toBe('Quay things');
  const others = zipSync({
    'davit.glb': await glb(0.53),
    'pack.json': strToU8(
      JSON.stringify({
        format: 'yesca-pack',
        version: 1,
        name: '',
        props: [
          { model: 'davit.glb', name: 7, label: '', tags: ['x', 3], substance: 'jam', collision: 'soft' },
          null,
          {},
        ],
      }),
    ),
  });
  const put = await send({ 'odd.zip': others });
  expect(put.body.added.map((a) => a.name)).toEqual(['davit']);
  expect((await list()).find((p) => p.name === 'davit')).toMatchObject({
    label: 'Davit',
    tags: ['x'],
    substance: 'wood',
  });
  expect((await send({ 'b.glb': await glb(0.54) }, { pack: 'nobody' })).status).toBe(404);
});

test('solids are drawn for a prop to collide as, kept in its pack, and taken away; what is no solid is refused', async () => {
  const first = await send({ 'Bollard.glb': await glb(0.57) }, { name: 'Quay' });
  const name = first.body.added[0]!.name;
  const patch = async (change: object, of = name) =>
    (await ask('PATCH', `/api/props/${of}`, change)).json<Prop & ErrorBody>();
  const block = (x: number) => ({
    corners: [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [x + (k & 1) * 30, (k & 2) * 10, (k & 4) * 15]),
  });
  const now = await patch({ drawn: [block(0), block(50)] });
  expect([now.collision, now.drawn!.length]).toEqual(['drawn', 2]);
  expect(now.drawn!.map((s) => Math.round(solidVolume(s)))).toEqual([36_000, 36_000]);
  expect(now.hulls).toHaveLength(1);
  // Larger, they are larger with it.
  const grown = await patch({ grow: 2 });
  expect(Math.round(solidVolume(grown.drawn![0]!))).toBe(8 * 36_000);
  const hull = (...more: unknown[]) => [{ corners: [[0, 0, 0], [1, 0, 0], ...more] }];
  for (const [drawn, code] of [
    [hull([0, 1, 0], [1, 1, 0]), 'prop.drawn'],
    [hull([0, 1, 0], ['1', 1, 4]), 'prop.drawn'],
    [hull([0, 1, 0], [1, 1, 1e9]), 'prop.drawn'],
    [hull([0, 1]), 'request.invalid'],
    [hull([0, 1, 0], [1, 1]), 'request.invalid'],
    [[7], 'request.invalid'],
    ['all', 'request.invalid'],
    [Array.from({ length: 65 }, (_, k) => block(k)), 'request.invalid'],
  ] as const)
    expect((await patch({ drawn })).code).toBe(code);
  expect((await patch({ drawn: [block(0)] }, 'crate')).code).toBe('prop.shipped');
  // Out in its pack and in again it collides as it did; what a list says wrongly is left out.
  const packId = first.body.pack!.id;
  const zip = (await ask('GET', `/api/packs/${packId}/export`)).rawPayload;
  await ask('DELETE', `/api/packs/${packId}`);
  const files = unzipSync(zip);
  const found = JSON.parse(strFromU8(files['pack.json']!)) as { props: { drawn: unknown[] }[] };
  expect(found.props[0]!.drawn).toHaveLength(2);
  found.props[0]!.drawn.push([[0, 0, 0], [1, 0, 0]], 'none', [[0, 0, NaN], [0, 0, 0], [1, 0, 0], [0, 1, 0]]); // prettier-ignore
  const back = await send({ 'quay.zip': zipSync({ ...files, 'pack.json': strToU8(JSON.stringify(found)) }) });
  const again = (await list()).find((p) => p.name === back.body.added[0]!.name)!;
  expect([again.collision, again.drawn?.length]).toEqual(['drawn', 2]);
  expect(Math.round(solidVolume(again.drawn![1]!))).toBe(8 * 36_000);
  const bare = await patch({ drawn: [] }, again.name);
  expect([bare.collision, bare.drawn]).toEqual(['hulls', undefined]);
});

test('a prop is made larger with all that belongs to it; sizes nobody can mean and fields that do not fit are refused', async () => {
  const { body } = await send({ 'Kettle.glb': await glb(0.61) });
  const name = body.added[0]!.name;
  const before = (await list()).find((p) => p.name === name)!;
  const now = (await ask('PATCH', `/api/props/${name}`, { grow: 2.5 })).json<Prop>();
  expect(now.bounds.max[0]).toBeCloseTo(152.5, 3);
  expect(now.content).not.toBe(before.content);
  const reach = (p: Prop) => Math.max(...p.hulls.flatMap((h) => h.vertices.map((v) => v[0])));
  expect(reach(now)).toBeCloseTo(2.5 * reach(before), 6);
  // The file says the same, to whoever reads it.
  const model = await ask('GET', `/stock/props/${name}.glb`);
  const doc = await new NodeIO().readBinary(new Uint8Array(model.rawPayload));
  expect(getBounds(doc.getRoot().getDefaultScene()!).max[0]).toBeCloseTo(1.525, 5);
  const code = async (change: object, of = name) =>
    (await ask('PATCH', `/api/props/${of}`, change)).json<ErrorBody>().code;
  // Another pivot moves all of it, in what is known and in the file.
  const [, , top] = now.bounds.max;
  const moved = (await ask('PATCH', `/api/props/${name}`, { pivot: [10, -20, top] })).json<Prop>();
  [-10, 20, -top].forEach((by, k) => expect(moved.bounds.min[k]).toBeCloseTo(now.bounds.min[k]! + by, 6));
  expect(reach(moved)).toBeCloseTo(reach(now) - 10, 6);
  const shifted = await new NodeIO().readBinary(
    new Uint8Array((await ask('GET', `/stock/props/${name}.glb`)).rawPayload),
  );
  const { min, max } = getBounds(shifted.getRoot().getDefaultScene()!);
  [moved.bounds.min[0], moved.bounds.min[2], -moved.bounds.max[1]].forEach((c, k) =>
    expect(min[k]).toBeCloseTo(c / 100, 5),
  );
  expect(max[1]).toBeCloseTo(0, 5);
  expect((await ask('PATCH', `/api/props/${name}`, { pivot: [-10, 20, -top] })).json<Prop>().bounds.min[2]).toBeCloseTo(
    now.bounds.min[2],
    6,
  );
  for (const pivot of [[0, 0], [0, 0, 1e9], ['a', 0, 0], 7]) expect(await code({ pivot })).toBe('request.invalid');
  expect(await code({ grow: 9000 })).toBe('prop.size');
  expect(await code({ grow: -1 })).toBe('request.invalid');
  expect(await code({ collision: 'soft' })).toBe('request.invalid');
  expect(await code({ pack: 'nobody' })).toBe('pack.notFound');
  expect(await code({ label: 'Mine' }, 'crate')).toBe('prop.shipped');
  expect(await code({ label: 'Mine' }, 'nobody')).toBe('prop.notFound');
  const last = (await list()).find((p) => p.name === name)!.bounds;
  [0, 1, 2].forEach((k) => expect(last.max[k]).toBeCloseTo(now.bounds.max[k]!, 6));
});

test('builds light shipped and imported props at their vertices', async () => {
  const { body } = await send({ 'Lit wedge.glb': await glb(0.45) });
  const models = ['crate', body.added[0]!.name];
  const facts = new Map((await list()).map((p) => [p.name, p]));
  let doc: MapDocument = TEMPLATES.find((t) => t.key === 'one-room')!.make('Lit');
  const { min } = [...doc.brushes.values()].map((b) => ({ min: b.vertices[0]! }))[0]!;
  const places = placeProps(
    doc,
    models.map((model, k) => ({ model, at: [min[0] + 200 + k * 100, min[1] + 200, 40] as const })),
    (name) => facts.get(name),
  );
  doc = places.doc;
  for (const id of places.made.entities!) doc = changeEntity(doc, id, { params: { takes: 'vertices' } });
  const inject = async <T>(method: 'GET' | 'POST', url: string, payload?: object) =>
    (await app.inject({ method, url, ...(payload ? { payload } : {}) })).json<T>();
  const project = await inject<ProjectCard>('POST', '/api/projects', { name: 'Lit' });
  const map = await inject<MapBody>('POST', '/api/maps', { projectId: project.id, name: 'Lit', template: 'one-room' });
  let row = await inject<BuildRow>('POST', '/api/builds', { mapId: map.id, preset: 'sketch', document: writeMap(doc) });
  while (row.status === 'waiting' || row.status === 'running') {
    await new Promise((r) => setTimeout(r, 50));
    row = await inject<BuildRow>('GET', `/api/builds/${row.id}`);
  }
  expect(row).toMatchObject({ status: 'done', error: null });
  const level = readLevel(new Uint8Array((await app.inject(`/api/builds/${row.id}/level`)).rawPayload));
  const lit = (k: number) => {
    const model = doc.entities.get(level.meta.props[k]!)!.params.model;
    return [model, lightOnVertices(level, k, new Map())!.length / 3];
  };
  const found = Object.fromEntries([lit(0), lit(1)]) as Record<string, number>;
  // Four faces of three corners each, which none shares: they face different ways.
  expect(found[models[1]!]).toBe(12);
  expect(found.crate).toBeGreaterThan(20);
}, 60_000);
