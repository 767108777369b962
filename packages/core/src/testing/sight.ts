import { boxSolid, prismSolid, type Brush, type Role } from '../brush/index.ts';
import { applyAffine, composeAffine, hashRandom, rotation, translation, type Vec3 } from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';

/** Sealed places made by number, hard for whoever works out what is seen from where: see docs/benchmarks.md. */
export interface SightScene {
  readonly name: string;
  readonly brushes: readonly Brush[];
  /** Somewhere inside. */
  readonly at: Vec3;
}

/** Gathers brushes with names in order. */
class Maker {
  readonly brushes: Brush[] = [];

  box(min: Vec3, max: Vec3, role: Role = 'structure', turn?: { degrees: number; axis?: 0 | 1 | 2 }): void {
    this.add(dressSolid(boxSolid({ min, max }), this.name(), 'stone', { role }), min, max, turn);
  }

  prism(min: Vec3, max: Vec3, sides: number): void {
    this.add(dressSolid(prismSolid({ min, max }, sides), this.name(), 'stone', { role: 'structure' }), min, max);
  }

  /** Six slabs round a box of air. */
  hall([ax, ay, az]: Vec3, [bx, by, bz]: Vec3, wall = 16): void {
    this.box([ax - wall, ay - wall, az - wall], [bx + wall, by + wall, az]);
    this.box([ax - wall, ay - wall, bz], [bx + wall, by + wall, bz + wall]);
    this.box([ax - wall, ay - wall, az], [ax, by + wall, bz]);
    this.box([bx, ay - wall, az], [bx + wall, by + wall, bz]);
    this.box([ax, ay - wall, az], [bx, ay, bz]);
    this.box([ax, by, az], [bx, by + wall, bz]);
  }

  private name(): string {
    return String(this.brushes.length).padStart(6, '0');
  }

  private add(brush: Brush, min: Vec3, max: Vec3, turn?: { degrees: number; axis?: 0 | 1 | 2 }): void {
    const middle = min.map((c, i) => (c + max[i]!) / 2) as unknown as Vec3;
    this.brushes.push(turn ? transformBrush(brush, rotation(turn.axis ?? 2, turn.degrees, middle), true) : brush);
  }
}

const scene = (name: string, at: Vec3, fill: (make: Maker) => void): SightScene => {
  const make = new Maker();
  fill(make);
  return { name, brushes: make.brushes, at };
};

/**
 * n² rooms with a doorway to each neighbour, ten slabs a room. In `rows` the doorways of a row lie in line; otherwise each is off
 * to a side by chance, so that one sees into a few rooms only, however many there are.
 */
export function offices(n: number, rows = false): SightScene {
  const [R, H, T, D] = [400, 272, 16, 112];
  return scene(`${n}² rooms with doorways ${rows ? 'in line' : 'staggered'}`, [200, 200, 10], (make) => {
    const wall = (x: number, y: number, axis: 0 | 1, door: number | null) => {
      const part = (from: number, to: number, z0: number, z1: number) =>
        axis === 0
          ? make.box([x + from, y, z0], [x + to, y + T, z1])
          : make.box([x, y + from, z0], [x + T, y + to, z1]);
      if (door === null) return part(0, R, 0, H);
      part(0, door, 0, H);
      part(door + D, R, 0, H);
      part(door, door + D, 208, H);
    };
    const doorway = (i: number, j: number, axis: 0 | 1): number =>
      rows ? ((axis ? i : j) % 2 ? 40 : 220) : 30 + 40 * Math.floor(hashRandom(i, j, axis) * 6);
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        const [x, y] = [i * R, j * R];
        make.box([x, y, -T], [x + R, y + R, 0]);
        make.box([x, y, H], [x + R, y + R, H + T]);
        wall(x, y, 1, i === 0 ? null : doorway(i, j, 0));
        wall(x, y, 0, j === 0 ? null : doorway(i, j, 1));
      }
    for (let k = 0; k < n; k++) {
      wall(n * R, k * R, 1, null);
      wall(k * R, n * R, 0, null);
    }
    make.box([n * R, n * R, 0], [n * R + T, n * R + T, H]);
  });
}

/** Boxes at odd angles strewn through a hall. */
export const turnedBoxes = (count: number): SightScene =>
  scene(`${count} turned boxes`, [20, 20, 20], (make) => {
    const side = 300 * Math.cbrt(count);
    make.hall([0, 0, 0], [side, side, side / 2]);
    for (let i = 0; i < count; i++) {
      const at = (k: number, far: number) => 60 + hashRandom(i, k, 71) * (far - 220);
      const [x, y, z] = [at(1, side), at(2, side), at(3, side / 2 + 100)];
      const size = (k: number) => 40 + hashRandom(i, k, 72) * 120;
      make.box([x, y, z], [x + size(1), y + size(2), z + size(3)], 'structure', {
        degrees: hashRandom(i, 4, 73) * 360,
        axis: (i % 3) as 0 | 1 | 2,
      });
    }
  });

/** Bridges across a deep hall, over one another at all angles. */
export const bridges = (count: number): SightScene =>
  scene(`${count} bridges over one another`, [30, 30, 20], (make) => {
    make.hall([0, 0, 0], [1600, 1600, 1400]);
    for (let i = 0; i < count; i++) {
      const z = 60 + (i * 1280) / count;
      const degrees = hashRandom(i, 5, 74) * 180;
      make.box([0, 740, z], [1600, 860, z + 14], 'structure', { degrees });
    }
  });

/** n² columns in a low hall, every other one round. */
export const columns = (n: number): SightScene =>
  scene(`${n * n} columns in a hall`, [20, 20, 20], (make) => {
    const side = n * 220;
    make.hall([0, 0, 0], [side, side, 320]);
    for (let i = 0; i < n * n; i++) {
      const [x, y] = [(i % n) * 220 + 80 + hashRandom(i, 1, 75) * 30, Math.floor(i / n) * 220 + 80];
      if (i % 2) make.prism([x, y, 0], [x + 60, y + 60, 320], 8);
      else make.box([x, y, 0], [x + 60, y + 60, 320]);
    }
  });

/** A shaft with a winding stair of wedges round a core, and a gallery on every turn. */
export const spiralTower = (turns: number): SightScene =>
  scene(`a spiral stair of ${turns} turns`, [-280, -280, 10], (make) => {
    const height = turns * 320;
    make.hall([-300, -300, 0], [300, 300, height]);
    make.prism([-70, -70, 0], [70, 70, height], 12);
    for (let k = 0; k < turns * 16; k++) make.box([60, -60, k * 20], [300, 60, k * 20 + 20]);
    // Each step is turned about the core.
    const first = 7;
    for (let k = 0; k < turns * 16; k++) {
      const brush = make.brushes[first + k]!;
      make.brushes[first + k] = transformBrush(brush, rotation(2, k * 22.5, [0, 0, 0]), true);
    }
  });

/** Rooms whose walls stand at odd angles, each with a slit in it. */
export const slantedWalls = (count: number): SightScene =>
  scene(`${count} slanted walls with slits`, [20, 300, 20], (make) => {
    make.hall([0, 0, 0], [count * 220 + 300, 600, 280]);
    for (let i = 0; i < count; i++) {
      const x = 200 + i * 220;
      const lean = (hashRandom(i, 1, 76) - 0.5) * 40;
      const gap = 80 + hashRandom(i, 2, 76) * 400;
      make.box([x, -200, -60], [x + 14, gap, 340]);
      make.box([x, gap + 50, -60], [x + 14, 800, 340]);
      for (const k of [1, 2]) {
        const at = make.brushes.length - k;
        make.brushes[at] = transformBrush(make.brushes[at]!, rotation(2, lean, [x, gap + 25, 0]), true);
        make.brushes[at] = transformBrush(make.brushes[at]!, rotation(1, lean / 3, [x, 300, 140]), true);
      }
    }
  });

/** Rooms in a row, parted by walls with a crack of some width (cm), the cracks almost in line. */
export const cracks = (width: number): SightScene =>
  scene(`cracks of ${width} cm`, [50, 50, 20], (make) => {
    make.hall([0, 0, 0], [1200, 400, 200]);
    for (let i = 1; i < 6; i++) {
      const gap = 200 + (i % 2) * width * 0.4;
      make.box([i * 200, 0, 0], [i * 200 + 4, gap, 200]);
      make.box([i * 200, gap + width, 0], [i * 200 + 4, 400, 200]);
    }
  });

/** Two windows in one wall, steps of a hundredth of a centimetre between floors, boxes that touch along edges and at corners. */
export const nearlyTouching = (): SightScene =>
  scene('near-coplanar floors and touching corners', [50, 50, 60], (make) => {
    make.hall([0, 0, 0], [900, 600, 300]);
    make.box([300, 0, 0], [316, 100, 300]);
    make.box([300, 200, 0], [316, 400, 300]);
    make.box([300, 500, 0], [316, 600, 300]);
    for (let i = 0; i < 6; i++) make.box([320 + i * 40, 0, 0], [360 + i * 40, 600, 20 + i * 0.01]);
    for (let i = 0; i < 4; i++) make.box([600 + i * 50, 100 + i * 50, 0], [650 + i * 50, 150 + i * 50, 300]);
    make.box([600, 400, 100], [650, 450, 150]);
    make.box([650, 450, 150], [700, 500, 200]);
  });

/** A hall with hundreds of hints, and detail strewn over it. */
export const hinted = (count: number): SightScene =>
  scene(`${count} hints`, [30, 30, 30], (make) => {
    const rooms = offices(3);
    make.brushes.push(...rooms.brushes);
    for (let i = 0; i < count; i++) {
      const at = (k: number) => Math.round(hashRandom(i, k, 77) * 1100) + 20;
      const [x, y] = [at(1), at(2)];
      if (i % 2) make.box([x, y, 8], [x + 4, y + 60, 200], 'hint');
      else make.box([x, y, 8], [x + 60, y + 4, 200], 'hint');
    }
  });

/** A scene turned about the upright and moved. */
export function movedScene({ name, brushes, at }: SightScene, by: Vec3, degrees: number): SightScene {
  const move = composeAffine(translation(by), rotation(2, degrees, [0, 0, 0]));
  return {
    name: `${name}, turned by ${degrees}° and ${Math.round(Math.max(...by.map(Math.abs)))} cm away`,
    brushes: brushes.map((b) => transformBrush(b, move, true)),
    at: applyAffine(move, at),
  };
}
