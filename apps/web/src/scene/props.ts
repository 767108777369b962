import { Group, InstancedMesh, Matrix4, type BufferGeometry, type ShaderMaterial } from 'three';
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
  type Vec3,
} from '@yesca/core';
import { notify } from '../state/notify.ts';
import { billboardModel } from './billboard-models.ts';
import { laidOut, layoutPicture, numbers, writeLayout, type OnItself } from './own-light.ts';
import { propMaterial, WIDE, type Found } from './prop-material.ts';
import { propModel, type PropPiece } from './prop-models.ts';

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
  /**
   * Lets one be seen by light from every side: see {@link lightOfProp}; and by what falls on its vertices or luxels (lux, red, green, blue
   * of each) where that is known.
   */
  readonly light: (thing: string, light: ProbeLight, onItself?: Float32Array | null) => void;
  /** Tells of which the light on themselves will be told; of none at first. */
  readonly litOnThemselves: (told: (prop: PlacedProp) => OnItself | null) => void;
  /** Lets all be seen by the light of the workroom. */
  readonly unlit: () => void;
  /** Whether pictures lie on them. */
  readonly textured: (on: boolean) => void;
  readonly dispose: () => void;
}

/** Of the light in a workroom: from all sides, more from above and from the south-east. Coefficients of one colour, lux. */
export const WORKROOM: readonly number[] = [74, -7, 20, 6, 0, 0, 0, 0, 0];

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

function setPlace(mesh: InstancedMesh, k: number, pose: Affine): void {
  mesh.setMatrixAt(k, affineMatrix(pose));
  mesh.instanceMatrix.needsUpdate = true;
}

/** What is lit on itself where nothing is. */
export const NONE = (): null => null;

const loadModel = ({ model, picture }: Pick<PlacedProp, 'model' | 'picture'>): Promise<readonly PropPiece[]> =>
  picture ? billboardModel(picture) : propModel(model);

/** `changed` is called when a model came in that had to be loaded; one that cannot be is told. */
export function makeProps(
  air: Partial<MapSettings>,
  changed: () => void = () => undefined,
  load: typeof loadModel = loadModel,
): PropScene {
  let onItself: (prop: PlacedProp) => OnItself | null = NONE;
  /** What is drawn together: one model, lit at as many places. */
  const sortKey = (prop: PlacedProp): string => {
    const own = onItself(prop);
    return `${prop.model} ${own === null ? prop.litAt.length : own === 'vertices' ? own : `chart ${own.number}`}`;
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
    const [prop] = list as [PlacedProp];
    const { model, litAt, box } = prop;
    const own = pieces.get(model);
    if (!own) return null;
    const known = stands.get(sort);
    if (known && known.room >= list.length) return known;
    if (known) remove(known);
    const room = Math.max(4, 2 ** Math.ceil(Math.log2(list.length)));
    const corners = litAt.length;
    const counts = own.map(({ geometry }) => geometry.getAttribute('position').count);
    const vertices = counts.reduce((sum, n) => sum + n, 0);
    const told = onItself(prop);
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
    if (list.length === 0 && (stand.onVertices || stand.onChart)) {
      // Light that is found anew may have other layouts.
      remove(stand);
      stands.delete(sort);
      return;
    }
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
    load({ model, picture }).then(
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
  const putShown = (): void => {
    const before = sorts;
    sorts = new Map();
    places = new Map();
    for (const p of shown) {
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
  };
  /** Puts those that are others than before where they stand; false where more than that is another. */
  const putChanged = (before: readonly PlacedProp[]): boolean => {
    if (before.length !== shown.length) return false;
    const changed = shown.filter((prop, k) => prop !== before[k]);
    const same = (prop: PlacedProp): boolean => places.get(prop.thing)?.sort === sortKey(prop);
    if (before.some((prop, k) => prop.thing !== shown[k]!.thing) || !changed.every(same)) return false;
    for (const prop of changed) {
      const { sort, k } = places.get(prop.thing)!;
      sorts.get(sort)![k] = prop;
      const stand = stands.get(sort);
      if (!stand) continue;
      stand.meshes.forEach((mesh) => setPlace(mesh, k, prop.pose));
      putLight(stand, k, prop.thing);
    }
    return true;
  };
  return {
    group,
    show: (props) => {
      if (props === shown) return;
      const before = shown;
      shown = props;
      if (!putChanged(before)) putShown();
    },
    litOnThemselves: (told) => {
      if (told === onItself) return;
      onItself = told;
      putShown();
    },
    move: (thing, pose) => {
      const place = places.get(thing);
      const stand = place && stands.get(place.sort);
      if (!stand) return;
      for (const mesh of stand.meshes) setPlace(mesh, place.k, pose);
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
