import {
  addBrushes,
  addFoliage,
  addShape,
  addWire,
  alignFaces,
  brushPlanes,
  facesFacing,
  flowFaces,
  paintFaces,
  type Alignment,
  type FaceRef,
  type Foliage,
  boxSolid,
  cutBrushes,
  changeEntity,
  type Entity,
  doorInOpening,
  giveParts,
  renameReferences,
  contentHash,
  dressSolid,
  normalize,
  placeDecals,
  placeEntity,
  placeProps,
  prismSolid,
  removePicked,
  repeatAlong,
  rotation,
  shellPicked,
  subtractBrushes,
  transformBrush,
  type Brush,
  type DecalWish,
  type PartKind,
  type MapDocument,
  type ParamValue,
  type Point2,
  type Role,
  type ShapeKind,
  type ShapeValue,
  type Solid,
  type Vec3,
} from '@yesca/core';
import { MATERIALS } from '../materials/list.ts';
import { propFacts } from '../props/list.ts';

const STOCK = new Map(MATERIALS.map((m) => [m.name, m]));
/** What is known of the materials that ship. */
export const stockFacts = (name: string) => STOCK.get(name);

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

  /** A shape by its numbers, as the editor's Draw makes it. Gives its brushes. */
  shape(
    kind: ShapeKind,
    min: Vec3,
    max: Vec3,
    params: Readonly<Record<string, ShapeValue>>,
    material: string,
    name: string,
    outline?: readonly Point2[],
  ): Brush[] {
    const ids: string[] = [];
    const brush = (i: number) => (ids[i] ??= `draft${this.count++}`);
    const group = `draft${this.count++}`;
    const recipe = { kind, box: { min, max }, params, ...(outline ? { outline } : {}) };
    this.doc = addShape(this.doc, recipe, { material }, { group, brush }, name);
    this.named(ids, name);
    return this.get(ids);
  }

  /** Cuts brushes by the plane `normal · p = distance`, keeping the half behind it, or the one in front. */
  cut(ids: readonly string[], normal: Vec3, distance: number, keep: 'front' | 'back'): void {
    this.doc = cutBrushes(this.doc, new Set(ids), { normal: normalize(normal), distance }, keep).doc;
  }

  /** Takes brushes away from others, or from everything they reach into. */
  subtract(cutters: readonly string[], targets?: readonly string[]): void {
    this.doc = subtractBrushes(this.doc, new Set(cutters), targets && new Set(targets)).doc;
  }

  /** Hollows brushes and gives the walls they became. */
  shell(brushes: readonly Brush[], thickness: number): Brush[] {
    const out = shellPicked(this.doc, new Set(brushes.map((b) => b.id)), thickness, 'inside');
    this.doc = out.doc;
    return this.get([...out.brushes]);
  }

  remove(brushes: readonly Brush[]): void {
    this.doc = removePicked(this.doc, { brushes: new Set(brushes.map((b) => b.id)) });
  }

  /** Copies brushes along a line. */
  repeat(ids: readonly string[], count: number, step: Vec3): void {
    this.doc = repeatAlong(this.doc, { brushes: new Set(ids) }, count, step).doc;
  }

  private get(ids: readonly string[]): Brush[] {
    return ids.map((id) => this.doc.brushes.get(id)!);
  }

  private named(ids: readonly string[], name: string): void {
    const brushes = new Map(this.doc.brushes);
    for (const id of ids) brushes.set(id, { ...brushes.get(id)!, name });
    this.doc = { ...this.doc, brushes };
  }

  /** A brush turned about an axis through a point. */
  turned(brush: Brush, axis: 0 | 1 | 2, degrees: number, about: Vec3): Brush {
    const turned = transformBrush(brush, rotation(axis, degrees, about), true);
    this.doc = { ...this.doc, brushes: new Map(this.doc.brushes).set(brush.id, turned) };
    return turned;
  }

  /** Faces of brushes that look one way, or of all sides but top and foot with `around`. */
  faces(brushes: Iterable<string>, way: Vec3 | 'around'): FaceRef[] {
    if (way !== 'around') return facesFacing(this.doc, brushes, way);
    return [...brushes].flatMap((id) => {
      const brush = this.doc.brushes.get(id)!;
      const planes = brushPlanes(brush);
      return brush.faces.flatMap((f, i) => (Math.abs(planes[i]!.normal[2]) < 0.1 ? [{ brush: id, face: f.id }] : []));
    });
  }

  /** Ids of the brushes with a name, in the order in which they were drawn. */
  called(name: string): string[] {
    return [...this.doc.brushes.values()].filter((b) => b.name === name).map((b) => b.id);
  }

  /** The id of the thing of that name. */
  thingCalled(name: string): string {
    return [...this.doc.entities.values()].find((e) => e.name === name)!.id;
  }

  /** Ids of a room's brushes of a kind: floor, ceiling, wall and so on. */
  partsOf(room: string, kind: PartKind): string[] {
    return [...this.doc.brushes.values()]
      .filter((b) => b.room?.id === room && b.room.part.kind === kind)
      .map((b) => b.id);
  }

  paint(faces: readonly FaceRef[], material: string): void {
    this.doc = paintFaces(this.doc, faces, material, stockFacts);
  }

  align(faces: readonly FaceRef[], what: Alignment, asPiece = false): void {
    this.doc = alignFaces(this.doc, faces, what, { facts: stockFacts, asPiece });
  }

  /** Runs the texture of the first face round the others, in whole repeats. */
  flow(faces: readonly FaceRef[]): void {
    this.doc = flowFaces(this.doc, faces[0]!, faces.slice(1), { facts: stockFacts, close: true });
  }

  /** Leaves or netting on a surface. */
  sheet(material: string, at: Vec3, normal: Vec3, name: string, more: Partial<Foliage> = {}): void {
    const { doc, brushes } = addFoliage(this.doc, { material: stockFacts(material)!, at, normal, ...more });
    this.doc = doc;
    this.named([...brushes], name);
  }

  /** A thin board whose face (and far side) takes a region of a sheet exactly, as a sign or a door leaf does. */
  board(min: Vec3, max: Vec3, material: string, region: string, name: string): void {
    const brush = this.box(min, max, material, name);
    const thin = [0, 1, 2].reduce((a, b) => (max[b]! - min[b]! < max[a]! - min[a]! ? b : a));
    for (const side of [-1, 1])
      this.align(this.faces([brush.id], [0, 1, 2].map((i) => (i === thin ? side : 0)) as unknown as Vec3), {
        do: 'region',
        name: region,
      });
  }

  thing(kind: string, at: Vec3, name: string, turn = 0, params: Record<string, ParamValue> = {}): string {
    const id = `draft${this.count++}`;
    this.doc = changeEntity(placeEntity(this.doc, kind, at, turn, id), id, { name, params });
    return id;
  }

  /** A prop from Stock, with the lamps that belong to it; with other parameters than it comes with. */
  prop(model: string, at: Vec3, turn = 0, scale = 1, params: Entity['params'] = {}): void {
    const { doc, made } = placeProps(this.doc, [{ model, at, turn, scale }], propFacts);
    this.doc = changeEntity(doc, made.entities[0]!, { params });
  }

  /** A decal from Stock. */
  decal(wish: DecalWish): void {
    this.doc = placeDecals(this.doc, [wish], stockFacts).doc;
  }

  /** A thing that owns brushes. */
  machine(
    kind: string,
    name: string,
    brushes: readonly string[],
    at: Vec3,
    params: Record<string, ParamValue>,
  ): string {
    const id = this.thing(kind, at, name, 0, params);
    this.doc = giveParts(this.doc, id, 0, { brushes });
    return id;
  }

  /** A door whose leaves are brushes that are there. */
  door(name: string, leaves: readonly (readonly string[])[], at: Vec3, params: Record<string, ParamValue>): string {
    const id = this.thing('door', at, name, 0, params);
    leaves.forEach((ids, part) => (this.doc = giveParts(this.doc, id, part, { brushes: ids })));
    return id;
  }

  /** A door of one leaf in an opening. */
  doorIn(opening: string, name: string, material: string, params: Record<string, ParamValue>): string {
    const made = doorInOpening(this.doc, opening, { leaves: 'one', thickness: 6, material });
    this.doc = changeEntity(made.doc, made.door, { name, params });
    return made.door;
  }

  turnTo(thing: string, turn: number): void {
    this.doc = changeEntity(this.doc, thing, { turn });
  }

  /** Puts a thing's sign elsewhere; what it owns stays. */
  moveThing(thing: string, at: Vec3): void {
    this.doc = changeEntity(this.doc, thing, { at });
  }

  /** A region that notices who is inside. */
  region(kind: string, name: string, min: Vec3, max: Vec3, params: Record<string, ParamValue>): string {
    const brush = this.box(min, max, 'limewash', name);
    return this.machine(kind, name, [brush.id], [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, min[2]], params);
  }

  wire(from: string, signal: string, to: string, action: string): void {
    this.doc = addWire(this.doc, { from: { thing: from, signal }, to: { thing: to, action } }, `draft${this.count++}`);
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
      ...(b.owner ? { owner: { ...b.owner, id: settle(b.owner.id) } } : {}),
      ...(b.group ? { group: settle(b.group) } : {}),
      ...(b.layer ? { layer: settle(b.layer) } : {}),
    })),
    entities: rekey(doc.entities, (e) => renameReferences(e, 'thing', settle)),
    wires: rekey(doc.wires, (w) => ({
      ...w,
      from: { ...w.from, thing: settle(w.from.thing) },
      to: { ...w.to, thing: settle(w.to.thing) },
    })),
    groups: rekey(doc.groups, (g) => g),
    layers: rekey(doc.layers, (l) => l),
    storeys: rekey(doc.storeys, (s) => s),
    views: rekey(doc.views, (v) => v),
  };
}
