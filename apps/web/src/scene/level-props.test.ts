/** @jest-environment jsdom */
import { Group } from 'three';
import {
  addBrushes,
  addRoom,
  boxSolid,
  buildLevel,
  changeEntity,
  changeSettings,
  dressSolid,
  emptyMap,
  placeDecals,
  placeEntity,
  placeProps,
  worldOfLevel,
  type Affine,
  type MapDocument,
  type ProbeLight,
} from '@yesca/core';
import { propFacts } from '@yesca/stock';
import { makeLevelProps } from './level-props.ts';
import { litProps } from './lit-props.ts';
import type { PropDecal, PropDecals } from './prop-decals.ts';
import { placedProps, type PropScene } from './props.ts';

/** A hall whose west end is lit by a lamp, with a crate on a mover there, and one that stands beside it. */
function hall(mover: Record<string, string> = {}): { doc: MapDocument; rides: string; stands: string } {
  let doc = addRoom(
    emptyMap('hall'),
    { footprint: [[0, 0], [2000, 0], [2000, 400], [0, 400]], floor: 0, ceiling: 300, wall: 16 }, // prettier-ignore
    { floor: 'm', wall: 'm', ceiling: 'm' },
  );
  doc = placeEntity(changeSettings(doc, { ambientLux: 0.1 }), 'spawn', [300, 200, 0], 0, 's');
  doc = changeEntity(placeEntity(doc, 'pointLight', [100, 200, 200], 0, 'l'), 'l', { params: { candela: 300 } });
  doc = placeEntity(doc, 'pickup', [1800, 200, 0], 0, 'dark');
  doc = placeEntity(doc, 'mover', [300, 200, 60], 0, 'm');
  doc = changeEntity(doc, 'm', { params: mover });
  const box = dressSolid(boxSolid({ min: [280, 180, 0], max: [320, 220, 20] }), 'box', 'm', { role: 'detail' });
  doc = addBrushes(doc, [{ ...box, owner: { id: 'm' } }]);
  const placed = placeProps(
    doc,
    [
      { model: 'crate', at: [300, 200, 20] },
      { model: 'crate', at: [300, 320, 0] },
    ],
    propFacts,
  );
  const [rides, stands] = placed.made.entities as [string, string];
  const entities = new Map(placed.doc.entities);
  entities.set(rides, { ...entities.get(rides)!, carrier: { id: 'm' } });
  return { doc: { ...placed.doc, entities }, rides, stands };
}
const shifted = (by: number): Affine => [1, 0, 0, by, 0, 1, 0, 0, 0, 0, 1, 0];
const nothing = () => undefined;
/** One side of the crate, that which looks south. */
const CRATE = {
  places: Float32Array.of(-20, -20, 0, 20, -20, 0, 20, -20, 40, -20, -20, 40),
  normals: Float32Array.of(0, -1, 0, 0, -1, 0, 0, -1, 0, 0, -1, 0),
  index: Uint32Array.of(0, 1, 2, 0, 2, 3),
};

/** What a level's props are drawn by, told instead. */
function shownBy({ doc, rides, stands }: ReturnType<typeof hall>) {
  const { level } = buildLevel(doc, 'sketch', {}, { props: propFacts });
  const lights: [string, number][] = [];
  const scene: PropScene = {
    group: new Group(),
    show: nothing,
    move: nothing,
    light: (thing: string, light: ProbeLight) => void lights.push([thing, light[0]!]),
    litOnThemselves: nothing,
    unlit: nothing,
    textured: nothing,
    dispose: nothing,
  };
  const stuck = { group: new Group(), show: nothing, see: nothing, move: nothing, light: nothing, dispose: nothing };
  const props = makeLevelProps(level, worldOfLevel(level), stuck as unknown as PropDecals, true, () => scene);
  const follow = (by: number) => {
    lights.length = 0;
    props.follow([shifted(by)], () => false, new Map(), false);
    return new Map(lights);
  };
  return { follow, rides, stands };
}

test('decals that the level tells are drawn on their props, those for full detail alone only then', () => {
  const { doc, stands } = hall();
  const materials = (name: string) => ({ name, width: 64, height: 64, texelsPerCm: 1, solidity: 'solid' as const });
  const signs = [{ material: 'm', at: [300, 300, 30] as const, normal: [0, -1, 0] as const, scale: 0.1 }];
  const { doc: signed, made } = placeDecals(doc, signs, materials);
  const id = made.entities[0]!;
  const shownOf = (params: object, details: boolean) => {
    const told = changeEntity(signed, id, { params: { targets: 'props', ...params } });
    const { level } = buildLevel(told, 'sketch', {}, { props: propFacts, materials, meshes: () => CRATE });
    const shown: PropDecal[] = [];
    const scene = { group: new Group(), show: nothing, litOnThemselves: nothing } as unknown as PropScene;
    const stuck = { group: new Group(), stick: (all: readonly PropDecal[]) => void shown.push(...all) };
    makeLevelProps(level, worldOfLevel(level), stuck as unknown as PropDecals, details, () => scene);
    return shown;
  };
  const [sign, ...more] = shownOf({}, false);
  expect(more).toEqual([]);
  expect(sign).toMatchObject({ prop: { thing: stands }, material: 'm' });
  expect(sign!.cut.position.length).toBeGreaterThan(8);
  expect(shownOf({ fine: true }, false)).toEqual([]);
  expect(shownOf({ fine: true }, true)).toHaveLength(1);
});

test('a prop that rides into the dark gets darker and is as it was on its way back; one that stands is lit once', () => {
  const { follow, rides, stands } = shownBy(hall());
  const first = follow(0);
  expect([...first.keys()].sort()).toEqual([rides, stands].sort());
  // So little is not looked at, and then nothing is lit anew.
  expect(follow(2).size).toBe(0);
  const far = follow(1500);
  expect([...far.keys()]).toEqual([rides]);
  expect(far.get(rides)!).toBeLessThan(0.25 * first.get(rides)!);
  expect(follow(0).get(rides)!).toBeCloseTo(first.get(rides)!, 4);
});

test('what rides on a thing that keeps the light of a place has it too, wherever it is', () => {
  const { follow, rides } = shownBy(hall({ litAt: 'dark' }));
  const bright = shownBy(hall());
  const first = follow(0).get(rides)!;
  expect(first).toBeLessThan(0.25 * bright.follow(0).get(bright.rides)!);
  expect(follow(1500).size).toBe(0);
});

test('a prop is lit on itself by a level as long as it stands as it did when that was built', () => {
  const { doc, stands } = hall();
  const build = (takes: string) => {
    const map = changeEntity(doc, stands, { params: { takes } });
    const { level } = buildLevel(map, 'sketch', {}, { props: propFacts, meshes: () => CRATE });
    return { map, level };
  };
  const propIn = (map: MapDocument) => placedProps(map.entities.values()).find((p) => p.thing === stands)!;
  const { map, level } = build('chart');
  const [lit, again] = [litProps(level), litProps(level)];
  const own = lit.of(propIn(map));
  if (own === null || own === 'vertices') throw new Error('it is laid out');
  expect(lit.falls(propIn(map), new Map())).toHaveLength(own.width * own.height * 3);
  // Layouts of other light are not taken for those of this one.
  expect(again.of(propIn(map))).not.toMatchObject({ number: own.number });
  const moved = changeEntity(map, stands, { at: [310, 320, 0] });
  expect(lit.of(propIn(moved))).toBeNull();
  expect(lit.falls(propIn(moved), new Map())).toBeNull();
  expect(lit.of(propIn(changeEntity(map, stands, { turn: 5 })))).toBeNull();
  expect(lit.of(propIn(changeEntity(map, stands, { params: { model: 'barrel' } })))).toBeNull();
  // What is of no account to how it looks leaves its light.
  expect(lit.of(propIn(changeEntity(map, stands, { name: 'Another' })))).not.toBeNull();
  const atVertices = build('vertices');
  expect(litProps(atVertices.level).of(propIn(atVertices.map))).toBe('vertices');
  const plain = build('middle');
  expect(litProps(plain.level).of(propIn(plain.map))).toBeNull();
});
