import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import { unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import type { ErrorBody, ImportReport, MapBody, MaterialUse, PackRow, ProjectCard } from '@yesca/contract';
import { allFaces, paintFaces, placeDecals, parseMap, writeMap } from '@yesca/core';
import type { Material } from '@yesca/stock';
import { makeApp } from './app.ts';
import { PLACES } from './testing/places.ts';

let dataDir: string;
let app: FastifyInstance;

beforeAll(async () => {
  dataDir = mkdtempSync(join(tmpdir(), 'yesca-materials-'));
  ({ app } = await makeApp({ ...PLACES, dataDir }));
}, 120_000);
afterAll(async () => {
  await app.close();
  rmSync(dataDir, { recursive: true, force: true });
});

type Files = Record<string, Uint8Array>;

/** Sends files as a browser's form does. */
async function send(
  files: Files,
  fields: Record<string, string> = {},
): Promise<{ status: number; body: ImportReport & ErrorBody }> {
  const edge = 'edge-of-parts';
  const parts: Buffer[] = [];
  for (const [name, value] of Object.entries(fields))
    parts.push(Buffer.from(`--${edge}\r\ncontent-disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`));
  for (const [name, data] of Object.entries(files))
    parts.push(
      Buffer.from(
        `--${edge}\r\ncontent-disposition: form-data; name="files"; filename="${name}"\r\ncontent-type: application/octet-stream\r\n\r\n`,
      ),
      Buffer.from(data),
      Buffer.from('\r\n'),
    );
  const r = await app.inject({
    method: 'POST',
    url: '/api/packs/import',
    headers: { 'content-type': `multipart/form-data; boundary=${edge}` },
    payload: Buffer.concat([...parts, Buffer.from(`--${edge}--\r\n`)]),
  });
  return { status: r.statusCode, body: r.json() };
}
const call = async <T>(method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE', url: string, payload?: object) => {
  const r = await app.inject({ method, url, ...(payload ? { payload } : {}) });
  return { status: r.statusCode, body: r.json<T>() };
};
let shade = 0;
/** A picture of one colour, another one every time. */
const plain = (width = 64, height = 64) =>
  sharp({ create: { width, height, channels: 3, background: { r: 100, g: 90, b: ++shade } } });
const png = (width?: number, height?: number) => plain(width, height).png().toBuffer();
const material = async (name: string) =>
  (await call<Material[]>('GET', '/api/stock/materials')).body.find((m) => m.name === name)!;
const picture = async (name: string, kind: string) =>
  app.inject({ method: 'GET', url: `/stock/pictures/${name}/${kind}` });

describe('what ships', () => {
  test('is listed with what is known of it, and its pictures are served', async () => {
    expect(await material('reed')).toMatchObject({ solidity: 'cutOut', substance: 'plant' });
    for (const kind of ['albedo', 'normal', 'roughness', 'thumb']) {
      const r = await picture('limewash', kind);
      expect([r.statusCode, r.headers['content-type']]).toEqual([200, 'image/webp']);
    }
    expect((await picture('limewash', 'secret')).statusCode).toBe(404);
    expect((await picture('nothing', 'albedo')).statusCode).toBe(404);
    expect((await picture('..%2f..%2fpackage', 'albedo')).statusCode).toBe(404);
  });
  test('cannot be changed or deleted', async () => {
    expect(await call<ErrorBody>('PATCH', '/api/materials/limewash', { label: 'Mine' })).toMatchObject({
      status: 403,
      body: { code: 'material.shipped' },
    });
    expect((await call('DELETE', '/api/materials/limewash?force=1')).status).toBe(403);
  });
});

describe('import', () => {
  test('guesses label, tags, substance and density, and matches normal and roughness by suffix', async () => {
    const rough = await sharp({ create: { width: 32, height: 32, channels: 3, background: { r: 51, g: 51, b: 51 } } })
      .png()
      .toBuffer();
    const { status, body } = await send(
      {
        'Old_Brick_200cm_albedo.png': await png(1024, 512),
        'Old_Brick_200cm_normal.png': await png(),
        'Old_Brick_200cm_roughness.png': rough,
      },
      { name: 'Yard' },
    );
    expect(status).toBe(201);
    expect(body).toMatchObject({
      pack: { name: 'Yard', materials: 1 },
      added: [{ name: 'old-brick' }],
      same: [],
      refused: [],
    });
    expect(await material('old-brick')).toEqual(
      expect.objectContaining({
        label: 'Old brick',
        tags: ['old', 'brick'],
        substance: 'brick',
        width: 1024,
        height: 512,
        texelsPerCm: 5.12,
        solidity: 'solid',
        roughness: 0.2,
      }),
    );
    const sent = await sharp((await picture('old-brick', 'albedo')).rawPayload).metadata();
    expect([sent.format, sent.width, sent.height]).toEqual(['webp', 1024, 512]);
    expect((await picture('old-brick', 'normal')).statusCode).toBe(200);
  });
  test('takes JPEG and WebP, and a ZIP of pictures with folders as tags', async () => {
    const jpg = await plain().jpeg().toBuffer();
    const webp = await plain().webp({ lossless: true }).toBuffer();
    const { body } = await send({
      'mud.jpg': jpg,
      'set.zip': zipSync({ 'quay/tar-rope.webp': webp, 'quay/.hidden.png': webp }),
    });
    expect(body.added.map((a) => a.name).sort()).toEqual(['mud', 'tar-rope']);
    expect(body.refused).toEqual([]);
    expect((await material('tar-rope')).tags).toEqual(['tar', 'rope', 'quay']);
  });
  test('sees holes and what shows through', async () => {
    const drawn = (opacity: number) =>
      sharp(
        Buffer.from(
          `<svg xmlns="http://www.w3.org/2000/svg" width="64" height="64"><rect width="32" height="64" fill="rgb(9,${++shade},9)" fill-opacity="${opacity}"/>${opacity < 1 ? '<rect x="32" width="32" height="64" fill="#444" fill-opacity="0.4"/>' : ''}</svg>`,
        ),
      )
        .png()
        .toBuffer();
    await send({ 'hedge.png': await drawn(1), 'skylight.png': await drawn(0.5) });
    expect((await material('hedge')).solidity).toBe('cutOut');
    expect((await material('skylight')).solidity).toBe('seeThrough');
    // What of them hides what is behind, in 32 rows of as many squares.
    expect((await material('hedge')).mask).toBe(`${'f'.repeat(16)}${'0'.repeat(16)}`.repeat(32));
    expect((await material('skylight')).mask).toBe(`${'8'.repeat(16)}${'6'.repeat(16)}`.repeat(32));
    expect(await material('limewash')).not.toHaveProperty('mask');
  });
  test('the same pixels under another name are found, and no pack is made for them', async () => {
    const file = await png();
    await send({ 'first.png': file });
    const before = (await call<PackRow[]>('GET', '/api/packs')).body.length;
    const { status, body } = await send({ 'second.png': file });
    expect(status).toBe(200);
    expect(body).toMatchObject({ added: [], same: [{ file: 'second.png', name: 'first' }] });
    expect((await call<PackRow[]>('GET', '/api/packs')).body).toHaveLength(before);
  });
  test('two files of one name get two names, and it says so', async () => {
    const { body } = await send({
      'a.zip': zipSync({ 'north/gable.png': await png(), 'south/gable.png': await png() }),
    });
    expect(body.added.map((a) => a.name)).toEqual(['gable', 'gable-2']);
    expect(body.added[1]!.note).toContain('gable-2');
    const again = await send({ 'limewash.png': await png() });
    expect(again.body.added[0]!.name).toBe('limewash-2');
  });
  test('a picture with its own colours is converted, and it says so', async () => {
    const wide = await sharp({ create: { width: 64, height: 64, channels: 3, background: '#c84' } })
      .withIccProfile('p3')
      .png()
      .toBuffer();
    const { body } = await send({ 'wide.png': wide });
    expect(body.added[0]!.note).toContain('sRGB');
    expect((await sharp((await picture('wide', 'albedo')).rawPayload).metadata()).hasProfile).toBe(false);
  });
  test('goes into a pack that is there', async () => {
    const first = (await send({ 'one-more.png': await png() }, { name: 'Growing' })).body.pack;
    expect((await send({ 'and-more.png': await png() }, { pack: first.id })).body.pack).toEqual({
      ...first,
      materials: 2,
    });
    expect((await send({ 'lost.png': await png() }, { pack: 'nowhere' })).status).toBe(404);
  });
});

describe('bad files are refused with a sentence, and the good ones beside them are kept', () => {
  const refusals = async (files: Files): Promise<Record<string, string[]>> => {
    const { body } = await send({ ...files, [`good ${++shade}.png`]: await png() });
    expect(body.added).toHaveLength(1);
    const codes: Record<string, string[]> = {};
    for (const { file, code, message } of body.refused) {
      expect(message).toMatch(/\.$/);
      (codes[file] ??= []).push(code);
    }
    return codes;
  };
  const refusal = async (files: Files): Promise<string[]> => Object.values(await refusals(files)).flat();
  test('cut off, not a picture, of another kind than it says, moving, too many pixels', async () => {
    const whole = await sharp({
      create: {
        width: 300,
        height: 300,
        channels: 3,
        background: '#456',
        noise: { type: 'gaussian', mean: 128, sigma: 40 },
      },
    })
      .png()
      .toBuffer();
    const frames = await Promise.all(
      ['#f00', '#00f'].map((background) =>
        sharp({ create: { width: 64, height: 64, channels: 3, background } })
          .png()
          .toBuffer(),
      ),
    );
    // An acTL chunk after the header makes a PNG move.
    const still = await png();
    const moving = Buffer.concat([
      still.subarray(0, 33),
      Buffer.from([0, 0, 0, 8]),
      Buffer.from('acTL'),
      Buffer.alloc(12),
      still.subarray(33),
    ]);
    // All at once: each is told by itself, whatever lies beside it.
    const codes = await refusals({
      'cut.png': whole.subarray(0, whole.length / 2),
      'text.png': Buffer.from('hello, I am no picture'),
      'notes.txt': Buffer.from('hello'),
      'jpeg.png': await plain().jpeg().toBuffer(),
      'wide.png': await plain(9000, 16).png().toBuffer(),
      'large.png': await plain(8000, 8000).png({ compressionLevel: 1 }).toBuffer(),
      'frames.webp': await sharp(frames, { join: { animated: true } })
        .webp()
        .toBuffer(),
      'moves.png': moving,
      'orphan_normal.png': await png(),
    });
    expect(codes).toEqual({
      'cut.png': ['image.broken'],
      'text.png': ['image.broken'],
      'notes.txt': ['image.kind'],
      'jpeg.png': ['image.notWhatItSays'],
      'wide.png': ['image.tooManyPixels'],
      'large.png': ['image.tooManyPixels'],
      'frames.webp': ['image.animated'],
      'moves.png': ['image.animated'],
      'orphan_normal.png': ['image.alone'],
    });
  }, 120_000);
  test('archives: broken, bombs, names that lead out, thousands of files', async () => {
    const good = await png();
    const zip = zipSync({ 'in.png': good });
    const codes = await refusals({
      'cut.zip': zip.subarray(0, zip.length - 30),
      'bomb.zip': zipSync({ 'zeros.png': new Uint8Array(30 * 1024 * 1024) }, { level: 1 }),
      'huge.zip': zipSync({ 'ones.png': new Uint8Array(40 * 1024 * 1024) }, { level: 1 }),
      'out.zip': zipSync({ '../../etc/evil.png': await png(), '/abs.png': await png(), 'C:\\x.png': await png() }),
    });
    expect(codes).toEqual({
      'cut.zip': ['zip.broken'],
      'zeros.png': ['zip.bomb'],
      'ones.png': ['image.tooLarge'],
      '../../etc/evil.png': ['zip.path'],
      '/abs.png': ['zip.path'],
      'C:\\x.png': ['zip.path'],
    });
    const many = Object.fromEntries(Array.from({ length: 2100 }, (_, i) => [`t${i}.txt`, new Uint8Array(1)]));
    const over = await refusal({ 'many.zip': zipSync(many, { level: 0 }) });
    expect(over.filter((c) => c === 'zip.entries')).toHaveLength(1);
  }, 120_000);
  test('nothing at all, or no form', async () => {
    expect((await send({})).body.code).toBe('upload.empty');
    expect((await call<ErrorBody>('POST', '/api/packs/import', {})).body.code).toBe('upload.form');
  });
});

describe('an imported material', () => {
  test('is changed within its bounds', async () => {
    await send({ 'panel sheet.png': await png(128, 64) });
    const change = {
      label: 'Panels',
      tags: ['panel'],
      texelsPerCm: 1,
      substance: 'wood',
      regions: [{ name: 'left', x: 0, y: 0, width: 64, height: 64 }],
    };
    expect((await call<Material>('PATCH', '/api/materials/panel-sheet', change)).body).toMatchObject(change);
    const refused = async (body: object) =>
      (await call<ErrorBody>('PATCH', '/api/materials/panel-sheet', body)).body.code;
    expect(await refused({ regions: [{ name: 'wide', x: 100, y: 0, width: 64, height: 64 }] })).toBe('region.outside');
    expect(await refused({ regions: [0, 64].map((x) => ({ name: 'two', x, y: 0, width: 64, height: 64 })) })).toBe(
      'region.sameName',
    );
    for (const bad of [
      { texelsPerCm: 0 },
      { texelsPerCm: 'x' },
      { substance: 'cheese' },
      { label: '' },
      { tags: [''] },
      { regions: [{ name: 'x' }] },
    ])
      expect(await refused(bad)).toBe('request.invalid');
    expect(await material('panel-sheet')).toMatchObject(change);
  });

  test('in use is deleted only when asked again; uses are told with counts', async () => {
    await send({ 'used.png': await png() });
    const project = (await call<ProjectCard>('POST', '/api/projects', { name: 'P' })).body;
    const map = (
      await call<MapBody>('POST', '/api/maps', { projectId: project.id, name: 'Uses it', template: 'one-room' })
    ).body;
    const doc = parseMap(map.document);
    const refs = allFaces(doc, doc.brushes.keys()).slice(0, 3);
    const facts = { name: 'used', width: 64, height: 64, texelsPerCm: 1, solidity: 'solid' as const };
    const laid = { material: 'used', at: [0, 0, 0], normal: [0, 0, 1] } as const;
    await call('PUT', `/api/maps/${map.id}`, {
      baseVersion: map.version,
      document: writeMap(placeDecals(paintFaces(doc, refs, 'used'), [laid], () => facts).doc),
    });
    expect((await call<MaterialUse[]>('GET', '/api/materials/used/uses')).body).toEqual([
      { mapId: map.id, map: 'Uses it', faces: 3, pictures: 1 },
    ]);
    const refused = await call<ErrorBody>('DELETE', '/api/materials/used');
    expect([refused.status, refused.body.code]).toEqual([409, 'material.used']);
    expect(refused.body.message).toContain('Uses it (3 faces, 1 picture)');
    expect((await call('DELETE', '/api/materials/used?force=1')).status).toBe(200);
    expect(await material('used')).toBeUndefined();
  });

  test('goes out in a pack and comes in again as it was', async () => {
    const { pack } = (await send({ 'gate.png': await png(128, 64), 'gate_n.png': await png() }, { name: 'Round trip' }))
      .body;
    await call('PATCH', '/api/materials/gate', {
      label: 'Sluice gate',
      tags: ['gate'],
      texelsPerCm: 1.5,
      regions: [{ name: 'top', x: 0, y: 0, width: 128, height: 32 }],
    });
    const before = await material('gate');
    const out = await app.inject({ method: 'GET', url: `/api/packs/${pack.id}/export` });
    expect(out.headers['content-disposition']).toContain('round-trip.zip');
    const zip = new Uint8Array(out.rawPayload);
    expect(Object.keys(unzipSync(zip)).sort()).toEqual(['gate.webp', 'gate_normal.webp', 'pack.json']);
    expect((await call('DELETE', `/api/packs/${pack.id}`)).status).toBe(200);
    expect(await material('gate')).toBeUndefined();
    const back = (await send({ 'round-trip.zip': zip })).body;
    expect(back.refused).toEqual([]);
    expect(await material('gate')).toEqual({
      ...before,
      pack: back.pack.id,
      average: expect.any(String) as string,
      content: expect.any(String) as string,
    });
    expect((await picture('gate', 'normal')).statusCode).toBe(200);
  });
  test('a pack’s list that is none is told, and the pictures are taken by their names', async () => {
    const { body } = await send({
      'p.zip': zipSync({ 'pack.json': new TextEncoder().encode('{"format":'), 'lone.png': await png() }),
    });
    expect(body.refused).toMatchObject([{ code: 'pack.manifest' }]);
    expect(body.added.map((a) => a.name)).toEqual(['lone']);
  });
});
