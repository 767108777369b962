import {
  BufferAttribute,
  BufferGeometry,
  Matrix4,
  Vector2,
  Vector3,
  type ShaderMaterial,
  type WebGLRenderer,
} from 'three';
import { Reflector } from 'three/addons/objects/Reflector.js';
import type { Level } from '@yesca/core';

/** Planes that reflect, at most: the largest. Each is another look at the scene. */
const MOST = 4;

/** The picture in a mirror has so many pixels for each of the screen's. */
const SHARP = 0.5;

/** Surfaces of one plane that reflect alike. */
interface MirrorPlane {
  readonly surfaces: number[];
  readonly strength: number;
  area: number;
}

/** What a mirror shows: what is seen in it, as strong as it reflects; more at a flat angle, as polished ground does. */
const SHADER = {
  name: 'mirror',
  uniforms: {
    color: { value: null },
    tDiffuse: { value: null },
    textureMatrix: { value: null },
    strength: { value: 1 },
  },
  vertexShader: /* glsl */ `
uniform mat4 textureMatrix;
varying vec4 vSeen;
varying vec3 vTowards;
void main() {
  vSeen = textureMatrix * vec4(position, 1.0);
  vec4 view = modelViewMatrix * vec4(position, 1.0);
  vTowards = -view.xyz * mat3(modelViewMatrix);
  gl_Position = projectionMatrix * view;
}`,
  fragmentShader: /* glsl */ `
uniform sampler2D tDiffuse;
uniform float strength;
varying vec4 vSeen;
varying vec3 vTowards;
void main() {
  // Schlick's approximation, with what is set as what is reflected straight on.
  float grazing = pow(1.0 - clamp(normalize(vTowards).z, 0.0, 1.0), 5.0);
  float share = strength + (1.0 - strength) * grazing * step(0.001, strength);
  gl_FragColor = vec4(texture2DProj(tDiffuse, vSeen).rgb, share);
  #include <colorspace_fragment>
}`,
};

/** A level's mirrors: drawn over the surfaces that reflect. */
export interface LevelMirrors {
  readonly meshes: readonly Reflector[];
  /** Shows those of which some surface is drawn. */
  readonly show: (drawn: Uint8Array) => void;
  readonly dispose: () => void;
}

/** The planes of a level that reflect, the largest first. */
export function mirrorPlanes(
  level: Pick<Level, 'surfaceMirror' | 'surfaceNormal' | 'surfaceIndexFirst' | 'index' | 'position'>,
): MirrorPlane[] {
  const planes = new Map<string, MirrorPlane>();
  const corner = (v: number) => new Vector3().fromArray(level.position, v * 3);
  level.surfaceMirror.forEach((mirror, s) => {
    if (mirror === 0) return;
    const normal = new Vector3().fromArray(level.surfaceNormal, s * 3);
    const [first, end] = [level.surfaceIndexFirst[s]!, level.surfaceIndexFirst[s + 1]!];
    const at = normal.dot(corner(level.index[first]!));
    const key = [...normal.toArray().map((c) => Math.round(c * 1000)), Math.round(at * 20), mirror].join();
    let plane = planes.get(key);
    if (!plane) planes.set(key, (plane = { surfaces: [], strength: mirror / 255, area: 0 }));
    plane.surfaces.push(s);
    for (let k = first; k < end; k += 3) {
      const [a, b, c] = [0, 1, 2].map((i) => corner(level.index[k + i]!)) as [Vector3, Vector3, Vector3];
      plane.area += b.sub(a).cross(c.sub(a)).length() / 2;
    }
  });
  return [...planes.values()].sort((a, b) => b.area - a.area).slice(0, MOST);
}

/** Triangles of surfaces in the frame of their plane: z along its normal, from the first corner. */
function inPlane(level: Level, surfaces: readonly number[]): { geometry: BufferGeometry; frame: Matrix4 } {
  const normal = new Vector3().fromArray(level.surfaceNormal, surfaces[0]! * 3);
  const origin = new Vector3().fromArray(level.position, level.index[level.surfaceIndexFirst[surfaces[0]!]!]! * 3);
  const right = new Vector3(1, 0, 0);
  if (Math.abs(normal.x) > 0.9) right.set(0, 1, 0);
  const up = normal.clone().cross(right).normalize();
  right.copy(up).cross(normal).normalize();
  const frame = new Matrix4().makeBasis(right, up, normal).setPosition(origin);
  const back = frame.clone().invert();
  const position: number[] = [];
  for (const s of surfaces)
    for (let k = level.surfaceIndexFirst[s]!; k < level.surfaceIndexFirst[s + 1]!; k++)
      position.push(
        ...new Vector3()
          .fromArray(level.position, level.index[k]! * 3)
          .applyMatrix4(back)
          .toArray(),
      );
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(position), 3));
  return { geometry, frame };
}

/** Makes the mirrors of a level for pictures of a renderer's size. */
export function makeMirrors(level: Level, gl: WebGLRenderer): LevelMirrors {
  const size = gl.getDrawingBufferSize(new Vector2());
  const planes = mirrorPlanes(level);
  const meshes = planes.map(({ surfaces, strength }) => {
    const { geometry, frame } = inPlane(level, surfaces);
    const mesh = new Reflector(geometry, {
      textureWidth: Math.max(64, Math.round(size.x * SHARP)),
      textureHeight: Math.max(64, Math.round(size.y * SHARP)),
      clipBias: 0,
      multisample: 0,
      shader: SHADER,
    });
    const material = mesh.material as ShaderMaterial;
    material.uniforms.strength!.value = strength;
    material.transparent = true;
    material.depthWrite = false;
    material.polygonOffset = true;
    material.polygonOffsetFactor = -1;
    material.polygonOffsetUnits = -2;
    mesh.matrixAutoUpdate = false;
    mesh.matrix.copy(frame);
    mesh.renderOrder = 1;
    return mesh;
  });
  return {
    meshes,
    show: (drawn) => meshes.forEach((mesh, i) => (mesh.visible = planes[i]!.surfaces.some((s) => drawn[s]))),
    dispose: () => {
      for (const mesh of meshes) {
        mesh.geometry.dispose();
        mesh.dispose();
      }
    },
  };
}
