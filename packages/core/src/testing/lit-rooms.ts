import { boxSolid } from '../brush/index.ts';
import { addBrushes, changeEntity, changeSettings, placeEntity } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import { rotation } from '../math/index.ts';
import { dressSolid, transformBrush, type MaterialFacts } from '../surface/index.ts';
import { twoRooms } from './rooms.ts';

const facts = { width: 64, height: 64, texelsPerCm: 2, solidity: 'solid' as const };
export const litMaterials = (name: string): MaterialFacts | undefined =>
  ({
    brick: { ...facts, name, average: '#b05a40' },
    glass: { ...facts, name, average: '#ffe0a0', glow: 400 },
  })[name];

/** Of everything that reflects nothing: light that bounces is left out. */
export const blackMaterials = (name: string): MaterialFacts => ({ ...facts, name, average: '#000000' });

/** Two rooms of brick with a turned pillar, a block that glows, lamps, a sun, a lamp that is dark at first. */
export function litRooms(): MapDocument {
  const box = (id: string, material: string, min: [number, number, number], max: [number, number, number]) =>
    dressSolid(boxSolid({ min, max }), id, material, { role: 'detail' });
  const pillar = transformBrush(
    box('pillar', 'brick', [180, 140, 0], [220, 180, 200]),
    rotation(2, 31, [200, 160, 0]),
    true,
  )!;
  const rooms = twoRooms();
  const brushes = new Map(rooms.brushes);
  for (const b of brushes.values())
    if (b.room && JSON.stringify(b.room.part).includes('ceiling') && b.vertices.every(([x]) => x > 300))
      brushes.set(b.id, { ...b, faces: b.faces.map((f) => ({ ...f, show: 'sky' as const })) });
  let doc = addBrushes({ ...rooms, brushes }, [pillar, box('block', 'glass', [620, 240, 40], [640, 260, 60])]);
  doc = changeSettings(doc, { ambientLux: 2 });
  doc = placeEntity(doc, 'spawn', [100, 40, 0], 0, 'spawn');
  doc = placeEntity(doc, 'pointLight', [100, 100, 200], 0, 'a');
  doc = placeEntity(doc, 'spotLight', [480, 60, 150], 0, 'b');
  doc = changeEntity(doc, 'b', { params: { color: '#ff4020', candela: 120 } });
  doc = placeEntity(doc, 'pointLight', [800, 100, 220], 0, 'c');
  doc = changeEntity(doc, 'c', { params: { lit: false } });
  return placeEntity(doc, 'sun', [700, 160, 240], 200, 'sun');
}
