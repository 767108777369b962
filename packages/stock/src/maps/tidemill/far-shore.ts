import { setShow, wedgeSolid, type Vec3 } from '@yesca/core';
import type { Draft } from '../drafting.ts';

/** So many times as large as it is drawn. */
const SCALE = 64;
/** Where its south-west corner lies: behind the bank. */
const AT: Vec3 = [0, 1720, -32];
const at = (x: number, y: number, z: number): Vec3 => [x + AT[0], y + AT[1], z + AT[2]];

/** Across the water, seen over a low sea wall from the bank: hills, a town under them, a mole with a beacon, boats at anchor. */
export function farShore(d: Draft): void {
  const bank = d.partsOf('bank', 'wall').filter((id) => d.doc.brushes.get(id)!.vertices.every(([, y]) => y > 1590));
  d.doc = setShow(d.doc, d.faces(bank, [0, -1, 0]), 'sky');
  d.box([-544, 1560, -32], [1024, 1600, 104], 'weed-stone', 'Sea wall');
  d.box([-544, 1548, 104], [1024, 1600, 116], 'slate', 'Sea wall top');
  // The water, and the strand on the other side.
  d.box(at(0, 0, -6), at(480, 300, 0), 'dark-water', 'Water');
  d.solid(wedgeSolid({ min: at(0, 150, 0), max: at(480, 180, 4) }, 'north'), 'wet-sand', 'Strand');
  d.box(at(0, 180, 0), at(480, 300, 4), 'salt-meadow', 'Meadow');
  for (const [x, y, w, h] of [
    [-30, 220, 190, 30],
    [90, 240, 160, 46],
    [200, 225, 150, 26],
    [300, 235, 200, 38],
  ] as const)
    d.shape(
      'cone',
      at(Math.max(0, x), y, 4),
      at(Math.min(480, x + w), y + 55, h),
      { sides: 14, top: 0.3 },
      'salt-meadow',
      'Hill',
    );
  town(d);
  // A mole of rubble out into the water, and the beacon on its end.
  d.box(at(330, 96, 0), at(338, 160, 3), 'rubble', 'Mole');
  d.prism(at(328, 86, 0), at(340, 98, 4), 10, 'rubble', 'Mole head');
  d.shape('cone', at(331, 89, 4), at(337, 95, 20), { sides: 10, top: 0.6 }, 'limewash', 'Beacon');
  d.prism(at(332, 90, 20), at(336, 94, 23), 10, 'lamp-glass', 'Beacon lantern');
  d.shape('cone', at(331, 89, 23), at(337, 95, 26), { sides: 10, top: 0 }, 'roof-tile', 'Beacon roof');
  d.thing('pointLight', at(334, 86, 21.5), 'Beacon light', 0, { candela: 0.6, color: '#ffcf8a' });
  for (const [x, y] of [
    [150, 70],
    [196, 96],
    [268, 60],
    [402, 84],
  ] as const)
    boat(d, x, y);
  const far = d.region('scenery', 'Far shore', at(0, 0, -6), at(480, 300, 120), {
    scale: SCALE,
    stands: d.thingCalled('Salters 2'),
  });
  d.moveThing(far, at(200, 6, 0.5));
}

/** Houses with gables in two rows along the strand. */
function town(d: Draft): void {
  for (let k = 0; k < 17; k++) {
    const [x, y] = [120 + k * 13 + ((k * 7) % 5), 184 + (k % 2) * 12];
    const [w, h] = [7 + ((k * 5) % 4), 6 + ((k * 3) % 5)];
    d.box(at(x, y, 4), at(x + w, y + 8, 4 + h), ['limewash', 'red-brick', 'ochre-plaster'][k % 3]!, 'House');
    const middle = x + w / 2;
    d.solid(
      wedgeSolid({ min: at(x - 0.5, y - 0.5, 4 + h), max: at(middle, y + 8.5, 8 + h) }, 'east'),
      'roof-tile',
      'Roof',
    );
    d.solid(
      wedgeSolid({ min: at(middle, y - 0.5, 4 + h), max: at(x + w + 0.5, y + 8.5, 8 + h) }, 'west'),
      'roof-tile',
      'Roof',
    );
  }
}

/** A boat at anchor under one sail. */
function boat(d: Draft, x: number, y: number): void {
  d.shape('polygon', at(x - 6, y - 1.6, 0), at(x + 6, y + 1.6, 1.8), {}, 'tarred-board', 'Boat', [
    [x - 6 + AT[0], y - 1.6 + AT[1]],
    [x + 3 + AT[0], y - 1.6 + AT[1]],
    [x + 6 + AT[0], y + AT[1]],
    [x + 3 + AT[0], y + 1.6 + AT[1]],
    [x - 6 + AT[0], y + 1.6 + AT[1]],
  ]);
  d.box(at(x + 0.2, y - 0.2, 1.8), at(x + 0.6, y + 0.2, 12), 'oak-plank', 'Mast');
  d.solid(wedgeSolid({ min: at(x - 5, y - 0.2, 3), max: at(x + 0.2, y + 0.2, 11) }, 'east'), 'striped-sail', 'Sail');
}
