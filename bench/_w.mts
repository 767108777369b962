import { buildStructure, locate } from '@yesca/core';
import * as S from '../packages/core/src/testing/sight.ts';
import { makeGates } from '../packages/core/src/compile/visibility/gates.ts';
import { Reach } from '../packages/core/src/compile/visibility/bound.ts';
const s = S.turnedBoxes(32);
const st = buildStructure(s.brushes, [{ id: 's', at: s.at }]);
const a = [ 623.3213194234278, 467.5801210317559, 190.2254707341787 ], b = [ 600.5690966764325, 156.38737706642686, 262.4928404052787 ];
let last: any = null; const chain: any[] = [];
for (let k = 0; k <= 400000; k++) { const t = k / 400000; const p = a.map((c, i) => c + (b[i]! - c) * t) as any; const cell = locate(st.blocks, p); if (cell !== last) { chain.push([cell, t, p]); last = cell; } }
console.log(chain.map(([c, t, p]) => `${c} @${t.toFixed(6)}`).join(' -> '));
const rowOf = new Int32Array(st.cells.length).fill(-1); let n = 0; st.cells.forEach((c, i) => { if (c.inside) rowOf[i] = n++; });
const gates = makeGates(st, rowOf);
const reach = new Reach(gates);
const way: number[] = [];
for (let i = 1; i < chain.length; i++) {
  const [from, to] = [rowOf[chain[i - 1][0]], rowOf[chain[i][0]]];
  const g = [...gates.out].filter((g) => gates.from[g] === from && gates.to[g] === to);
  console.log(chain[i - 1][0], '->', chain[i][0], 'gates', g.length, g.map((x) => { const w = []; for (let k = gates.first[x]!; k < gates.first[x + 1]!; k++) w.push([...gates.point.subarray(k * 3, k * 3 + 3)].map((c) => c.toFixed(2)).join(',')); return w.join(' | '); }).join(' ## '), 'cross', chain[i][2].map((c: number) => c.toFixed(3)).join());
  if (g.length) way.push(g[0]);
}
reach.start(way[0], 1e9);
console.log('reach with no budget', way.map((g) => reach.has(g)), reach.spent);
for (const g of way) { const f: any = { points: null, at: 0, corners: 0 }; if (reach.has(g)) { reach.window(g, f); console.log(g, f.corners, [...f.points.subarray(f.at, f.at + f.corners * 3)].map((c: number) => c.toFixed(2)).join(' ')); } }
const g = st.blocks;
const leafAt = (p: any) => { for (const [bi, blk] of g.blocks.entries()) { if ([0,1,2].every((i) => p[i] >= blk.box.min[i]! && p[i] < blk.box.max[i]!)) { let at = blk.root; const path: any[] = []; while (at >= 0) { const n = blk.nodes[at]!; const pl = blk.planes[n.plane]!; const d = pl.normal[0]*p[0]+pl.normal[1]*p[1]+pl.normal[2]*p[2]-pl.distance; path.push(d.toFixed(3)); at = d >= 0 ? n.front : n.back; } return { bi, leaf: -1 - at, blk, path }; } } return null; };
for (const t of [0.0001, 0.0006]) { const p = a.map((c, i) => c + (b[i]! - c) * t); const L = leafAt(p)!; console.log('leaf', L.leaf, 'cell', L.blk.leafCell[L.leaf], L.path.join(' ')); const poly = L.blk.leaves[L.leaf]!; for (const f of poly.faces) console.log('  face', f.plane, f.along, f.winding.map((q) => q.map((c) => c.toFixed(3)).join(',')).join(' | ')); for (const l of L.blk.leafLinks) if (l.a === L.leaf || l.b === L.leaf) console.log('  link', l.a, l.b, l.winding.length); }
