import {
  BufferAttribute,
  DataTexture,
  DynamicDrawUsage,
  Group,
  LinearFilter,
  Mesh,
  MeshBasicMaterial,
  RGBFormat,
  ShaderMaterial,
  UnsignedInt5999Type,
  type Material,
  type Vector2,
  type Vector3,
} from 'three';
import {
  decalOf,
  LUX_SCALE,
  markVisible,
  mixLight,
  NO_PAGE,
  NO_REFLECTION,
  WHOLE_GAIN,
  type Level,
  type LightMix,
  type MapSettings,
  type Pose,
  type Share,
  type ThrownDecals,
} from '@yesca/core';
import { batchDecals, decalAttributes, geometryOf } from './decals.ts';
import { batchMaterial, decalOrder, drawOrder, type BatchedLook } from './looks.ts';
import type { PicturePages } from './picture-pages.ts';
import { followSky, skyMaterial } from './sky.ts';
import type { SurfaceLight } from './surface-shader.ts';

/** Surfaces that show the sky. */
const SKY = 'sky';

/** Lux that a white wall shows as full white before the tone curve bends. */
export const WHITE_LUX = 55;
/** What a unit of light's texels counts in Play. */
export const IN_PLAY = LUX_SCALE / WHITE_LUX;
const NO_BANDS = [0, 0] as const;

interface LevelBatch {
  readonly mesh: Mesh;
  /** What of it is drawn with which surface: corners of triangles. */
  readonly parts: readonly { readonly surface: number; readonly corners: Uint32Array; readonly fine?: boolean }[];
  readonly index: Uint32Array;
  /** Which of the level's bodies it is of, −1 for what stands still. */
  readonly body: number;
  readonly own: Material;
}

/** What is broken or away is drawn with it. */
const NOTHING = new MeshBasicMaterial({ visible: false });

/** How light is shown. */
export interface Exposure {
  /** So many times as bright as in Play, as a power of two. */
  readonly stops: number;
  /** Lux below and above which surfaces are striped; null for none. */
  readonly bands: readonly [dark: number, bright: number] | null;
  /** Whether lines between luxels are drawn over it. */
  readonly luxels?: boolean;
  /** Whether light is drawn as it is, in what its texels count, rather than as it is seen. */
  readonly bare?: boolean;
  /** Whether relief, highlights and reflections are left out. */
  readonly smooth?: boolean;
  /** Whether decals for full detail alone are left out. */
  readonly plain?: boolean;
  /** What is shown on one side only of a line down the picture: the line (pixels from the left), and which side. Null for both sides. */
  readonly side: readonly [line: number, side: 'left' | 'right'] | null;
}

/** A level as meshes by material and light page, of which only what the viewer's cell may see is drawn. */
export interface LevelMesh {
  readonly meshes: readonly Mesh[];
  /** The decals on them: those that the level was built with, till others are stuck on. */
  readonly decals: Group;
  readonly stick: (decals: ThrownDecals) => void;
  /** Those of them that show the sky. */
  readonly sky: readonly Mesh[];
  /** Puts a part of a thing where it is, or takes it out of the picture. */
  readonly move: (thing: string, part: number, pose: Pose, away: boolean) => void;
  /** How much brighter it is, by red, green and blue, where a part of a thing is than where it was lit. */
  readonly carry: (thing: string, part: number, times: readonly [number, number, number]) => void;
  /** Lets lamps that can be switched shine with a share of their strength; those that are not named stay as they are. */
  readonly shine: (shares: ReadonlyMap<string, Share>) => void;
  /** Draws for a viewer in a cell. Gives how many surfaces that is. */
  readonly show: (cell: number, open?: Uint8Array | null) => number;
  /** Draws the surfaces that are marked, whoever may see them. Gives how many. */
  readonly draw: (marked: Uint8Array) => number;
  /** The surfaces that are drawn. */
  readonly drawn: Uint8Array;
  /** How bright and in what way light is shown. */
  readonly expose: (exposure: Exposure) => void;
  /** Shows the sky and the fog of a map as they are now. */
  readonly follow: (settings: MapSettings) => void;
  readonly dispose: () => void;
}

/** Builds the meshes; `lookOf` gives a material's place on the pages of pictures, `mix` the light. */
export function makeLevelMesh(
  level: Level,
  pages: PicturePages,
  lookOf: (material: string) => BatchedLook,
  mix: LightMix = mixLight(level),
): LevelMesh {
  const light = pageTextures(level, mix.texels, colorTexture);
  const ways = pageTextures(level, level.lightWays, wayTexture);
  const reflections = reflectionTexture(level);
  const looks = level.meta.materials.map(lookOf);
  const groups = new Map<string, number[]>();
  const bodyOf = new Int32Array(level.surfaceMaterial.length).fill(-1);
  level.meta.bodies.forEach(({ surfaces: [first, end] }, k) => bodyOf.fill(k, first, end));
  for (let s = 0; s < level.surfaceMaterial.length; s++) {
    const page = level.surfacePage[s]!;
    // What moves is a mesh of its own.
    const key = `${bodyOf[s]} ${page === NO_PAGE ? SKY : `${page} ${looks[level.surfaceMaterial[s]!]!.key}`}`;
    const list = groups.get(key);
    if (list) list.push(s);
    else groups.set(key, [s]);
  }
  const attributes = {
    position: new BufferAttribute(level.position, 3),
    light: new BufferAttribute(level.light, 2),
    gain: new BufferAttribute(level.gain, 1, true),
    reflection: reflectionAttribute(level),
    ...pictureAttributes(level, looks),
  };
  const makeBatch = (
    of: Readonly<Record<string, BufferAttribute>>,
    parts: LevelBatch['parts'],
    material: Material,
    order: number,
  ): LevelBatch => {
    const index = new Uint32Array(parts.reduce((n, { corners }) => n + corners.length, 0));
    const mesh = new Mesh(geometryOf(of, new BufferAttribute(index, 1).setUsage(DynamicDrawUsage)), material);
    mesh.renderOrder = order;
    // Culling is by cells; the mesh's own bounds span the map.
    mesh.frustumCulled = false;
    const body = bodyOf[parts[0]!.surface]!;
    if (body >= 0) mesh.matrixAutoUpdate = false;
    return { mesh, parts, index, body, own: material };
  };
  const litBy = (page: number): SurfaceLight => ({
    by: 'map',
    page: light[page]!,
    ways: ways[page]!,
    reflections,
    exposure: IN_PLAY,
    air: level.meta.settings,
  });
  const ground: LevelBatch[] = [...groups.values()].map((surfaces) => {
    const first = surfaces[0]!;
    const sky = level.surfacePage[first]! === NO_PAGE;
    const look = looks[level.surfaceMaterial[first]!]!;
    return makeBatch(
      attributes,
      surfaces.map((surface) => ({
        surface,
        corners: level.index.subarray(level.surfaceIndexFirst[surface], level.surfaceIndexFirst[surface + 1]),
      })),
      sky
        ? skyMaterial(level.meta.settings)
        : batchMaterial(pages, look.key, { view: 'textured', light: litBy(level.surfacePage[first]!) }),
      sky ? 0 : drawOrder(look.key),
    );
  });
  const decals = new Group();
  let batches = ground;
  const bodyAt = new Map(level.meta.bodies.map(({ thing, part }, k) => [`${thing} ${part}`, k]));
  const ofPart = (thing: string, part: number): LevelBatch[] => {
    const k = bodyAt.get(`${thing} ${part}`);
    return k === undefined ? [] : (byBody.get(k) ?? []);
  };
  let byBody = new Map<number, LevelBatch[]>();
  const gather = () => {
    byBody = new Map();
    for (const batch of batches) {
      const list = byBody.get(batch.body);
      if (list) list.push(batch);
      else byBody.set(batch.body, [batch]);
    }
  };
  const visible = new Uint8Array(level.surfaceMaterial.length);
  const draw = (marked: Uint8Array): number => {
    visible.set(marked);
    for (const { mesh, parts, index } of batches) {
      let n = 0;
      for (const { surface, corners, fine } of parts) {
        if (!marked[surface] || (fine && exposed?.plain)) continue;
        index.set(corners, n);
        n += corners.length;
      }
      mesh.geometry.index!.needsUpdate = true;
      mesh.geometry.setDrawRange(0, n);
      mesh.visible = n > 0;
    }
    return visible.reduce((n, on) => n + Number(on > 0), 0);
  };
  const drop = ({ mesh, own }: LevelBatch): void => {
    mesh.geometry.dispose();
    own.dispose();
  };
  const stick = (thrown: ThrownDecals): void => {
    for (const batch of batches.slice(ground.length)) {
      decals.remove(batch.mesh);
      drop(batch);
    }
    const looked = new Map<string, BatchedLook>();
    const look = (material: string): BatchedLook => {
      let known = looked.get(material);
      if (!known) looked.set(material, (known = lookOf(material)));
      return known;
    };
    const { decalSurface, decalIndex, decalIndexFirst } = thrown;
    const corners = thrown.decalPosition.length / 3;
    const of = {
      ...decalAttributes(thrown, look),
      light: new BufferAttribute(thrown.decalLight, 2),
      gain: new BufferAttribute(new Uint8Array(corners).fill(WHOLE_GAIN), 1, true),
      reflection: new BufferAttribute(new Float32Array(corners).fill(NO_REFLECTION), 1),
    };
    const gathered = batchDecals(thrown, look, (piece) => {
      const s = decalSurface[piece]!;
      return `${bodyOf[s]} ${level.surfacePage[s]} ${drawOrder(looks[level.surfaceMaterial[s]!]!.key)}`;
    });
    const made = gathered.map(({ key, pieces }, place) => {
      const s = decalSurface[pieces[0]!]!;
      const on = drawOrder(looks[level.surfaceMaterial[s]!]!.key);
      return makeBatch(
        of,
        pieces.map((piece) => ({
          surface: decalSurface[piece]!,
          fine: decalOf(thrown.things[thrown.decalThing[piece]!]!)!.fine,
          corners: decalIndex.subarray(decalIndexFirst[piece], decalIndexFirst[piece + 1]),
        })),
        batchMaterial(pages, key, { view: 'textured', light: litBy(level.surfacePage[s]!), decal: true }),
        decalOrder(on, place, gathered.length),
      );
    });
    batches = [...ground, ...made];
    gather();
    if (made.length > 0) decals.add(...made.map((b) => b.mesh));
    if (exposed) expose(exposed);
    draw(visible.slice());
  };
  let exposed: Exposure | null = null;
  const expose = (exposure: Exposure): void => {
    const redraw = exposed?.plain !== exposure.plain;
    exposed = exposure;
    const { stops, bands, side, luxels = false, bare = false, smooth = false } = exposure;
    for (const { own } of batches) {
      const { uniforms } = own as Partial<ShaderMaterial>;
      if (!uniforms?.lightPage) continue;
      uniforms.exposure!.value = IN_PLAY * 2 ** stops;
      uniforms.lattice!.value = luxels ? 0.55 : 0;
      uniforms.bare!.value = bare;
      uniforms.relieved!.value = !smooth;
      (uniforms.bands!.value as Vector2).set(
        ...(bands ? ([bands[0] / LUX_SCALE, bands[1] / LUX_SCALE] as const) : NO_BANDS),
      );
      (uniforms.side!.value as Vector2).set(side?.[0] ?? 0, side ? (side[1] === 'left' ? 1 : -1) : 0);
    }
    if (redraw) draw(visible.slice());
  };
  gather();
  const things = new Map(level.meta.entities.map((e) => [e.id, e]));
  stick({ ...level, things: level.meta.decals.flatMap((id) => things.get(id) ?? []) });
  return {
    meshes: ground.map((b) => b.mesh),
    decals,
    stick,
    sky: ground.filter((b) => level.surfacePage[b.parts[0]!.surface] === NO_PAGE).map((b) => b.mesh),
    move: (thing, part, p, away) => {
      for (const { mesh, own } of ofPart(thing, part)) {
        mesh.matrix.set(p[0], p[1], p[2], p[3], p[4], p[5], p[6], p[7], p[8], p[9], p[10], p[11], 0, 0, 0, 1);
        mesh.matrixWorldNeedsUpdate = true;
        mesh.material = away ? NOTHING : own;
      }
    },
    carry: (thing, part, times) => {
      for (const { own } of ofPart(thing, part))
        ((own as Partial<ShaderMaterial>).uniforms?.carried?.value as Vector3 | undefined)?.set(...times);
    },
    shine: (shares) => {
      for (const page of mix.shine(shares)) light[page]!.needsUpdate = true;
    },
    show: (cell, open = null) => {
      markVisible(level, cell, visible, open);
      return draw(visible);
    },
    draw,
    drawn: visible,
    expose,
    follow: (settings) => {
      for (const { own } of batches) if (own instanceof ShaderMaterial) followSky(own, settings);
    },
    dispose: () => {
      batches.forEach(drop);
      for (const texture of [...light, ...ways, reflections]) texture.dispose();
    },
  };
}

/** Where on its picture each corner lies, and in which layer that is: corners belong to one surface each. */
function pictureAttributes(level: Level, looks: readonly BatchedLook[]): Record<'uv' | 'layer', BufferAttribute> {
  const corners = level.position.length / 3;
  const uv = new Float32Array(corners * 2);
  const layer = new Float32Array(corners);
  for (let s = 0; s < level.surfaceMaterial.length; s++) {
    const look = looks[level.surfaceMaterial[s]!]!;
    for (let k = level.surfaceIndexFirst[s]!; k < level.surfaceIndexFirst[s + 1]!; k++) {
      const v = level.index[k]!;
      uv[v * 2] = level.texel[v * 2]! / look.size[0];
      uv[v * 2 + 1] = level.texel[v * 2 + 1]! / look.size[1];
      layer[v] = look.layer;
    }
  }
  return { uv: new BufferAttribute(uv, 2), layer: new BufferAttribute(layer, 1) };
}

/** The pages of light as textures: what four bytes of each texel hold is told by `make`. */
function pageTextures(
  { meta }: Level,
  words: Uint32Array,
  make: (page: Uint32Array, width: number, height: number) => DataTexture,
): DataTexture[] {
  let at = 0;
  return meta.pages.map(([w, h]) => smoothed(make(words.subarray(at, (at += w * h)), w, h)));
}

/** Packed colours. */
const colorTexture = (words: Uint32Array, width: number, height: number): DataTexture =>
  new DataTexture(words, width, height, RGBFormat, UnsignedInt5999Type);

/** Packed directions. */
const wayTexture = (words: Uint32Array, width: number, height: number): DataTexture =>
  new DataTexture(new Uint8Array(words.buffer, words.byteOffset, words.byteLength), width, height);

/** All places' reflections; a single dark texel where there are none. */
function reflectionTexture({ meta: { reflections }, reflectionTexels }: Level): DataTexture {
  const { width, height } = reflections.width > 0 ? reflections : { width: 1, height: 1 };
  const texels = reflections.width > 0 ? reflectionTexels : new Uint32Array(1);
  return smoothed(colorTexture(texels, width, height));
}

function smoothed(texture: DataTexture): DataTexture {
  texture.minFilter = texture.magFilter = LinearFilter;
  texture.generateMipmaps = false;
  texture.needsUpdate = true;
  return texture;
}

/** Of each corner the place whose reflections its surface shows. */
function reflectionAttribute(level: Level): BufferAttribute {
  const out = new Float32Array(level.position.length / 3);
  for (let s = 0; s < level.surfaceReflection.length; s++)
    for (let k = level.surfaceIndexFirst[s]!; k < level.surfaceIndexFirst[s + 1]!; k++)
      out[level.index[k]!] = level.surfaceReflection[s]!;
  return new BufferAttribute(out, 1);
}
