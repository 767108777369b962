import { BufferAttribute, Group, Matrix3, Mesh, ShaderMaterial, Vector3, type DataTexture } from 'three';
import { HARMONICS, type Affine, type MapSettings, type MeshDecal, type ProbeLight, type PropChart } from '@yesca/core';
import { geometryOf } from './decals.ts';
import { WHITE_LUX } from './level-mesh.ts';
import { decalOrder, decalPage, type BatchedLook } from './looks.ts';
import { FALLS_ON_LAYOUT, layoutPicture, writeLayout } from './own-light.ts';
import { affineMatrix, WORKROOM, type PlacedProp } from './props.ts';
import { harmonicLight, SEEN } from './seen.ts';
import { fogUniforms } from './sky.ts';
import type { PicturePages } from './picture-pages.ts';

/** One decal on one prop. */
export interface PropDecal {
  readonly prop: PlacedProp;
  readonly material: string;
  readonly cut: Omit<MeshDecal, 'face'> & { readonly chart?: readonly number[] };
  /** How its prop is laid out, of one that is lit all over: its cut then has a chart. */
  readonly layout?: PropChart | null;
}

/** The decals on the props of a picture, lit as the props are. */
export interface PropDecals {
  readonly group: Group;
  /** Shows these and no others; those that lie beneath come first. */
  readonly stick: (decals: readonly PropDecal[]) => void;
  /** Draws the decals of these props and of no others. */
  readonly see: (props: ReadonlySet<PlacedProp>) => void;
  readonly move: (thing: string, pose: Affine) => void;
  /**
   * By the light that a prop is seen by: null for that of the workroom; and by what falls on its vertices or luxels (lux, red, green, blue
   * of each) where that is known.
   */
  readonly light: (thing: string, light: ProbeLight | null, onItself?: Float32Array | null) => void;
  readonly dispose: () => void;
}

function material(
  pages: PicturePages,
  page: number,
  air: Partial<MapSettings>,
  layout: PropChart | null,
): ShaderMaterial {
  const standIns = pages.standIns(page);
  const made = new ShaderMaterial({
    vertexShader: /* glsl */ `
attribute float layer;
attribute vec4 ink;
attribute vec3 falls;
#ifdef CHART
attribute vec2 chart;
varying vec2 vChart;
#endif
uniform vec3 coefficients[${HARMONICS}];
uniform mat3 turned;
varying vec2 vPlace;
varying float vLayer;
varying vec4 vInk;
varying vec3 vLight;
varying vec3 vSeen;
void main() {
  vec3 n = normalize(turned * normal);
  vec3 light = ${harmonicLight((k) => `coefficients[${k}]`)};
  // What falls on vertices is below zero where it is not known.
  vLight = falls.x < 0.0 ? max(light, vec3(0.0)) : falls;
  #ifdef CHART
  vChart = chart;
  #endif
  vPlace = uv;
  vLayer = layer;
  vInk = ink;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vSeen = seen.xyz;
  gl_Position = projectionMatrix * seen;
}`,
    fragmentShader: /* glsl */ `
uniform sampler2DArray pictures;
uniform vec4 standIns[LAYERS];
varying vec2 vPlace;
varying float vLayer;
varying vec4 vInk;
varying vec3 vLight;
#ifdef CHART
uniform sampler2D onChart;
varying vec2 vChart;
${FALLS_ON_LAYOUT}
#endif
${SEEN}
void main() {
  vec4 standIn = standIns[int(vLayer + 0.5)];
  vec4 texel = (standIn.a < 0.0 ? texture(pictures, vec3(vPlace, vLayer)) : standIn) * vInk;
  if (texel.a < 0.004) discard;
  vec3 light = vLight;
  #ifdef CHART
  vec3 own = fallsOnLayout(onChart, vChart, ivec2(0), CHART);
  if (own.r >= 0.0) light = own;
  #endif
  gl_FragColor = linearToOutputTexel(vec4(asSeen(texel.rgb * light / WHITE_LUX), texel.a));
}`,
    defines: {
      WHITE_LUX: WHITE_LUX.toFixed(1),
      LAYERS: standIns.length,
      ...(layout && { CHART: `ivec2(${layout.width}, ${layout.height})` }),
    },
    transparent: true,
    depthWrite: false,
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -4,
    uniforms: {
      pictures: { value: pages.texture(page) },
      standIns: { value: standIns },
      coefficients: { value: Array.from({ length: HARMONICS }, () => new Vector3()) },
      ...(layout && { onChart: { value: layoutPicture(layout, 1) } }),
      turned: { value: new Matrix3() },
      ...fogUniforms(air),
    },
  });
  return made;
}

/** What falls on the corners of a cut, by what falls on the vertices that they lie between; below zero where that is not known. */
export function fallsOn(
  { vertex, share, position }: Pick<MeshDecal, 'vertex' | 'share' | 'position'>,
  onVertices: Float32Array | null,
): Float32Array {
  const out = new Float32Array(position.length).fill(-1);
  // Of a model that was changed since nothing is known: it has other vertices.
  if (!onVertices || vertex.some((v) => v * 3 + 2 >= onVertices.length)) return out;
  return out.map((_, k) => {
    const [corner, c] = [Math.floor(k / 3) * 3, k % 3];
    return [0, 1, 2].reduce((sum, n) => sum + share[corner + n]! * onVertices[vertex[corner + n]! * 3 + c]!, 0);
  });
}

interface Stuck extends PropDecal {
  readonly mesh: Mesh;
}

/** `lookOf` gives the place of a material's picture. */
export function makePropDecals(
  pages: PicturePages,
  air: Partial<MapSettings>,
  lookOf: (material: string) => BatchedLook,
): PropDecals {
  const group = new Group();
  const lights = new Map<string, { readonly light: ProbeLight; readonly onItself: Float32Array | null }>();
  let stuck: Stuck[] = [];
  /** Null for all. */
  let seen: ReadonlySet<PlacedProp> | null = null;

  const putLight = ({ mesh, prop, cut, layout }: Stuck): void => {
    const own = lights.get(prop.thing);
    const { coefficients, onChart } = (mesh.material as ShaderMaterial).uniforms;
    const to = coefficients!.value as Vector3[];
    to.forEach((c, k) => {
      if (own) c.set(own.light[k * 3]!, own.light[k * 3 + 1]!, own.light[k * 3 + 2]!);
      else c.setScalar(WORKROOM[k]!);
    });
    const told = own?.onItself ?? null;
    if (onChart && layout) {
      const known = told?.length === layout.width * layout.height * 3 ? told : null;
      writeLayout(onChart.value as DataTexture, layout, 0, known);
    }
    const falls = mesh.geometry.getAttribute('falls') as BufferAttribute;
    falls.copyArray(fallsOn(cut, layout ? null : told));
    falls.needsUpdate = true;
  };
  const drop = ({ mesh }: Stuck): void => {
    const look = mesh.material as ShaderMaterial;
    group.remove(mesh);
    mesh.geometry.dispose();
    (look.uniforms.onChart?.value as DataTexture | undefined)?.dispose();
    look.dispose();
  };
  const made = (decal: PropDecal, order: number): Stuck => {
    const { cut, layout = null } = decal;
    const look = lookOf(decal.material);
    const corners = cut.position.length / 3;
    const geometry = geometryOf(
      {
        position: new BufferAttribute(Float32Array.from(cut.position), 3),
        normal: new BufferAttribute(Float32Array.from(cut.normal), 3),
        uv: new BufferAttribute(
          Float32Array.from(cut.texel, (t, k) => t / look.size[k % 2]!),
          2,
        ),
        layer: new BufferAttribute(new Float32Array(corners).fill(look.layer), 1),
        ink: new BufferAttribute(Float32Array.from(cut.ink), 4),
        falls: new BufferAttribute(new Float32Array(corners * 3), 3),
        ...(layout && cut.chart && { chart: new BufferAttribute(Float32Array.from(cut.chart), 2) }),
      },
      new BufferAttribute(Uint32Array.from(cut.index), 1),
    );
    const mesh = new Mesh(geometry, material(pages, decalPage(look), air, layout));
    mesh.renderOrder = order;
    mesh.matrixAutoUpdate = false;
    mesh.visible = seen?.has(decal.prop) ?? true;
    return { ...decal, mesh };
  };
  return {
    group,
    stick: (decals) => {
      // Those that stuck there before stay: while one prop is dragged all others have theirs.
      const before = new Map(stuck.map((own) => [own.cut, own]));
      stuck = decals.map((decal, place) => {
        const order = decalOrder(0, place, decals.length);
        const known = before.get(decal.cut);
        if (known?.prop !== decal.prop || known.material !== decal.material || known.layout !== decal.layout) {
          const own = made(decal, order);
          putLight(own);
          group.add(own.mesh);
          return own;
        }
        before.delete(decal.cut);
        known.mesh.renderOrder = order;
        return known;
      });
      before.forEach(drop);
    },
    see: (props) => {
      seen = props;
      for (const { mesh, prop } of stuck) mesh.visible = props.has(prop);
    },
    move: (thing, pose) => {
      for (const { mesh, prop } of stuck) {
        if (prop.thing !== thing) continue;
        // They were cut where the prop stood.
        const moved = affineMatrix(pose).multiply(affineMatrix(prop.pose).invert());
        mesh.matrix.copy(moved);
        mesh.matrixWorldNeedsUpdate = true;
        const { value } = (mesh.material as ShaderMaterial).uniforms.turned as { value: Matrix3 };
        value.setFromMatrix4(moved);
      }
    },
    light: (thing, light, onItself = null) => {
      if (light) lights.set(thing, { light: light.slice(), onItself });
      else lights.delete(thing);
      for (const own of stuck) if (own.prop.thing === thing) putLight(own);
    },
    dispose: () => {
      stuck.forEach(drop);
      stuck = [];
    },
  };
}
