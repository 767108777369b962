import {
  Color,
  DoubleSide,
  FrontSide,
  Group,
  InstancedMesh,
  Matrix4,
  ShaderMaterial,
  Vector3,
  type BufferGeometry,
  type DataTexture,
} from 'three';
import {
  HARMONICS,
  litPlaces,
  modelOf,
  propPose,
  propSize,
  type Affine,
  type Billboard,
  type Box,
  type Entity,
  type LevelProbes,
  type MapSettings,
  type ProbeLight,
  type PropChart,
  type Vec3,
} from '@yesca/core';
import { notify } from '../state/notify.ts';
import { WHITE_LUX } from './level-mesh.ts';
import { billboardModel } from './billboard-models.ts';
import { FALLS_ON_LAYOUT, laidOut, layoutPicture, numbers, writeLayout, type OnItself } from './own-light.ts';
import { propModel, type PropPiece } from './prop-models.ts';
import { LEANED, MICROFACETS } from './relief.ts';
import { harmonicLight, SEEN } from './seen.ts';
import { fogUniforms } from './sky.ts';

/** A prop as it stands in a map. */
export interface PlacedProp {
  readonly thing: string;
  readonly model: string;
  /** What stands there in place of a model. */
  readonly picture: Billboard | null;
  readonly pose: Affine;
  /** What it fills in its own space. */
  readonly box: Box;
  /** Where its light is found: in its middle, or at the corners of its box. */
  readonly litAt: readonly Vec3[];
}

const placed = new WeakMap<Entity, PlacedProp | null>();

function placedProp(e: Entity): PlacedProp | null {
  let known = placed.get(e);
  if (known === undefined) {
    const model = modelOf(e);
    known = model?.name
      ? {
          thing: e.id,
          model: model.name,
          picture: model.picture ?? null,
          pose: propPose(model, e.at, e.turn),
          box: propSize(e),
          litAt: litPlaces(e),
        }
      : null;
    placed.set(e, known);
  }
  return known;
}

/** The props among things; the same for the same thing. */
export const placedProps = (things: Iterable<Entity>): PlacedProp[] => [...things].flatMap((e) => placedProp(e) ?? []);

/** The light of a prop where it stands, of each place where it is found nine coefficients of three colours; null where nothing is known. */
export function lightOfProp({ litAt }: PlacedProp, { lightAt }: LevelProbes, shares: ReadonlyMap<string, number>) {
  const [size, out, none] = [HARMONICS * 3, new Float32Array(HARMONICS * 3 * litAt.length), new Array<number>()];
  const light = new Float32Array(size);
  let known = -1;
  litAt.forEach((p, k) => {
    if (lightAt(p, shares, light)) out.set(light, (known = k) * size);
    else none.push(k);
  });
  if (known < 0) return null;
  // A corner in a wall takes the light of one that is not.
  for (const k of none) out.copyWithin(k * size, known * size, (known + 1) * size);
  return out;
}

/** The mean of the light at the places of a prop. */
export function meanLight(light: ProbeLight): ProbeLight {
  const size = HARMONICS * 3;
  const count = light.length / size;
  return Float32Array.from({ length: size }, (_, k) => {
    let sum = 0;
    for (let c = 0; c < count; c++) sum += light[c * size + k]!;
    return sum / count;
  });
}

/** Props of a picture: of each model all that stand are drawn at once. */
export interface PropScene {
  readonly group: Group;
  /** Shows these and no others. */
  readonly show: (props: readonly PlacedProp[]) => void;
  /** Moves one of those that are shown. */
  readonly move: (thing: string, pose: Affine) => void;
  /** Lets one be seen by light from every side: see {@link lightOfProp}; and by what falls on its vertices or luxels (lux, red, green, blue of each) where that is known. */
  readonly light: (thing: string, light: ProbeLight, onItself?: Float32Array | null) => void;
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

/** How a picture turns to the eye, for the shader. */
const TURNS = { crossed: 0, upright: 1, always: 2 } as const;

/** So many vertices lie beside each other in a picture of their light. */
const WIDE = 1024;

/** Where the light of props that are drawn together is found. */
interface Found {
  /** At how many places from every side, and on which box they are. */
  readonly corners: number;
  readonly box: Box;
  readonly light: DataTexture;
  /** What falls on their vertices, or on their luxels; null for what is not lit there. */
  readonly onVertices: DataTexture | null;
  readonly onChart: DataTexture | null;
  readonly chart: PropChart | null;
}

const propMaterial = (
  piece: PropPiece,
  /** The first of its vertices among those of its model, and how many those are. */
  [first, vertices]: readonly [number, number],
  { corners, box, light, onVertices, onChart, chart }: Found,
  air: Partial<MapSettings>,
): ShaderMaterial =>
  new ShaderMaterial({
    vertexShader: /* glsl */ `
uniform sampler2D coefficients;
uniform vec3 low;
uniform vec3 high;
#ifdef VERTICES
uniform sampler2D onVertices;
#endif
#ifdef CHART
attribute vec2 chart;
varying vec2 vChart;
flat varying ivec2 vFirst;
#endif
varying vec2 vPlace;
varying vec3 vSeen;
#ifdef RELIEF
varying vec3 vLights[${HARMONICS}];
varying vec3 vNormal;
varying vec3 vWorld;
#ifdef VERTICES
varying vec4 vFalls;
#endif
#else
varying vec3 vLight;
#endif
vec3 of(int k) {
  return texelFetch(coefficients, ivec2(k, gl_InstanceID), 0).rgb;
}
vec3 lightFrom(int at, vec3 n) {
  return max(${harmonicLight((k) => `of(at + ${k})`)}, vec3(0.0));
}
void main() {
  vec3 n = normalize(mat3(instanceMatrix) * normal);
  vec4 place = instanceMatrix * vec4(position, 1.0);
  #ifdef PICTURE
  // As much from all sides: it does not change as one goes round it.
  vLight = vec3(3.14159265 * 0.2820948 * of(0));
  #ifdef TURNS
  vec3 foot = instanceMatrix[3].xyz;
  vec3 upright = TURNS == 2 ? vec3(viewMatrix[0][1], viewMatrix[1][1], viewMatrix[2][1]) : instanceMatrix[2].xyz;
  vec3 right = TURNS == 2 ? vec3(viewMatrix[0][0], viewMatrix[1][0], viewMatrix[2][0]) : cross(upright, cameraPosition - foot);
  // From right above it has no side.
  right = length(right) > 1e-6 ? normalize(right) : instanceMatrix[0].xyz;
  place = vec4(foot + right * position.x + upright * position.z, 1.0);
  #endif
  #else
  #ifdef RELIEF
  for (int h = 0; h < ${HARMONICS}; h++) vLights[h] = vec3(0.0);
  vNormal = n;
  vWorld = place.xyz;
  #else
  vLight = vec3(0.0);
  #endif
  // Between the corners of its box, as far along each of its sides; or from its middle.
  vec3 part = clamp((position - low) / (high - low), 0.0, 1.0);
  for (int k = 0; k < CORNERS; k++) {
    vec3 side = vec3(k & 1, (k >> 1) & 1, (k >> 2) & 1);
    vec3 along = mix(1.0 - part, part, side);
    float weight = CORNERS == 1 ? 1.0 : along.x * along.y * along.z;
    #ifdef RELIEF
    for (int h = 0; h < ${HARMONICS}; h++) vLights[h] += weight * of(k * ${HARMONICS} + h);
    #else
    vLight += weight * lightFrom(k * ${HARMONICS}, n);
    #endif
  }
  #ifdef VERTICES
  int at = gl_InstanceID * VERTICES + FIRST + gl_VertexID;
  // What is not known is below zero.
  vec4 falls = texelFetch(onVertices, ivec2(at % ${WIDE}, at / ${WIDE}), 0);
  #ifdef RELIEF
  vFalls = vec4(max(falls.rgb, vec3(0.0)), falls.r < 0.0 ? 0.0 : 1.0);
  #else
  if (falls.r >= 0.0) vLight = falls.rgb;
  #endif
  #endif
  #ifdef CHART
  vChart = chart;
  vFirst = CHART * ivec2(gl_InstanceID % ACROSS, gl_InstanceID / ACROSS);
  #endif
  #endif
  vPlace = uv;
  vec4 seen = modelViewMatrix * place;
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
${SEEN}
#ifdef CHART
uniform sampler2D onChart;
varying vec2 vChart;
flat varying ivec2 vFirst;
${FALLS_ON_LAYOUT}
#endif
#ifdef RELIEF
uniform sampler2D bumps;
uniform float bumped;
uniform sampler2D roughs;
uniform vec2 rough;
varying vec3 vLights[${HARMONICS}];
varying vec3 vNormal;
varying vec3 vWorld;
#ifdef VERTICES
varying vec4 vFalls;
#endif
#define vUv vPlace
${MICROFACETS}
${LEANED}
// The light from all sides on what leans as its picture says, and what shines besides of where most of it comes from.
vec3 lit(out vec3 shine) {
  vec3 v = normalize(cameraPosition - vWorld);
  vec3 n = normalize(vNormal);
  #if defined(VERTICES) || defined(CHART)
  vec3 even = max(${harmonicLight((k) => `vLights[${k}]`)}, vec3(0.01));
  #endif
  if (dot(n, v) < 0.0 && !gl_FrontFacing) n = -n;
  if (bumped > 0.0) {
    vec2 bump = (texture2D(bumps, vPlace).rg * 2.0 - 1.0) * bumped;
    n = leaned(n, dFdx(vWorld), dFdy(vWorld), vec3(bump, sqrt(max(0.05, 1.0 - dot(bump, bump)))));
  }
  float r = clamp(rough.x * (rough.y > 0.0 ? texture2D(roughs, vPlace).g : 1.0), 0.04, 1.0);
  // Of light that comes straight the first order has its strength along its way.
  vec3 east = vLights[3], north = vLights[1], up = vLights[2];
  vec3 way = vec3(dot(east, vec3(1.0)), dot(north, vec3(1.0)), dot(up, vec3(1.0)));
  vec3 l = length(way) > 1e-4 ? normalize(way) : n;
  vec3 straight = max((east * l.x + north * l.y + up * l.z) / 0.4886025, vec3(0.0));
  shine = (1.0 - r * r) * straight * microfacets(n, l, v, max(r * r, 0.002));
  vec3 light = max(${harmonicLight((k) => `vLights[${k}]`)}, vec3(0.0));
  #ifdef CHART
  vec3 falls = fallsOnLayout(onChart, vChart, vFirst, CHART);
  vec4 own = vec4(max(falls, vec3(0.0)), falls.r < 0.0 ? 0.0 : 1.0);
  #elif defined(VERTICES)
  vec4 own = vFalls;
  #endif
  #if defined(VERTICES) || defined(CHART)
  // What falls on it itself is more or less than what comes from every side: as much more or less is seen of all.
  vec3 part = mix(vec3(1.0), min(own.rgb / even, vec3(4.0)), own.a);
  shine *= part;
  light *= part;
  #endif
  return light;
}
#else
varying vec3 vLight;
vec3 lit(out vec3 shine) {
  shine = vec3(0.0);
  #ifdef CHART
  vec3 falls = fallsOnLayout(onChart, vChart, vFirst, CHART);
  if (falls.r >= 0.0) return falls;
  #endif
  return vLight;
}
#endif
void main() {
  vec4 texel = pictured ? texture2D(picture, vPlace) : vec4(1.0);
  if (texel.a < cut) discard;
  vec3 albedo = plain ? clay : texel.rgb * color;
  vec3 shine;
  vec3 light = lit(shine);
  vec3 shown = asSeen((albedo * light + shine) / WHITE_LUX + (plain ? vec3(0.0) : texel.rgb * glow * 3.0));
  gl_FragColor = linearToOutputTexel(vec4(shown, SEE_THROUGH ? texel.a : 1.0));
}`,
    defines: {
      WHITE_LUX: WHITE_LUX.toFixed(1),
      CORNERS: corners,
      SEE_THROUGH: String(piece.seeThrough === true),
      ...(onVertices && { VERTICES: vertices, FIRST: first }),
      ...(onChart &&
        chart && { CHART: `ivec2(${chart.width}, ${chart.height})`, ACROSS: onChart.image.width / chart.width }),
      ...(piece.relief && { RELIEF: '' }),
      ...(piece.stands && { PICTURE: '' }),
      ...(TURNS[piece.stands ?? 'crossed'] && { TURNS: TURNS[piece.stands!] }),
    },
    transparent: piece.seeThrough === true,
    depthWrite: piece.seeThrough !== true,
    side: piece.doubleSided ? DoubleSide : FrontSide,
    uniforms: {
      coefficients: { value: light },
      ...(onVertices && { onVertices: { value: onVertices } }),
      ...(onChart && { onChart: { value: onChart } }),
      low: { value: new Vector3(...box.min) },
      high: { value: new Vector3(...box.max) },
      picture: { value: piece.picture },
      pictured: { value: piece.picture !== null },
      color: { value: piece.color },
      clay: { value: CLAY },
      glow: { value: piece.glow },
      cut: { value: piece.cut },
      plain: { value: false },
      bumps: { value: piece.relief?.normal ?? null },
      bumped: { value: piece.relief?.normal ? piece.relief.strength : 0 },
      roughs: { value: piece.relief?.roughness ?? null },
      rough: { value: [piece.relief?.rough ?? 1, piece.relief?.roughness ? 1 : 0] },
      ...fogUniforms(air),
    },
  });

/** All that stand of one sort. */
interface Stand extends Found {
  readonly meshes: InstancedMesh[];
  /** What is drawn of it alone: each triangle has corners of its own. */
  readonly apart: readonly BufferGeometry[];
  readonly vertices: number;
  readonly room: number;
}

/** A map of places as a matrix. */
export const affineMatrix = (m: Affine): Matrix4 =>
  new Matrix4().set(m[0], m[1], m[2], m[3], m[4], m[5], m[6], m[7], m[8], m[9], m[10], m[11], 0, 0, 0, 1);

/**
 * `changed` is called when a model came in that had to be loaded; one that cannot be is told. `onItself` says of which things the light on
 * themselves will be told.
 */
export function makeProps(
  air: Partial<MapSettings>,
  changed: () => void = () => undefined,
  onItself: (thing: string) => OnItself | null = () => null,
): PropScene {
  /** What is drawn together: one model, lit at as many places. */
  const sortKey = ({ model, litAt, thing }: PlacedProp): string => {
    const own = onItself(thing);
    return `${model} ${own === null ? litAt.length : own === 'vertices' ? own : `chart ${own.number}`}`;
  };
  const group = new Group();
  const stands = new Map<string, Stand>();
  const pieces = new Map<string, readonly PropPiece[]>();
  const asked = new Set<string>();
  const lights = new Map<string, ProbeLight>();
  const falls = new Map<string, Float32Array>();
  let shown: readonly PlacedProp[] = [];
  let sorts = new Map<string, PlacedProp[]>();
  let places = new Map<string, { readonly sort: string; readonly k: number }>();
  let plain = false;
  let gone = false;

  const remove = ({ meshes, apart, light, onVertices, onChart }: Stand): void => {
    for (const mesh of meshes) {
      group.remove(mesh);
      (mesh.material as ShaderMaterial).dispose();
      mesh.dispose();
    }
    for (const geometry of apart) geometry.dispose();
    light.dispose();
    onVertices?.dispose();
    onChart?.dispose();
  };
  const standFor = (sort: string, list: readonly PlacedProp[]): Stand | null => {
    const [{ model, litAt, box, thing }] = list as [PlacedProp];
    const own = pieces.get(model);
    if (!own) return null;
    const known = stands.get(sort);
    if (known && known.room >= list.length) return known;
    if (known) remove(known);
    const room = Math.max(4, 2 ** Math.ceil(Math.log2(list.length)));
    const corners = litAt.length;
    const counts = own.map(({ geometry }) => geometry.getAttribute('position').count);
    const vertices = counts.reduce((sum, n) => sum + n, 0);
    const told = onItself(thing);
    const onVertices = told === 'vertices' ? numbers(WIDE, Math.ceil((vertices * room) / WIDE)) : null;
    const layout = told === 'vertices' ? null : told;
    const apart =
      layout &&
      laidOut(
        own.map((piece) => piece.geometry),
        layout,
      );
    const [chart, onChart] = layout && apart ? [layout, layoutPicture(layout, room)] : [null, null];
    const found: Found = { corners, box, light: numbers(HARMONICS * corners, room), onVertices, onChart, chart };
    let first = 0;
    const meshes = own.map((piece, k) => {
      const mesh = new InstancedMesh(
        apart?.[k] ?? piece.geometry,
        propMaterial(piece, [first, vertices], found, air),
        room,
      );
      first += counts[k]!;
      mesh.frustumCulled = false;
      (mesh.material as ShaderMaterial).uniforms.plain!.value = plain;
      group.add(mesh);
      return mesh;
    });
    const made: Stand = { ...found, meshes, apart: apart ?? [], vertices, room };
    stands.set(sort, made);
    return made;
  };
  const putLight = (stand: Stand, k: number, thing: string): void => {
    const { light, corners, onVertices, onChart, chart, vertices } = stand;
    const own = lights.get(thing);
    const data = light.image.data as Float32Array;
    const wide = HARMONICS * corners;
    for (let h = 0; h < wide; h++)
      for (let c = 0; c < 3; c++)
        data[(k * wide + h) * 4 + c] = own ? own[(h * 3 + c) % own.length]! : WORKROOM[h % HARMONICS]!;
    light.needsUpdate = true;
    const told = falls.get(thing);
    if (onChart && chart) writeLayout(onChart, chart, k, told?.length === chart.width * chart.height * 3 ? told : null);
    if (!onVertices) return;
    // Of a model that was changed since nothing is known: it has other vertices.
    const known = told?.length === vertices * 3 ? told : null;
    const texels = onVertices.image.data as Float32Array;
    for (let v = 0; v < vertices; v++)
      for (let c = 0; c < 3; c++) texels[(k * vertices + v) * 4 + c] = known ? known[v * 3 + c]! : -1;
    onVertices.needsUpdate = true;
  };
  const put = (sort: string): void => {
    const list = sorts.get(sort) ?? [];
    const stand = list.length > 0 ? standFor(sort, list) : (stands.get(sort) ?? null);
    if (!stand) return;
    for (const mesh of stand.meshes) {
      mesh.count = list.length;
      list.forEach(({ pose }, k) => mesh.setMatrixAt(k, affineMatrix(pose)));
      mesh.instanceMatrix.needsUpdate = true;
    }
    list.forEach(({ thing }, k) => putLight(stand, k, thing));
  };
  const putModel = (model: string): void => {
    for (const [sort, [first]] of sorts) if (first!.model === model) put(sort);
  };
  const ask = ({ model, picture }: PlacedProp): void => {
    if (asked.has(model)) return;
    asked.add(model);
    (picture ? billboardModel(picture) : propModel(model)).then(
      (own) => {
        if (gone) return;
        pieces.set(model, own);
        putModel(model);
        changed();
      },
      () => {
        asked.delete(model);
        const what = picture ? `picture of ${picture.material}` : `prop ${model}`;
        if (!gone) notify(`The ${what} could not be loaded.`, `prop ${model}`);
      },
    );
  };
  return {
    group,
    show: (props) => {
      if (props === shown) return;
      shown = props;
      const before = sorts;
      sorts = new Map();
      places = new Map();
      for (const p of props) {
        const sort = sortKey(p);
        const list = sorts.get(sort);
        if (list) list.push(p);
        else sorts.set(sort, [p]);
        places.set(p.thing, { sort, k: (list?.length ?? 1) - 1 });
        ask(p);
      }
      for (const sort of new Set([...before.keys(), ...sorts.keys()])) {
        const [old, now] = [before.get(sort), sorts.get(sort)];
        if (old?.length !== now?.length || old?.some((p, k) => p !== now![k])) put(sort);
      }
    },
    move: (thing, pose) => {
      const place = places.get(thing);
      const stand = place && stands.get(place.sort);
      if (!stand) return;
      for (const mesh of stand.meshes) {
        mesh.setMatrixAt(place.k, affineMatrix(pose));
        mesh.instanceMatrix.needsUpdate = true;
      }
    },
    light: (thing, light, onItself = null) => {
      lights.set(thing, light.slice());
      if (onItself) falls.set(thing, onItself);
      else falls.delete(thing);
      const place = places.get(thing);
      const stand = place && stands.get(place.sort);
      if (stand) putLight(stand, place.k, thing);
    },
    unlit: () => {
      if (lights.size === 0) return;
      lights.clear();
      falls.clear();
      for (const sort of sorts.keys()) put(sort);
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
