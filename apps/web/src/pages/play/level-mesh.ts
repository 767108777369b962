import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DataTexture,
  DynamicDrawUsage,
  LinearFilter,
  Mesh,
  RGBFormat,
  ShaderMaterial,
  UnsignedInt5999Type,
  type Texture,
} from 'three';
import { linearColor, LUX_SCALE, markVisible, NO_PAGE, type Level } from '@yesca/core';
import { materialFacts } from '../../state/library.ts';
import { materialSize, materialTexture } from './textures.ts';

/** Lux that a white wall shows as full white before the tone curve bends. */
const WHITE_LUX = 55;

const VERTEX = /* glsl */ `
attribute vec2 light;
varying vec2 vUv;
varying vec2 vLight;
varying vec3 vPlace;
void main() {
  vUv = uv;
  vLight = light;
  vPlace = position;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;

const LIT = /* glsl */ `
uniform sampler2D map;
uniform sampler2D lightMap;
uniform float exposure;
uniform float holes;
varying vec2 vUv;
varying vec2 vLight;
void main() {
  vec3 lux = texture2D(lightMap, vLight).rgb;
  vec4 texel = texture2D(map, vUv);
  if (holes > 0.5 && texel.a < 0.5) discard;
  vec3 c = texel.rgb * lux * exposure;
  // Bright light bends over instead of clipping.
  gl_FragColor = linearToOutputTexel(vec4(1.0 - exp(-c * 1.35), holes > 0.5 ? 1.0 : texel.a));
}`;

const SKY = /* glsl */ `
uniform vec3 color;
varying vec3 vPlace;
void main() {
  vec3 d = normalize(vPlace - cameraPosition);
  gl_FragColor = linearToOutputTexel(vec4(mix(color * 1.15, color * vec3(0.62, 0.74, 0.92), smoothstep(0.0, 0.9, d.z)), 1.0));
}`;

interface LevelBatch {
  readonly mesh: Mesh;
  readonly surfaces: readonly number[];
  readonly index: Uint32Array;
}

/** A level as meshes by material and light page, of which only what the viewer's cell may see is drawn. */
export interface LevelMesh {
  readonly meshes: readonly Mesh[];
  /** Draws for a viewer in a cell. Gives how many surfaces that is. */
  readonly show: (cell: number) => number;
  readonly dispose: () => void;
}

export function makeLevelMesh(level: Level, onTexture: () => void): LevelMesh {
  const pages = lightPages(level);
  const groups = new Map<string, number[]>();
  for (let s = 0; s < level.surfaceMaterial.length; s++) {
    const page = level.surfacePage[s]!;
    const key = page === NO_PAGE ? 'sky' : `${level.surfaceMaterial[s]} ${page}`;
    const list = groups.get(key);
    if (list) list.push(s);
    else groups.set(key, [s]);
  }
  const position = new BufferAttribute(level.position, 3);
  const light = new BufferAttribute(level.light, 2);
  const batches: LevelBatch[] = [...groups].map(([key, surfaces]) => {
    const name = level.meta.materials[level.surfaceMaterial[surfaces[0]!]!]!;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', position);
    geometry.setAttribute('light', light);
    geometry.setAttribute('uv', new BufferAttribute(scaledTexels(level, surfaces, materialSize(name)), 2));
    const count = surfaces.reduce((n, s) => n + level.surfaceIndexFirst[s + 1]! - level.surfaceIndexFirst[s]!, 0);
    const index = new Uint32Array(count);
    geometry.setIndex(new BufferAttribute(index, 1).setUsage(DynamicDrawUsage));
    const mesh = new Mesh(
      geometry,
      key === 'sky' ? skyMaterial(level) : litMaterial(name, onTexture, pages[level.surfacePage[surfaces[0]!]!]!),
    );
    // Culling is by cells; the mesh's own bounds span the map.
    mesh.frustumCulled = false;
    return { mesh, surfaces, index };
  });
  const visible = new Uint8Array(level.surfaceMaterial.length);
  return {
    meshes: batches.map((b) => b.mesh),
    show: (cell) => {
      markVisible(level, cell, visible);
      let drawn = 0;
      for (const { mesh, surfaces, index } of batches) {
        let n = 0;
        for (const s of surfaces) {
          if (!visible[s]) continue;
          drawn++;
          const part = level.index.subarray(level.surfaceIndexFirst[s], level.surfaceIndexFirst[s + 1]);
          index.set(part, n);
          n += part.length;
        }
        mesh.geometry.index!.needsUpdate = true;
        mesh.geometry.setDrawRange(0, n);
        mesh.visible = n > 0;
      }
      return drawn;
    },
    dispose: () => {
      for (const { mesh } of batches) {
        mesh.geometry.dispose();
        (mesh.material as ShaderMaterial).dispose();
      }
      for (const p of pages) p.dispose();
    },
  };
}

/** Texture coordinates of one material's surfaces; the picture's rows run down, texture rows up. */
function scaledTexels(level: Level, surfaces: readonly number[], [w, h]: readonly [number, number]): Float32Array {
  const uv = new Float32Array((level.position.length / 3) * 2);
  for (const s of surfaces)
    for (let k = level.surfaceIndexFirst[s]!; k < level.surfaceIndexFirst[s + 1]!; k++) {
      const v = level.index[k]!;
      uv[v * 2] = level.texel[v * 2]! / w;
      uv[v * 2 + 1] = -level.texel[v * 2 + 1]! / h;
    }
  return uv;
}

function lightPages(level: Level): DataTexture[] {
  let at = 0;
  return level.meta.pages.map(([w, h]) => {
    const texture = new DataTexture(level.lightTexels.subarray(at, at + w * h), w, h, RGBFormat, UnsignedInt5999Type);
    at += w * h;
    texture.minFilter = texture.magFilter = LinearFilter;
    texture.generateMipmaps = false;
    texture.needsUpdate = true;
    return texture;
  });
}

function litMaterial(name: string, onTexture: () => void, lightMap: Texture): ShaderMaterial {
  const solidity = materialFacts(name)?.solidity ?? 'solid';
  return new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: LIT,
    uniforms: {
      map: { value: materialTexture(name, onTexture) },
      lightMap: { value: lightMap },
      exposure: { value: LUX_SCALE / WHITE_LUX },
      holes: { value: solidity === 'cutOut' ? 1 : 0 },
    },
    transparent: solidity === 'seeThrough',
    depthWrite: solidity !== 'seeThrough',
  });
}

const skyMaterial = (level: Level): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: SKY,
    uniforms: { color: { value: new Color(...linearColor(level.meta.settings.skyColor)) } },
  });
