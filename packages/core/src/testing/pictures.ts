import { boxSolid, brushPlanes, type Brush, type Solid } from '../brush/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { dot, type Vec3 } from '../math/index.ts';
import { dressSolid, texelAt, type MaterialFacts } from '../surface/index.ts';
import { findFaces, type FaceRef } from '../edit/faces.ts';

export const WALL: MaterialFacts = { name: 'wall', width: 512, height: 256, texelsPerCm: 2, solidity: 'solid' };
export const FINE: MaterialFacts = { name: 'fine', width: 1024, height: 1024, texelsPerCm: 4, solidity: 'solid' };
export const SIGNS: MaterialFacts = {
  name: 'signs',
  width: 512,
  height: 512,
  texelsPerCm: 2,
  solidity: 'solid',
  regions: [
    { name: 'band', x: 0, y: 0, width: 512, height: 64 },
    { name: 'door', x: 0, y: 64, width: 128, height: 256 },
    { name: 'plate', x: 128, y: 64, width: 200, height: 200 },
  ],
};
export const facts = (name: string) => [WALL, FINE, SIGNS].find((m) => m.name === name);

export const withBrushes = (solids: readonly Solid[], material = 'wall'): MapDocument => ({
  ...emptyMap('t'),
  brushes: new Map(solids.map((s, i): [string, Brush] => [`b${i}`, dressSolid(s, `b${i}`, material)])),
});
export const box = (x: number, y: number, z: number): Solid => boxSolid({ min: [0, 0, 0], max: [x, y, z] });
/** The face of a brush that looks one way. */
export const facing = (doc: MapDocument, brush: string, way: Vec3): FaceRef => {
  const b = doc.brushes.get(brush)!;
  return { brush, face: b.faces[brushPlanes(b).findIndex((p) => dot(p.normal, way) > 0.99)]!.id };
};
export const SOUTH: Vec3 = [0, -1, 0];
export const look = (doc: MapDocument, ref: FaceRef) => findFaces(doc, [ref])[0]!;
export const texel = (doc: MapDocument, ref: FaceRef, p: Vec3) => texelAt(look(doc, ref).frame, p);
