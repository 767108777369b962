import {
  addBrushes, boxSolid, changeEntity, contentHash, dressSolid, placeEntity, prismSolid, rotation, transformBrush, type Brush,
  type MapDocument, type Role, type Solid, type Vec3,
} from '@yesca/core'; // prettier-ignore

/** Draws demo maps: shorthands over the same commands the editor uses. */
export class Draft {
  private count = 0;
  doc: MapDocument;

  constructor(doc: MapDocument) {
    this.doc = doc;
  }

  /** Adds a dressed solid. */
  solid(solid: Solid, material: string, name?: string, role: Role = 'detail'): Brush {
    const brush = dressSolid(solid, `draft${this.count++}`, material, { role, ...(name ? { name } : {}) });
    this.doc = addBrushes(this.doc, [brush]);
    return brush;
  }

  box(min: Vec3, max: Vec3, material: string, name?: string, role: Role = 'detail'): Brush {
    return this.solid(boxSolid({ min, max }), material, name, role);
  }

  prism(min: Vec3, max: Vec3, sides: number, material: string, name?: string, role: Role = 'detail'): Brush {
    return this.solid(prismSolid({ min, max }, sides), material, name, role);
  }

  /** A brush turned about an axis through a point. */
  turned(brush: Brush, axis: 0 | 1 | 2, degrees: number, about: Vec3): Brush {
    const turned = transformBrush(brush, rotation(axis, degrees, about), true);
    this.doc = { ...this.doc, brushes: new Map(this.doc.brushes).set(brush.id, turned) };
    return turned;
  }

  thing(kind: string, at: Vec3, name: string, turn = 0, params: Record<string, number | string> = {}): void {
    const id = `draft${this.count++}`;
    this.doc = changeEntity(placeEntity(this.doc, kind, at, turn, id), id, { name, params });
  }
}

/** The same map with ids that depend only on the order in which things were made, so that drawing it again gives the same file. */
export function settleIds(doc: MapDocument): MapDocument {
  const names = new Map<string, string>();
  const settle = (id: string) => {
    if (!names.has(id)) names.set(id, contentHash(`${doc.name} ${names.size}`).slice(0, 12));
    return names.get(id)!;
  };
  const rekey = <T extends { id: string }>(map: ReadonlyMap<string, T>, change: (item: T) => T) =>
    new Map([...map.values()].map((item) => [settle(item.id), change({ ...item, id: settle(item.id) })]));
  return {
    ...doc,
    rooms: rekey(doc.rooms, (r) => r),
    openings: rekey(doc.openings, (o) => ({ ...o, rooms: o.rooms.map(settle) as unknown as typeof o.rooms })),
    brushes: rekey(doc.brushes, (b) => ({
      ...b,
      ...(b.room ? { room: { ...b.room, id: settle(b.room.id) } } : {}),
      ...(b.group ? { group: settle(b.group) } : {}),
      ...(b.layer ? { layer: settle(b.layer) } : {}),
    })),
    entities: rekey(doc.entities, (e) => e),
    groups: rekey(doc.groups, (g) => g),
    layers: rekey(doc.layers, (l) => l),
    storeys: rekey(doc.storeys, (s) => s),
    views: rekey(doc.views, (v) => v),
  };
}
