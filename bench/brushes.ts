import Module from 'manifold-3d';
import { asBrushes, roomSlabs } from './scenes.ts';
import {
  addBrushes,
  boxesOverlap,
  brushVolume,
  buildStructure,
  emptyMap,
  hashRandom,
  subtractBrushes,
  type BlockCache,
  type Box,
  type Brush,
} from '@yesca/core';
import { best, note, say } from './table.ts';

export async function structure(): Promise<void> {
  const kernel = await Module();
  kernel.setup();
  const { Manifold } = kernel;
  const took: number[] = [];
  for (const n of [13, 40]) {
    const boxes = roomSlabs(n);
    const brushes = asBrushes(boxes);
    const seeds = [{ id: 's', at: [200, 200, 10] as const }];
    const ours = best(() => void buildStructure(brushes, seeds), n === 13 ? 3 : 2);
    took.push(ours);
    const peer = best(
      () => {
        const parts = boxes.map((b) =>
          Manifold.cube([b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2]]).translate([
            b.min[0],
            b.min[1],
            b.min[2],
          ]),
        );
        const union = Manifold.union(parts);
        union.numTri();
        for (const p of [...parts, union]) p.delete();
      },
      n === 13 ? 3 : 2,
    );
    note(
      `structure stage of ${boxes.length.toLocaleString('en')} slabs in ${n}² rooms`,
      ours,
      peer,
      '≥ 1 ×',
      'manifold-3d union',
    );
  }
  say({
    work: 'growth of the structure stage, 1,014 to 9,600',
    ours: `exponent ${(Math.log(took[1]! / took[0]!) / Math.log(9600 / 1014)).toFixed(2)}`,
    wanted: '≤ 1.2',
  });
  const brushes = asBrushes(roomSlabs(13));
  const seeds = [{ id: 's', at: [200, 200, 10] as const }];
  const cache: BlockCache = new Map();
  buildStructure(brushes, seeds, {}, cache);
  let edit = 0;
  const again = best(() => {
    const changed = brushes.map((b, i): Brush => (i === 500 + edit ? { ...b } : b));
    edit++;
    buildStructure(changed, seeds, {}, cache, false);
  });
  note(
    'live sealing check after one edit, 1,014 slabs (beside: the whole stage)',
    again,
    took[0]!,
    '≥ 5 ×',
    'whole stage',
  );
}

/** A chain of subtractions from 1,000 blocks, one cutter after another, as a designer does it; the volumes must agree. */
export async function subtractions(): Promise<void> {
  const kernel = await Module();
  kernel.setup();
  const { Manifold } = kernel;
  const blocks = Array.from({ length: 1000 }, (_, i): Box => {
    const [x, y, z] = [(i % 10) * 100, (Math.floor(i / 10) % 10) * 100, Math.floor(i / 100) * 100];
    return { min: [x, y, z], max: [x + 100, y + 100, z + 100] };
  });
  const cutters = Array.from({ length: 40 }, (_, i): Box => {
    const at = (k: number) => Math.round(hashRandom(i, k, 7) * 850) + 13;
    const [x, y, z] = [at(1), at(2), at(3)];
    return { min: [x, y, z], max: [x + 90, y + 70, z + 110] };
  });
  const start = addBrushes(emptyMap('Bench'), asBrushes(blocks));
  const tools = asBrushes(cutters).map((b) => ({ ...b, id: `cutter ${b.id}` }));
  let left = 0;
  const ours = best(() => {
    let doc = start;
    for (const tool of tools) doc = subtractBrushes(addBrushes(doc, [tool]), new Set([tool.id])).doc;
    left = [...doc.brushes.values()].reduce((v, b) => v + brushVolume(b), 0);
  }, 2);
  const cube = ({ min, max }: Box) =>
    Manifold.cube([max[0] - min[0], max[1] - min[1], max[2] - min[2]]).translate([min[0], min[1], min[2]]);
  let peerLeft = 0;
  const peer = best(() => {
    let solids = blocks.map((box) => ({ box, solid: cube(box) }));
    for (const c of cutters) {
      const tool = cube(c);
      solids = solids.map((s) => {
        if (!boxesOverlap(s.box, c)) return s;
        const solid = s.solid.subtract(tool);
        s.solid.delete();
        return { ...s, solid };
      });
      tool.delete();
    }
    peerLeft = solids.reduce((v, s) => v + s.solid.volume(), 0);
    solids.forEach((s) => s.solid.delete());
  }, 2);
  if (Math.abs(left - peerLeft) > peerLeft * 1e-6) throw new Error(`the volumes disagree: ${left} and ${peerLeft}`);
  note(
    '40 subtractions one after another from 1,000 blocks',
    ours,
    peer,
    'volumes equal within 1e-6',
    'manifold-3d, meshes',
  );
}
