import { modelsLitOnThemselves, type MapDocument, type PropMesh } from '@yesca/core';
import { propModel, type PropPiece } from './prop-models.ts';

const meshes = new WeakMap<readonly PropPiece[], PropMesh>();

/** What is drawn of a prop as one mesh, its pieces one after another. */
export function meshOf(pieces: readonly Pick<PropPiece, 'geometry'>[]): PropMesh {
  const [places, normals, index]: number[][] = [[], [], []];
  for (const { geometry } of pieces) {
    const [place, normal, corners] = [
      geometry.getAttribute('position'),
      geometry.getAttribute('normal'),
      geometry.getIndex(),
    ];
    const first = places!.length / 3;
    for (let k = 0; k < place.count; k++) {
      places!.push(place.getX(k), place.getY(k), place.getZ(k));
      normals!.push(normal.getX(k), normal.getY(k), normal.getZ(k));
    }
    for (let k = 0; k < (corners ?? place).count; k++) index!.push(first + (corners ? corners.getX(k) : k));
  }
  return { places: Float32Array.from(places!), normals: Float32Array.from(normals!), index: Uint32Array.from(index!) };
}

/** The same for the same pieces. */
export function knownMesh(pieces: readonly PropPiece[]): PropMesh {
  let mesh = meshes.get(pieces);
  if (!mesh) meshes.set(pieces, (mesh = meshOf(pieces)));
  return mesh;
}

/** What props of a map look like that are lit on themselves; those that cannot be loaded are left out. */
export async function meshesLit(doc: MapDocument): Promise<ReadonlyMap<string, PropMesh>> {
  const out = new Map<string, PropMesh>();
  for (const name of modelsLitOnThemselves(doc)) {
    const pieces = await propModel(name).catch(() => null);
    if (pieces) out.set(name, knownMesh(pieces));
  }
  return out;
}
