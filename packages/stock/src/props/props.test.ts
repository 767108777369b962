import { NodeIO } from '@gltf-transform/core';
import {
  addRoom,
  brightness,
  brushPlanes,
  buildLevel,
  changeSettings,
  cross,
  dot,
  dressSolid,
  emptyMap,
  lightPlace,
  luxAt,
  placeEntity,
  placeProps,
  sub,
  type Vec3,
} from '@yesca/core';
import validator from 'gltf-validator';
import { readFileSync } from 'node:fs';
import { PROP_RECIPES } from './recipes/index.ts';
import { factsOf, meshOf } from './mesh.ts';
import { PROPS } from './list.ts';

const file = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../assets/props/${name}.glb`, import.meta.url)));

/** The corners of all triangles of a file, in cm with z up. */
async function trianglesIn(name: string): Promise<Vec3[]> {
  const doc = await new NodeIO().readBinary(file(name));
  return doc
    .getRoot()
    .listMeshes()
    .flatMap((m) => m.listPrimitives())
    .flatMap((p) => {
      const at = p.getAttribute('POSITION')!;
      return Array.from(p.getIndices()!.getArray() as Iterable<number>, (i): Vec3 => {
        const [x, y, z] = at.getElement(i, [0, 0, 0]) as unknown as Vec3;
        return [x * 100, -z * 100, y * 100];
      });
    });
}

test('there are many of them, each of its own name, standing or hanging where its pivot is', () => {
  expect(PROPS.length).toBeGreaterThanOrEqual(36);
  expect(new Set(PROPS.map((p) => p.name)).size).toBe(PROPS.length);
  for (const { name, bounds, tags, triangles } of PROPS) {
    expect({ name, wide: bounds.min[0] <= 0 && bounds.max[0] >= 0 }).toEqual({ name, wide: true });
    expect({ name, high: bounds.min[2] <= 0.5 && bounds.max[2] >= -0.5 }).toEqual({ name, high: true });
    expect(tags.length).toBeGreaterThan(0);
    expect(triangles).toBeGreaterThan(5);
  }
});

test('the list is what the recipes make', () => {
  expect(JSON.parse(JSON.stringify(PROP_RECIPES.map(factsOf)))).toEqual(PROPS.map(({ tags: _, ...facts }) => facts));
});

test.each(PROP_RECIPES.map((r) => [r.name, r] as const))(
  '%s is valid glTF, as large as the list says, and its parts hold all of it',
  async (name, recipe) => {
    const report = await validator.validateBytes(file(name));
    expect(report.issues.messages.filter((m) => !/UNUSED|UNSUPPORTED/.test(m.code))).toEqual([]);
    expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0]);
    const corners = await trianglesIn(name);
    const { bounds, hulls, triangles } = PROPS.find((p) => p.name === name)!;
    expect(corners.length).toBe(triangles * 3);
    for (const axis of [0, 1, 2] as const) {
      expect(Math.min(...corners.map((p) => p[axis]))).toBeCloseTo(bounds.min[axis], 1);
      expect(Math.max(...corners.map((p) => p[axis]))).toBeCloseTo(bounds.max[axis], 1);
    }
    const planes = hulls.map((solid) => brushPlanes(dressSolid(solid, 'x', 'm')));
    for (const p of corners)
      expect(planes.some((of) => of.every(({ normal, distance }) => dot(normal, p) <= distance + 0.02))).toBe(true);
    // No face looks at another one that hides it: what is drawn encloses no less than the largest piece.
    expect(meshOf(recipe.pieces).length).toBeGreaterThan(0);
    let volume = 0;
    for (let k = 0; k < corners.length; k += 3) {
      const [a, b, c] = [corners[k]!, corners[k + 1]!, corners[k + 2]!];
      volume += dot(a, cross(b, c)) / 6;
      expect(Math.hypot(...cross(sub(b, a), sub(c, a)))).toBeGreaterThan(0);
    }
    const solid = recipe.pieces.reduce((sum, { solid: s }) => sum + volumeOf(s.vertices, s.loops), 0);
    // Pieces that only touch enclose together what each of them does.
    expect(volume / solid).toBeCloseTo(1, 2);
  },
);

function volumeOf(vertices: readonly Vec3[], loops: readonly (readonly number[])[]): number {
  let sum = 0;
  for (const loop of loops)
    for (let k = 2; k < loop.length; k++)
      sum += dot(vertices[loop[0]!]!, cross(vertices[loop[k - 1]!]!, vertices[loop[k]!]!)) / 6;
  return sum;
}

test.each(PROPS.filter((p) => p.lights.length > 0).map((p) => [p.name, p] as const))(
  'a %s that is placed brings its lamp along, which lights a dark room as a lamp of its strength does there',
  (name, { bounds, lights }) => {
    const room = { name: 'Hall', footprint: [[0, 0], [1200, 0], [1200, 1200], [0, 1200]], floor: 0, ceiling: 480, wall: 16 } as const; // prettier-ignore
    const dark = changeSettings(
      placeEntity(
        addRoom(emptyMap('m'), room as never, { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' }),
        'spawn',
        [60, 60, 0],
        0,
        's',
      ),
      { ambientLux: 0, skyNits: 0 },
    );
    const at: Vec3 = [600, 600, bounds.min[2] < -1 ? 300 : 0];
    const lookup = (n: string) => PROPS.find((p) => p.name === n);
    const { doc } = placeProps(dark, [{ model: name, at }], lookup);
    const { level } = buildLevel(doc, 'review', {}, { props: lookup, direct: true, probes: false });
    const lux = (p: Vec3) =>
      brightness(luxAt(level.meta.pages, level.lightTexels, lightPlace(level, level.surfaceMaterial.keys(), p)!));
    const [lamp] = lights;
    const from = [0, 1, 2].map((k) => at[k]! + lamp!.at[k]!) as unknown as Vec3;
    /** Inverse squares and Lambert: candela · cos / m². */
    const wanted = ([x, y]: Vec3) => {
      const d = Math.hypot(x - from[0], y - from[1], from[2]) / 100;
      return (lamp!.candela * (from[2] / 100)) / d ** 3;
    };
    const [near, far]: [Vec3, Vec3] = [
      [600, 860, 0],
      [600, 1080, 0],
    ];
    expect(lux(near) / lux(far)).toBeCloseTo(wanted(near) / wanted(far), 1);
    expect(lux(near) / wanted(near)).toBeGreaterThan(0.85);
    expect(lux(near) / wanted(near)).toBeLessThan(1.15);
  },
);
