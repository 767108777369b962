import {
  Color,
  DataTexture,
  DoubleSide,
  FloatType,
  FrontSide,
  Group,
  InstancedMesh,
  Matrix4,
  NearestFilter,
  RGBAFormat,
  ShaderMaterial,
} from 'three';
import { HARMONICS, modelOf, propPose, type Affine, type Entity, type MapSettings, type ProbeLight } from '@yesca/core';
import { notify } from '../state/notify.ts';
import { WHITE_LUX } from './level-mesh.ts';
import { propModel, type PropPiece } from './prop-models.ts';
import { harmonicLight, SEEN } from './seen.ts';
import { fogUniforms } from './sky.ts';

/** A prop as it stands in a map. */
export interface PlacedProp {
  readonly thing: string;
  readonly model: string;
  readonly pose: Affine;
}

const placed = new WeakMap<Entity, PlacedProp | null>();

function placedProp(e: Entity): PlacedProp | null {
  let known = placed.get(e);
  if (known === undefined) {
    const model = modelOf(e);
    known = model?.name ? { thing: e.id, model: model.name, pose: propPose(model, e.at, e.turn) } : null;
    placed.set(e, known);
  }
  return known;
}

/** The props among things; the same for the same thing. */
export const placedProps = (things: Iterable<Entity>): PlacedProp[] => [...things].flatMap((e) => placedProp(e) ?? []);

/** Light is looked up so far above the middle of a prop, cm: not in what it stands on. */
export const LIT_ABOVE = 8;

/** Props of a picture: of each model all that stand are drawn at once. */
export interface PropScene {
  readonly group: Group;
  /** Shows these and no others. */
  readonly show: (props: readonly PlacedProp[]) => void;
  /** Moves one of those that are shown; away for what is not there. */
  readonly move: (thing: string, pose: Affine, away?: boolean) => void;
  /** Lets one be seen by light from every side: nine coefficients of red, green and blue. */
  readonly light: (thing: string, light: ProbeLight) => void;
  /** Lets all be seen by the light of the workroom. */
  readonly unlit: () => void;
  /** Whether pictures lie on them. */
  readonly textured: (on: boolean) => void;
  readonly dispose: () => void;
}

/** Of the light in a workroom: from all sides, more from above and from the south-east. Coefficients of one colour, lux. */
export const WORKROOM: readonly number[] = [74, -7, 20, 6, 0, 0, 0, 0, 0];

/** The colour of what has no picture on it, linear. */
const CLAY = new Color('#d8cfbd');

const propMaterial = (piece: PropPiece, light: DataTexture, air: Partial<MapSettings>): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: /* glsl */ `
uniform sampler2D coefficients;
varying vec2 vPlace;
varying vec3 vLight;
varying vec3 vSeen;
vec3 of(int k) {
  return texelFetch(coefficients, ivec2(k, gl_InstanceID), 0).rgb;
}
void main() {
  vec3 n = normalize(mat3(instanceMatrix) * normal);
  vec3 light = ${harmonicLight((k) => `of(${k})`)};
  vLight = max(light, vec3(0.0));
  vPlace = uv;
  vec4 seen = modelViewMatrix * instanceMatrix * vec4(position, 1.0);
  vSeen = seen.xyz;
  gl_Position = projectionMatrix * seen;
}`,
    fragmentShader: /* glsl */ `
uniform sampler2D picture;
uniform bool pictured;
uniform vec3 color;
uniform vec3 clay;
uniform vec3 glow;
uniform float cut;
uniform bool plain;
varying vec2 vPlace;
varying vec3 vLight;
${SEEN}
void main() {
  vec4 texel = pictured ? texture2D(picture, vPlace) : vec4(1.0);
  if (texel.a < cut) discard;
  vec3 albedo = plain ? clay : texel.rgb * color;
  vec3 shown = asSeen(albedo * vLight / WHITE_LUX + (plain ? vec3(0.0) : texel.rgb * glow * 3.0));
  gl_FragColor = linearToOutputTexel(vec4(shown, 1.0));
}`,
    defines: { WHITE_LUX: WHITE_LUX.toFixed(1) },
    side: piece.doubleSided ? DoubleSide : FrontSide,
    uniforms: {
      coefficients: { value: light },
      picture: { value: piece.picture },
      pictured: { value: piece.picture !== null },
      color: { value: piece.color },
      clay: { value: CLAY },
      glow: { value: piece.glow },
      cut: { value: piece.cut },
      plain: { value: false },
      ...fogUniforms(air),
    },
  });

/** All that stand of one model. */
interface Stand {
  readonly meshes: InstancedMesh[];
  readonly light: DataTexture;
  readonly room: number;
}

const GONE = new Matrix4().makeScale(0, 0, 0);
/** A map of places as a matrix. */
export const affineMatrix = (m: Affine): Matrix4 =>
  new Matrix4().set(m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8], m[9], m[10], m[11], 0, 0, 0, 1);

/** `changed` is called when a model came in that had to be loaded; one that cannot be is told. */
export function makeProps(air: Partial<MapSettings>, changed: () => void = () => undefined): PropScene {
  const group = new Group();
  const stands = new Map<string, Stand>();
  const pieces = new Map<string, readonly PropPiece[]>();
  const asked = new Set<string>();
  const lights = new Map<string, ProbeLight>();
  let shown: readonly PlacedProp[] = [];
  let byModel = new Map<string, PlacedProp[]>();
  let places = new Map<string, { readonly model: string; readonly k: number }>();
  let plain = false;
  let gone = false;

  const remove = ({ meshes, light }: Stand): void => {
    for (const mesh of meshes) {
      group.remove(mesh);
      (mesh.material as ShaderMaterial).dispose();
      mesh.dispose();
    }
    light.dispose();
  };
  const standFor = (model: string, count: number): Stand | null => {
    const own = pieces.get(model);
    if (!own) return null;
    const known = stands.get(model);
    if (known && known.room >= count) return known;
    if (known) remove(known);
    const room = Math.max(4, 2 ** Math.ceil(Math.log2(count)));
    const light = new DataTexture(new Float32Array(HARMONICS * room * 4), HARMONICS, room, RGBAFormat, FloatType);
    light.minFilter = light.magFilter = NearestFilter;
    const meshes = own.map((piece) => {
      const mesh = new InstancedMesh(piece.geometry, propMaterial(piece, light, air), room);
      mesh.frustumCulled = false;
      (mesh.material as ShaderMaterial).uniforms.plain!.value = plain;
      group.add(mesh);
      return mesh;
    });
    const made: Stand = { meshes, light, room };
    stands.set(model, made);
    return made;
  };
  const putLight = ({ light }: Stand, k: number, thing: string): void => {
    const own = lights.get(thing);
    const data = light.image.data as Float32Array;
    for (let h = 0; h < HARMONICS; h++)
      for (let c = 0; c < 3; c++) data[(k * HARMONICS + h) * 4 + c] = own ? own[h * 3 + c]! : WORKROOM[h]!;
    light.needsUpdate = true;
  };
  const put = (model: string): void => {
    const list = byModel.get(model) ?? [];
    const stand = list.length > 0 ? standFor(model, list.length) : (stands.get(model) ?? null);
    if (!stand) return;
    for (const mesh of stand.meshes) {
      mesh.count = list.length;
      list.forEach(({ pose }, k) => mesh.setMatrixAt(k, affineMatrix(pose)));
      mesh.instanceMatrix.needsUpdate = true;
    }
    list.forEach(({ thing }, k) => putLight(stand, k, thing));
  };
  const ask = (model: string): void => {
    if (asked.has(model)) return;
    asked.add(model);
    propModel(model).then(
      (own) => {
        if (gone) return;
        pieces.set(model, own);
        put(model);
        changed();
      },
      () => {
        asked.delete(model);
        if (!gone) notify(`The prop ${model} could not be loaded.`, `prop ${model}`);
      },
    );
  };
  return {
    group,
    show: (props) => {
      if (props === shown) return;
      shown = props;
      const before = byModel;
      byModel = new Map();
      places = new Map();
      for (const p of props) {
        const list = byModel.get(p.model);
        if (list) list.push(p);
        else byModel.set(p.model, [p]);
        places.set(p.thing, { model: p.model, k: byModel.get(p.model)!.length - 1 });
      }
      for (const model of byModel.keys()) ask(model);
      for (const model of new Set([...before.keys(), ...byModel.keys()])) {
        const [old, now] = [before.get(model), byModel.get(model)];
        if (old?.length !== now?.length || old?.some((p, k) => p !== now![k])) put(model);
      }
    },
    move: (thing, pose, away = false) => {
      const place = places.get(thing);
      const stand = place && stands.get(place.model);
      if (!stand) return;
      for (const mesh of stand.meshes) {
        mesh.setMatrixAt(place.k, away ? GONE : affineMatrix(pose));
        mesh.instanceMatrix.needsUpdate = true;
      }
    },
    light: (thing, light) => {
      lights.set(thing, light.slice());
      const place = places.get(thing);
      const stand = place && stands.get(place.model);
      if (stand) putLight(stand, place.k, thing);
    },
    unlit: () => {
      if (lights.size === 0) return;
      lights.clear();
      for (const model of byModel.keys()) put(model);
    },
    textured: (on) => {
      plain = !on;
      for (const { meshes } of stands.values())
        for (const mesh of meshes) (mesh.material as ShaderMaterial).uniforms.plain!.value = plain;
    },
    dispose: () => {
      gone = true;
      for (const stand of stands.values()) remove(stand);
      stands.clear();
    },
  };
}
