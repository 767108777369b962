import type { Accessor } from '@gltf-transform/core';
import { Document, NodeIO, Primitive } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression, KHRLightsPunctual, Light } from '@gltf-transform/extensions';
import { boxSize, brushPlanes, dressSolid, dot, type Vec3 } from '@yesca/core';
import draco from 'draco3dgltf';
import { zipSync } from 'fflate';
import { MeshoptEncoder } from 'meshoptimizer';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { growModel, shiftModel } from './grow.ts';
import { ModelRefusal, openModels, readModel, type ModelFiles, type ReadModel } from '../index.ts';

const folder = mkdtempSync(join(tmpdir(), 'yesca-models-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const ALONE: ModelFiles['beside'] = () => Promise.resolve(null);
const read = (bytes: Uint8Array, more: Partial<ModelFiles> = {}, wishes = {}): Promise<ReadModel> =>
  readModel({ name: 'some-crate.glb', bytes, beside: ALONE, ...more }, wishes);
const refusal = async (work: Promise<unknown>): Promise<string> => {
  try {
    await work;
  } catch (error) {
    if (error instanceof ModelRefusal) {
      // Every sentence ends, and says what to do after what is wrong.
      expect(error.message).toMatch(/\. [A-Z].*\.$/);
      return error.code;
    }
    throw error;
  }
  return 'taken';
};

/** The corners of a box in m, y up, and its triangles. */
const CORNERS = [0, 1, 2, 3, 4, 5, 6, 7].map((k): Vec3 => [k & 1 ? 0.5 : -0.5, k & 2 ? 0.8 : 0, k & 4 ? 0.3 : -0.3]);
const SIDES = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]; // prettier-ignore
const ORDER = SIDES.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]);

/** A box of 1 × 0.8 × 0.6 m; `change` may do to it what it likes. */
function boxDoc(change: (doc: Document, primitive: Primitive) => void = () => undefined): Document {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>): Accessor =>
    doc.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const primitive = doc
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from(CORNERS.flat())))
    .setIndices(accessor('SCALAR', Uint16Array.from(ORDER)))
    .setMaterial(doc.createMaterial('oak planks'));
  const mesh = doc.createMesh('box').addPrimitive(primitive);
  doc.getRoot().setDefaultScene(doc.createScene().addChild(doc.createNode('n').setMesh(mesh)));
  change(doc, primitive);
  return doc;
}
const io = new NodeIO().registerExtensions([KHRLightsPunctual]);
const glb = (change?: Parameters<typeof boxDoc>[0]): Promise<Uint8Array> => io.writeBinary(boxDoc(change));
/** The text of a .gltf with what `change` does to its JSON, and its buffer. */
async function text(change: (json: Record<string, never>) => void = () => undefined) {
  const { json, resources } = await io.writeJSON(boxDoc(), { basename: 'box' });
  change(json as unknown as Record<string, never>);
  const bytes = new TextEncoder().encode(JSON.stringify(json));
  return { bytes, buffer: Object.values(resources)[0]!, uri: json.buffers![0]!.uri! };
}

describe('what is taken', () => {
  test('a box is as large as its file says, in cm with z up, closed, and collides as its box', async () => {
    const { facts, notes, scale, excess } = await read(await glb());
    expect(boxSize(facts.bounds).map((c) => Math.round(c * 1000) / 1000)).toEqual([100, 60, 80]);
    expect(facts.bounds.min[2]).toBeCloseTo(0, 6);
    expect([facts.triangles, facts.collision, facts.hulls.length, facts.substance]).toEqual([12, 'box', 1, 'wood']);
    expect([facts.name, facts.label, scale, notes]).toEqual(['some-crate', 'Some crate', 1, []]);
    expect(excess).toBeCloseTo(0, 4);
  });

  test('what is kept is a model like it: read again it is the same', async () => {
    const first = await read(await glb());
    const second = await read(first.glb);
    expect(second.facts.bounds).toEqual(first.facts.bounds);
    expect([second.facts.triangles, second.facts.collision]).toEqual([12, 'box']);
  });

  test('nodes turn, scale and mirror what hangs on them, fronts outward', async () => {
    const { facts, notes, excess } = await read(
      await glb((doc) => {
        const [node] = doc.getRoot().listNodes();
        const quarter = Math.SQRT1_2;
        const outer = doc.createNode().setScale([-2, 1, 1]).setTranslation([0, 0.5, 0]);
        node!.setRotation([0, quarter, 0, quarter]);
        doc.getRoot().getDefaultScene()!.removeChild(node!).addChild(outer.addChild(node!));
      }),
    );
    // A quarter turn about y makes 1 × 0.8 × 0.6 into 0.6 × 0.8 × 1, and then twice as wide.
    expect(boxSize(facts.bounds).map((c) => Math.round(c))).toEqual([120, 100, 80]);
    expect(Math.round(facts.bounds.min[2])).toBe(50);
    expect(notes).toEqual(['A mirrored part was turned right side out.']);
    expect(excess).toBeCloseTo(0, 4);
  });

  test('units are guessed by size, said, and can be given', async () => {
    const large = (by: number) => glb((doc) => void doc.getRoot().listNodes()[0]!.setScale([by, by, by]));
    const cm = await read(await large(100));
    expect([cm.scale, Math.round(boxSize(cm.facts.bounds)[0])]).toEqual([0.01, 100]);
    expect(cm.notes[0]).toMatch(/would be 100 m large: its units are taken for cm/);
    expect((await read(await large(10_000))).scale).toBe(0.001);
    const given = await read(await large(100), {}, { scale: 0.5 });
    expect([given.scale, given.notes]).toEqual([0.5, []]);
    expect((await read(await large(0.01))).notes[0]).toMatch(/only 1.0 cm large/);
    expect(await refusal(read(await glb(), {}, { scale: 0 }))).toBe('model.scale');
  });

  test('one that lies far from its origin stands on the middle of its foot', async () => {
    const { facts, notes } = await read(
      await glb((doc) => void doc.getRoot().listNodes()[0]!.setTranslation([40, 7, -9])),
    );
    expect(facts.bounds.min.map(Math.round)).toEqual([-50, -30, 0]);
    expect(notes[0]).toMatch(/^It lies far from its own origin/);
  });

  test('compressed in either way it is the same as plain, within a tenth of a millimetre', async () => {
    const { facts } = await read(await glb());
    await MeshoptEncoder.ready;
    const packing = new NodeIO()
      .registerExtensions([KHRDracoMeshCompression, EXTMeshoptCompression])
      .registerDependencies({
        'draco3d.encoder': await (
          draco as unknown as { createEncoderModule(): Promise<unknown> }
        ).createEncoderModule(),
        'meshopt.encoder': MeshoptEncoder,
      });
    for (const extension of [KHRDracoMeshCompression, EXTMeshoptCompression] as const) {
      const doc = boxDoc();
      doc.createExtension(extension as typeof KHRDracoMeshCompression).setRequired(true);
      const packed = await read(await packing.writeBinary(doc));
      packed.facts.bounds.max.forEach((c, k) => expect(Math.abs(c - facts.bounds.max[k]!)).toBeLessThan(0.01));
      expect(packed.facts.triangles).toBe(12);
    }
  });

  test('strips and fans are triangles, points are left out and said, lamps come along where they are', async () => {
    const {
      facts,
      notes,
      glb: kept,
    } = await read(
      await glb((doc, primitive) => {
        const list = (order: number[]) =>
          doc
            .createAccessor()
            .setType('SCALAR')
            .setArray(Uint16Array.from(order))
            .setBuffer(doc.getRoot().listBuffers()[0]!);
        const like = (mode: ReturnType<Primitive['getMode']>, order: number[]) =>
          doc
            .createPrimitive()
            .setMode(mode)
            .setAttribute('POSITION', primitive.getAttribute('POSITION'))
            .setIndices(list(order));
        const [mesh] = doc.getRoot().listMeshes();
        mesh!.removePrimitive(primitive);
        mesh!.addPrimitive(like(Primitive.Mode.TRIANGLE_STRIP!, [0, 2, 1, 3, 5, 7, 4, 6]));
        mesh!.addPrimitive(like(Primitive.Mode.TRIANGLE_FAN!, [0, 1, 5, 4]));
        mesh!.addPrimitive(like(Primitive.Mode.POINTS!, [0, 1]));
        const light = doc
          .createExtension(KHRLightsPunctual)
          .createLight('l')
          .setType(Light.Type.POINT!)
          .setIntensity(40);
        doc
          .getRoot()
          .getDefaultScene()!
          .addChild(doc.createNode().setTranslation([0, 0.7, 0.2]).setExtension('KHR_lights_punctual', light));
        // One that looks east, by a half turn of a quarter about the upright.
        doc
          .getRoot()
          .getDefaultScene()!
          .addChild(
            doc
              .createNode('Socket: Pipe')
              .setTranslation([0.5, 0.1, 0])
              .setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]),
          );
      }),
    );
    expect(facts.triangles).toBe(6 + 2);
    expect(notes[0]).toMatch(/^Points and lines are left out/);
    expect(notes.some((n) => /not closed/.test(n))).toBe(true);
    expect(facts.lights).toEqual([{ at: [0, -20, 70], candela: 40, kelvin: 3000 }]);
    const [socket] = facts.sockets!;
    expect(socket!.name).toBe('pipe');
    [50, 0, 10, 1, 0, 0].forEach((c, k) => expect([...socket!.at, ...socket!.way][k]).toBeCloseTo(c, 6));
    // The file that is kept says so as well, also when it was made larger and its pivot moved.
    const again = await read(await shiftModel(await growModel(kept, 2), [20, 0, 0]), {}, { scale: 1 });
    [80, 0, 20, 1, 0, 0].forEach((c, k) =>
      expect([...again.facts.sockets![0]!.at, ...again.facts.sockets![0]!.way][k]).toBeCloseTo(c, 4),
    );
    [-20, -40, 140].forEach((c, k) => expect(again.facts.lights[0]!.at[k]).toBeCloseTo(c, 4));
    expect(again.facts.lights[0]!.candela).toBe(40);
  });

  test('pictures are kept no larger than they are seen, once each', async () => {
    const noise = await sharp({
      create: {
        width: 2000,
        height: 500,
        channels: 3,
        background: '#886644',
        noise: { type: 'gaussian', mean: 128, sigma: 40 },
      },
    })
      .png()
      .toBuffer();
    const model = await read(
      await glb((doc, primitive) => {
        const texture = doc.createTexture('boards').setImage(new Uint8Array(noise)).setMimeType('image/png');
        const places = doc
          .createAccessor()
          .setType('VEC2')
          .setArray(new Float32Array(16))
          .setBuffer(doc.getRoot().listBuffers()[0]!);
        primitive.setAttribute('TEXCOORD_0', places);
        primitive.getMaterial()!.setBaseColorTexture(texture).setEmissiveTexture(texture);
      }),
    );
    const textures = (await io.readBinary(model.glb)).getRoot().listTextures();
    expect(textures.map((t) => t.getSize())).toEqual([[1024, 256]]);
  });

  test('parts that are cut hold every corner of a model', async () => {
    const model = await read(
      await glb((doc) => {
        const [mesh] = doc.getRoot().listMeshes();
        const scene = doc.getRoot().getDefaultScene()!;
        for (const [x, y] of [
          [1.2, 0.6],
          [0.3, 1.1],
        ] as const)
          scene.addChild(doc.createNode().setMesh(mesh!).setTranslation([x, y, 0.1]));
      }),
    );
    const planes = model.facts.hulls.map((solid) => brushPlanes(dressSolid(solid, 'x', 'm')));
    for (const [x, y, z] of CORNERS)
      for (const [dx, dy, dz] of [
        [0, 0, 0],
        [1.2, 0.6, 0.1],
        [0.3, 1.1, 0.1],
      ] as const) {
        const p: Vec3 = [(x + dx) * 100, -(z + dz) * 100, (y + dy) * 100];
        expect(planes.some((of) => of.every(({ normal, distance }) => dot(normal, p) <= distance + 0.02))).toBe(true);
      }
    expect(model.facts.collision).toBe('hulls');
  });
});

describe('what is not taken is said, and nothing of it', () => {
  const say = (bytes: Uint8Array, more: Partial<ModelFiles> = {}) => refusal(read(bytes, more));
  const words = (t: string): Uint8Array => new TextEncoder().encode(t);

  test('what is no glTF 2.0, or is cut off', async () => {
    expect(await say(words('solid of some other program'))).toBe('model.format');
    expect(await say(words('{"asset":{"generator":"x"}}'))).toBe('model.format');
    expect(await say(words('{"asset":{"version":"1.0"}}'))).toBe('model.version');
    expect(await say(new Uint8Array(0))).toBe('model.format');
    const whole = await glb();
    for (const share of [0.2, 0.6, 0.99])
      expect(await say(whole.slice(0, whole.length * share))).toMatch(/^model\.(broken|format)$/);
    const scrambled = whole.slice();
    scrambled.fill(0x7f, scrambled.length - 200);
    expect(await say(scrambled)).not.toBe('taken');
  });

  test('bones, animation, shape keys; nothing to show; corners at no place', async () => {
    const skinned = glb((doc) => {
      const [node] = doc.getRoot().listNodes();
      node!.setSkin(doc.createSkin().addJoint(doc.createNode('bone')));
    });
    expect(await say(await skinned)).toBe('model.skinned');
    const animated = await text((json) => Object.assign(json, { animations: [{ channels: [], samplers: [] }] }));
    expect(await say(animated.bytes, { name: 'a.gltf' })).toBe('model.animated');
    const morphed = glb((doc, primitive) => {
      primitive.addTarget(doc.createPrimitiveTarget().setAttribute('POSITION', primitive.getAttribute('POSITION')));
    });
    expect(await say(await morphed)).toBe('model.morphs');
    expect(await say(await glb((doc) => doc.getRoot().listNodes()[0]!.setMesh(null)))).toBe('model.empty');
    const nowhere = glb((_, primitive) => {
      const place = primitive.getAttribute('POSITION')!;
      place.setElement(3, [NaN, 0, 0]);
    });
    expect(await say(await nowhere)).toMatch(/^model\.(notNumbers|invalid)$/);
    const flat = glb((_, primitive) => void primitive.getAttribute('POSITION')!.setArray(new Float32Array(24)));
    expect(await say(await flat)).toBe('model.empty');
  });

  test('ten million triangles, and too many pictures, are told by their counts before anything is unpacked', async () => {
    const huge = await text((json) => {
      const accessors = (json as unknown as { accessors: { count: number; type: string }[] }).accessors;
      accessors.find((a) => a.type === 'SCALAR')!.count = 30_000_000;
    });
    expect(await say(huge.bytes, { name: 'a.gltf' })).toBe('model.triangles');
    const many = await text((json) =>
      Object.assign(json, { images: Array.from({ length: 40 }, () => ({ uri: 'a.png' })) }),
    );
    expect(await say(many.bytes, { name: 'a.gltf' })).toBe('model.textures');
  });

  test('files that are not there, or lie outside; extensions that nobody knows; pictures that are none', async () => {
    const { bytes, buffer, uri } = await text();
    const beside: ModelFiles['beside'] = (name) => Promise.resolve(name === uri ? buffer : null);
    expect(await say(bytes, { name: 'a.gltf', beside })).toBe('taken');
    expect(await say(bytes, { name: 'a.gltf' })).toBe('model.missingFile');
    for (const path of ['../secret.bin', '/etc/passwd', 'C:\\x.bin', 'http://somewhere/x.bin', '%2e%2e/x.bin']) {
      const outside = await text(
        (json) => void ((json as unknown as { buffers: { uri: string }[] }).buffers[0]!.uri = path),
      );
      expect(await say(outside.bytes, { name: 'a.gltf', beside: () => Promise.resolve(buffer) })).toBe('model.path');
    }
    const strange = await text((json) =>
      Object.assign(json, { extensionsUsed: ['X_odd'], extensionsRequired: ['X_odd'] }),
    );
    expect(await say(strange.bytes, { name: 'a.gltf', beside })).toMatch(/^model\.(extension|invalid)$/);
    const picture = glb((doc, primitive) => {
      const texture = doc.createTexture('boards').setImage(words('no picture')).setMimeType('image/png');
      primitive.getMaterial()!.setBaseColorTexture(texture);
    });
    expect(await say(await picture)).toMatch(/^model\.(picture|invalid)$/);
  });
});

describe('files', () => {
  const put = (name: string, bytes: Uint8Array): string => {
    writeFileSync(join(folder, name), bytes);
    return join(folder, name);
  };
  const from = async (path: string, which = 0): Promise<ReadModel> => {
    const { models, close } = await openModels(path);
    return readModel(await models[which]!.open()).finally(close);
  };

  test('a .gltf takes what lies beside it; a ZIP is looked into, wherever in it the model lies', async () => {
    const { bytes, buffer, uri } = await text();
    put(uri, buffer);
    expect((await from(put('Old_chest-2.gltf', bytes))).facts.label).toBe('Old chest 2');
    const zip = zipSync({ 'a/box.gltf': bytes, [`a/${uri}`]: buffer, 'readme.txt': new Uint8Array(3) });
    expect((await from(put('box.zip', zip))).facts.triangles).toBe(12);
  });

  test('of an archive with several each is opened by itself, with its own files; what leads out is left behind', async () => {
    const { bytes, buffer, uri } = await text();
    const path = put(
      'pack.zip',
      zipSync({
        'box.gltf': bytes,
        [uri]: buffer,
        'lone/box.gltf': bytes,
        'b.glb': await glb(),
        '../out.glb': await glb(),
        'pack.json': new TextEncoder().encode('{"format":"yesca-pack"}'),
      }),
    );
    const { models, list, refused, close } = await openModels(path);
    close();
    expect(models.map((m) => m.name)).toEqual(['box.gltf', 'lone/box.gltf', 'b.glb']);
    expect(list).toBe('{"format":"yesca-pack"}');
    expect(refused.map((r) => [r.file, r.code])).toEqual([['../out.glb', 'zip.path']]);
    expect((await from(path, 0)).facts.triangles).toBe(12);
    expect(await refusal(from(path, 1))).toBe('model.missingFile');
    expect((await from(path, 2)).facts.label).toBe('B');
  });

  test('archives without a model, that lead out, or that blow up, are said', async () => {
    const model = await glb();
    const say = (name: string, entries: Record<string, Uint8Array>) => refusal(from(put(name, zipSync(entries))));
    expect(await say('none.zip', { 'a.txt': model })).toBe('model.none');
    expect(await say('out.zip', { '../a.glb': model })).toBe('zip.path');
    expect(await say('bomb.zip', { 'a.glb': new Uint8Array(24 * 1024 * 1024) })).toBe('zip.bomb');
    expect(await refusal(from(put('cut.zip', zipSync({ 'a.glb': model }).slice(0, 90))))).toBe('zip.broken');
  });
});
