import { BufferAttribute, Group, Mesh, ShaderMaterial, Vector3 } from 'three';
import {
  applyAffine,
  boxCorners,
  boxesOverlap,
  boxOf,
  HARMONICS,
  type Affine,
  type Box,
  type DecalThrow,
  type MapSettings,
  type ProbeLight,
} from '@yesca/core';
import { cutProp, type Cut } from './cut-prop.ts';
import { geometryOf } from './decals.ts';
import { WHITE_LUX } from './level-mesh.ts';
import { decalOrder, decalPage, type BatchedLook } from './looks.ts';
import { propModel, type PropPiece } from './prop-models.ts';
import { affineMatrix, WORKROOM, type PlacedProp } from './props.ts';
import { harmonicLight, SEEN } from './seen.ts';
import { fogUniforms } from './sky.ts';
import type { PicturePages } from './picture-pages.ts';

/** A decal that may fall on props, with the props that may take it. */
export interface PropDecal {
  readonly ready: DecalThrow;
  readonly takes: (prop: PlacedProp) => boolean;
}

/** The decals on the props of a picture, lit as the props are. */
export interface PropDecals {
  readonly group: Group;
  /** Shows these decals on these props and no others; those that lie beneath come first. */
  readonly show: (props: readonly PlacedProp[], decals: readonly PropDecal[]) => void;
  /** Draws the decals of these props and of no others. */
  readonly see: (props: ReadonlySet<PlacedProp>) => void;
  readonly move: (thing: string, pose: Affine) => void;
  /** By the light that a prop is seen by: null for that of the workroom. */
  readonly light: (thing: string, light: ProbeLight | null) => void;
  readonly dispose: () => void;
}

const bounds = new WeakMap<PlacedProp, Box>();

/** What a prop fills in the map. */
function boundsOf(prop: PlacedProp, pieces: readonly PropPiece[]): Box {
  let known = bounds.get(prop);
  if (!known) {
    const corners = pieces.flatMap(({ geometry }) => {
      if (!geometry.boundingBox) geometry.computeBoundingBox();
      const { min, max } = geometry.boundingBox!;
      return boxCorners({ min: min.toArray(), max: max.toArray() }).map((p) => applyAffine(prop.pose, p));
    });
    bounds.set(prop, (known = boxOf(corners)));
  }
  return known;
}

function material(pages: PicturePages, page: number, air: Partial<MapSettings>): ShaderMaterial {
  const standIns = pages.standIns(page);
  const made = new ShaderMaterial({
    vertexShader: /* glsl */ `
attribute float layer;
attribute vec4 ink;
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
  vLight = max(light, vec3(0.0));
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
${SEEN}
void main() {
  vec4 standIn = standIns[int(vLayer + 0.5)];
  vec4 texel = (standIn.a < 0.0 ? texture(pictures, vec3(vPlace, vLayer)) : standIn) * vInk;
  if (texel.a < 0.004) discard;
  gl_FragColor = linearToOutputTexel(vec4(asSeen(texel.rgb * vLight / WHITE_LUX), texel.a));
}`,
    defines: { WHITE_LUX: WHITE_LUX.toFixed(1), LAYERS: standIns.length },
    transparent: true,
    depthWrite: false,
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -4,
    uniforms: {
      pictures: { value: pages.texture(page) },
      standIns: { value: standIns },
      coefficients: { value: Array.from({ length: HARMONICS }, () => new Vector3()) },
      turned: { value: [1, 0, 0, 0, 1, 0, 0, 0, 1] },
      ...fogUniforms(air),
    },
  });
  return made;
}

/** One decal on one prop. */
interface Stuck {
  readonly mesh: Mesh;
  readonly prop: PlacedProp;
}

/** `lookOf` gives the place of a material's picture; `changed` is called when a model came in that had to be loaded. */
export function makePropDecals(
  pages: PicturePages,
  air: Partial<MapSettings>,
  lookOf: (material: string) => BatchedLook,
  changed: () => void = () => undefined,
): PropDecals {
  const group = new Group();
  const known = new WeakMap<DecalThrow, WeakMap<PlacedProp, Cut | null>>();
  const models = new Map<string, readonly PropPiece[]>();
  const asked = new Set<string>();
  const lights = new Map<string, ProbeLight>();
  let stuck: Stuck[] = [];
  let now: { readonly props: readonly PlacedProp[]; readonly decals: readonly PropDecal[] } = { props: [], decals: [] };
  /** Null for all. */
  let seen: ReadonlySet<PlacedProp> | null = null;
  let gone = false;

  const putLight = ({ mesh, prop }: Stuck): void => {
    const own = lights.get(prop.thing);
    const to = (mesh.material as ShaderMaterial).uniforms.coefficients!.value as Vector3[];
    to.forEach((c, k) => {
      if (own) c.set(own[k * 3]!, own[k * 3 + 1]!, own[k * 3 + 2]!);
      else c.setScalar(WORKROOM[k]!);
    });
  };
  const drop = ({ mesh }: Stuck): void => {
    group.remove(mesh);
    mesh.geometry.dispose();
    (mesh.material as ShaderMaterial).dispose();
  };
  const cutOf = (ready: DecalThrow, prop: PlacedProp, pieces: readonly PropPiece[]): Cut | null => {
    let ofDecal = known.get(ready);
    if (!ofDecal) known.set(ready, (ofDecal = new WeakMap()));
    let cut = ofDecal.get(prop);
    if (cut === undefined) ofDecal.set(prop, (cut = cutProp(ready, prop.pose, pieces)));
    return cut;
  };
  const stickOn = (cut: Cut, prop: PlacedProp, name: string, order: number): void => {
    const look = lookOf(name);
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
      },
      new BufferAttribute(Uint32Array.from(cut.index), 1),
    );
    const mesh = new Mesh(geometry, material(pages, decalPage(look), air));
    mesh.renderOrder = order;
    mesh.matrixAutoUpdate = false;
    const made: Stuck = { mesh, prop };
    mesh.visible = seen?.has(prop) ?? true;
    putLight(made);
    group.add(mesh);
    stuck.push(made);
  };
  const put = (): void => {
    stuck.forEach(drop);
    stuck = [];
    now.decals.forEach(({ ready, takes }, place) => {
      for (const prop of now.props) {
        const pieces = models.get(prop.model);
        if (!pieces || !takes(prop) || !boxesOverlap(ready.bounds, boundsOf(prop, pieces))) continue;
        const cut = cutOf(ready, prop, pieces);
        if (cut) stickOn(cut, prop, ready.decal.material, decalOrder(0, place, now.decals.length));
      }
    });
  };
  const ask = (model: string): void => {
    if (asked.has(model)) return;
    asked.add(model);
    propModel(model).then(
      (pieces) => {
        if (gone) return;
        models.set(model, pieces);
        put();
        changed();
      },
      // That the prop itself cannot be drawn is told already.
      () => asked.delete(model),
    );
  };
  return {
    group,
    show: (props, decals) => {
      if (decals.length === 0 && now.decals.length === 0) return;
      now = { props, decals };
      if (decals.length > 0) for (const { model, picture } of props) if (!picture) ask(model);
      put();
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
        const e = moved.elements;
        (mesh.material as ShaderMaterial).uniforms.turned!.value = [
          e[0],
          e[1],
          e[2],
          e[4],
          e[5],
          e[6],
          e[8],
          e[9],
          e[10],
        ];
      }
    },
    light: (thing, light) => {
      if (light) lights.set(thing, light.slice());
      else lights.delete(thing);
      for (const own of stuck) if (own.prop.thing === thing) putLight(own);
    },
    dispose: () => {
      gone = true;
      stuck.forEach(drop);
      stuck = [];
    },
  };
}
