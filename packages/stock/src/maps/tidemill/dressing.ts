import type { Vec3 } from '@yesca/core';
import type { Draft } from '../drafting.ts';

const SOUTH: Vec3 = [0, -1, 0];
const NORTH: Vec3 = [0, 1, 0];
const UP: Vec3 = [0, 0, 1];

/** What makes the mill look lived in: trims, doors, signs, panes, lamps, netting and growth; and textures laid so that nothing is cut off. */
export function dressing(d: Draft): void {
  timber(d);
  roundThings(d);
  doorsAndSigns(d);
  trims(d);
  lamps(d);
  growth(d);
}

/** Beams show their length along the beam band; posts the same band on its end. */
function timber(d: Draft): void {
  for (const name of ['Beam', 'Tie beam']) {
    const beams = d.called(name);
    for (const side of [SOUTH, NORTH]) {
      const faces = d.faces(beams, side);
      d.paint(faces, 'mill-trim');
      d.align(faces, { do: 'region', name: 'beam' });
    }
  }
  const posts = d.faces([...d.called('King post'), ...d.called('Landing post')], 'around');
  d.paint(posts, 'mill-trim');
  d.align(posts, { do: 'region', name: 'beam' });
  // Kerb stones run along the quay's edge and the race, laid as one sheet over their corners.
  for (const name of ['Quay edge', 'Race kerb', 'Sill']) {
    const tops = d.faces(d.called(name), UP);
    d.paint(tops, 'ashlar');
    d.align(tops, { do: 'turn', degrees: 90 });
  }
}

/** Barrels, bollards and posts: one picture round each, in whole repeats. */
function roundThings(d: Draft): void {
  for (const name of ['Barrel', 'Cask', 'Windlass', 'Bollard', 'Bollard head', 'Mooring post'])
    for (const id of d.called(name)) {
      const round = name === 'Windlass' ? d.faces([id], UP).concat() : d.faces([id], 'around');
      if (name === 'Barrel' || name === 'Cask') d.paint(round, 'pine-board');
      if (round.length > 1) d.flow(round);
    }
}

function doorsAndSigns(d: Draft): void {
  // The gate's leaves, closed before its opening; single doors elsewhere.
  d.board([388, 2, 2], [492, 8, 270], 'mill-doors', 'plank door', 'Gate leaf');
  d.board([492, 2, 2], [596, 8, 270], 'mill-doors', 'plank door', 'Gate leaf');
  d.board([1258, 2, 2], [1362, 7, 222], 'mill-doors', 'panel door', 'Back door');
  d.board([-150, 780, 2], [-46, 786, 222], 'mill-doors', 'plank door', 'Bank door');
  d.board([-38, -330, 2], [-33, -226, 222], 'mill-doors', 'panel door', 'Quayside door');
  for (const x of [240, 1080]) d.board([x, -36, 176], [x + 96, -33, 248], 'mill-doors', 'shutter', 'Shutter');
  d.board([860, 797, 300], [956, 799, 332], 'painted-signs', 'mind the race', 'Sign');
  d.board([412, -229, 262], [572, -226, 292], 'painted-signs', 'wheel hall', 'Sign');
  d.board([1340, -36, 240], [1500, -33, 270], 'painted-signs', 'grain loft', 'Sign');
  d.board([700, -36, 300], [860, -33, 330], 'painted-signs', 'quay', 'Sign');
  d.board([420, 797, 160], [548, 799, 208], 'painted-signs', 'lamp oil', 'Sign');
  for (const [k, x] of [-64, 560, 1184].entries())
    d.board([x, -606, 24], [x + 48, -602, 72], 'painted-signs', `berth ${['one', 'two', 'three'][k]}`, 'Berth');
  // Panes in the hall's two windows.
  for (const x of [332, 572]) {
    const pane = d.box([x, 814, 208], [x + 144, 816, 384], 'pane-glass', 'Pane');
    for (const side of [SOUTH, NORTH]) d.align(d.faces([pane.id], side), { do: 'fit', repeats: [1, 1] });
  }
}

/** Skirting and cornice along whole walls. */
function trims(d: Draft): void {
  const run = (min: Vec3, max: Vec3, region: string) => d.board(min, max, 'mill-trim', region, 'Trim');
  // Skirting in the stair, between its doors and the flights.
  run([1376, 798, 0], [1502, 800, 18], 'skirting');
  run([1060, 798, 0], [1300, 800, 18], 'skirting');
  // A string course round the quay, from corner to corner.
  run([-252, -36, 400], [1596, -32, 432], 'stone string');
  run([-256, -700, 400], [-252, -32, 432], 'stone string');
  run([-252, -704, 400], [1596, -700, 432], 'stone string');
  // Under the lookout's window it stops: nobody is to take it for a sill to step on.
  run([1596, -704, 400], [1600, -448, 432], 'stone string');
  run([1596, -288, 400], [1600, -32, 432], 'stone string');
  // A cornice in the hall, under the beams.
  run([1018, 4, 440], [1024, 796, 472], 'cornice');
  run([0, 4, 440], [6, 796, 472], 'cornice');
}

/** Glowing glass over each lamp, in an iron cap. */
function lamps(d: Draft): void {
  const hung = [...d.doc.entities.values()].filter((e) => e.kind === 'pointLight');
  for (const {
    at: [x, y, z],
  } of hung) {
    const glass = d.box([x - 8, y - 8, z + 6], [x + 8, y + 8, z + 20], 'lamp-glass', 'Lamp');
    d.align(d.faces([glass.id], 'around'), { do: 'fit', repeats: [1, 1] });
    d.box([x - 11, y - 11, z + 20], [x + 11, y + 11, z + 23], 'black-iron', 'Lamp cap');
  }
}

function growth(d: Draft): void {
  // Reeds along the creek and round the hummocks, crosswise so that they look full from all sides.
  for (const [x, y, turn] of [
    [-380, 1010, 10],
    [-180, 985, 40],
    [60, 1050, 75],
    [330, 1060, 20],
    [620, 1060, 55],
    [-300, 1270, 30],
    [20, 1250, 80],
    [420, 1255, 5],
    [640, 1230, 65],
    [-500, 1480, 25],
    [980, 1540, 50],
    [960, 1180, 15],
  ] as const)
    d.sheet('reed', [x, y, -32], UP, 'Reeds', { width: 190, height: 150 + ((x * 7) % 40), turn, crosswise: true });
  for (const [x, y, z, turn] of [
    [-220, -80, 0, 0],
    [1540, -90, 0, 40],
    [960, 1500, -32, 20],
    [-470, 880, -32, 60],
  ] as const)
    d.sheet('fern', [x, y, z], UP, 'Fern', { width: 96, height: 84, turn, crosswise: true });
  // Ivy up the quay's and the bank's walls.
  for (const x of [20, 150, 1240]) d.sheet('ivy', [x, -32, 330], SOUTH, 'Ivy', { width: 128, height: 256 });
  for (const y of [1060, 1440]) d.sheet('ivy', [-544, y, 160], [1, 0, 0], 'Ivy', { width: 192, height: 320 });
  d.sheet('ivy', [1024, 1300, 140], [-1, 0, 0], 'Ivy', { width: 256, height: 256 });
  // A net dries in the loft, one hangs over the quay's crates; the sluice has its chain, the water gate its grille.
  d.sheet('rope-net', [300, 240, 800], [0, 0, -1], 'Drying net', { width: 200, height: 160, turn: 90 });
  d.sheet('rope-net', [1590, -300, 200], [-1, 0, 0], 'Net', { width: 220, height: 240 });
  d.sheet('chain', [-288, 400, 300], [0, 0, -1], 'Sluice chain', { width: 24, height: 84 });
  d.sheet('iron-bars', [-96, 320, 150], [-1, 0, 0], 'Store grille', { width: 120, height: 180 });
  d.sheet('leaf-canopy', [-480, 1560, 200], SOUTH, 'Branch', { width: 256, height: 200 });
}
