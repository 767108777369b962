import {
  addInset,
  addRoom,
  addStorey,
  emptyMap,
  openDoorway,
  openWall,
  saveView,
  reflectInRooms,
  setMirror,
  type MapDocument,
  type Point2,
} from '@yesca/core';
import { Draft, settleIds } from '../drafting.ts';
import { dressing } from './dressing.ts';
import { farShore } from './far-shore.ts';
import { furnishing } from './furnishing.ts';
import { machines } from './machines.ts';
import { loft } from './loft.ts';
import { quay } from './quay.ts';
import { reedBank } from './reed-bank.ts';
import { sluiceGallery } from './sluice-gallery.ts';
import { stair } from './stair.ts';
import { stairTower } from './stair-tower.ts';
import { wheelHall } from './wheel-hall.ts';

const rectangle = (x0: number, y0: number, x1: number, y1: number): Point2[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

/** A square with its corners cut off, counter-clockwise, its last side to the west. */
const octagon = (x0: number, y0: number, x1: number, y1: number, cut: number): Point2[] => [
  [x0 + cut, y0],
  [x1 - cut, y0],
  [x1, y0 + cut],
  [x1, y1 - cut],
  [x1 - cut, y1],
  [x0 + cut, y1],
  [x0, y1 - cut],
  [x0, y0 + cut],
];

/**
 * Halyard Tidemill: the quay with its stair tower, the wheel hall with the race, the sluice gallery, the stair and the grain
 * loft above, and the reed bank behind. Drawn with the same operations the editor offers.
 */
export function tidemill(): MapDocument {
  const d = new Draft(openings(rooms()));
  quay(d);
  wheelHall(d);
  stair(d);
  loft(d);
  sluiceGallery(d);
  reedBank(d);
  stairTower(d);
  dressing(d);
  machines(d);
  farShore(d);
  furnishing(d);
  wet(d);
  return settleIds(sheets(d.doc));
}

/** The race mirrors what hangs over it, and the hall's floor is wet from it; what shines elsewhere reflects its room. */
function wet(d: Draft): void {
  d.doc = setMirror(d.doc, d.faces(d.called('Race'), [0, 0, 1]), 0.3);
  d.doc = setMirror(d.doc, d.faces(d.partsOf('hall', 'floor'), [0, 0, 1]), 0.12);
  d.doc = reflectInRooms(d.doc).doc;
  d.thing('reflectionProbe', [192, 400, 90], 'Race probe');
}

function rooms(): MapDocument {
  let doc = emptyMap('Halyard Tidemill');
  // Late in the day, a few clouds; what shines in is the sun alone, and the even light stands for the sky's.
  const sky = { skyColor: '#b4cbe0', skyHorizon: '#f3d9b4', skyClouds: 0.35 };
  doc = { ...doc, settings: { ...doc.settings, ambientLux: 7, ambientColor: '#c4d2e8', ...sky } };
  doc = addRoom(
    doc,
    { name: 'Quay', footprint: rectangle(-256, -704, 1600, -32), floor: 0, ceiling: 672, wall: 32, open: true },
    { floor: 'cobble', wall: 'tide-stone', ceiling: 'canvas' },
    'quay',
  );
  doc = addRoom(
    doc,
    { name: 'Wheel hall', footprint: rectangle(0, 0, 1024, 800), floor: 0, ceiling: 512, wall: 32 },
    { floor: 'slate', wall: 'red-brick', ceiling: 'oak-plank' },
    'hall',
  );
  doc = addRoom(
    doc,
    { name: 'Stair', footprint: rectangle(1056, 0, 1504, 800), floor: 0, ceiling: 864, wall: 32 },
    { floor: 'flagstone', wall: 'damp-plaster', ceiling: 'tarred-board' },
    'stair',
  );
  doc = addRoom(
    doc,
    { name: 'Grain loft', footprint: rectangle(0, 0, 1024, 800), floor: 576, ceiling: 864, wall: 32 },
    { floor: 'ship-plank', wall: 'pine-board', ceiling: 'tarred-board' },
    'loft',
  );
  doc = addRoom(
    doc,
    { name: 'Sluice gallery', footprint: rectangle(-544, 0, -32, 800), floor: 0, ceiling: 352, wall: 32 },
    { floor: 'flagstone', wall: 'ashlar', ceiling: 'ship-plank' },
    'gallery',
  );
  doc = addRoom(
    doc,
    { name: 'Reed bank', footprint: rectangle(-544, 832, 1024, 1600), floor: -32, ceiling: 544, wall: 32, open: true },
    { floor: 'mud-flat', wall: 'weed-stone', ceiling: 'canvas' },
    'bank',
  );
  return addRoom(
    doc,
    { name: 'Stair tower', footprint: octagon(1632, -528, 1952, -208, 80), floor: 0, ceiling: 640, wall: 32 },
    { floor: 'flagstone', wall: 'ochre-plaster', ceiling: 'pine-board' },
    'tower',
  );
}

function openings(rooms: MapDocument): MapDocument {
  let doc = rooms;
  doc = openDoorway(doc, 'quay', 'hall', { width: 208, height: 272, sill: 0, at: 1600 - 492 }, 'gate');
  doc = openDoorway(doc, 'quay', 'stair', { width: 112, height: 224, sill: 0, at: 1600 - 1420 }, 'backdoor');
  doc = openDoorway(doc, 'hall', 'stair', { width: 128, height: 224, sill: 0, at: 640 }, 'passage');
  doc = openDoorway(doc, 'stair', 'loft', { width: 112, height: 208, sill: 0, at: 800 - 72 }, 'landing');
  doc = openDoorway(doc, 'gallery', 'quay', { width: 112, height: 224, sill: 0, at: 416 }, 'quayside');
  doc = openDoorway(doc, 'gallery', 'hall', { width: 128, height: 256, sill: 0, at: 700, kind: 'arch' }, 'race arch');
  doc = openDoorway(doc, 'gallery', 'bank', { width: 128, height: 240, sill: 0, at: 128, kind: 'arch' }, 'water gate');
  doc = openDoorway(doc, 'hall', 'bank', { width: 112, height: 224, sill: 0, at: 144 }, 'bank door');
  for (const [k, at] of [380, 620].entries())
    doc = openWall(doc, 'hall', 2, { width: 144, height: 176, sill: 208, at, kind: 'window' }, `hall window ${k}`);
  doc = openDoorway(doc, 'quay', 'tower', { width: 112, height: 224, sill: 0 }, 'tower door');
  // The tail race under the gallery's floor, and a creek with two hummocks on the bank.
  doc = addInset(doc, 'gallery', { footprint: rectangle(-352, 32, -224, 768), height: -208, fill: 24 }, 'tail race');
  doc = addInset(
    doc,
    'bank',
    {
      footprint: [
        [-432, 1088],
        [-96, 1024],
        [208, 1120],
        [576, 1072],
        [608, 1184],
        [192, 1248],
        [-112, 1152],
        [-448, 1216],
      ],
      height: -64,
      fill: 16,
    },
    'creek',
  );
  doc = addInset(doc, 'bank', { footprint: rectangle(704, 1248, 928, 1472), height: 24 }, 'hummock east');
  return addInset(doc, 'bank', { footprint: octagon(-416, 1344, -160, 1536, 48), height: 32 }, 'hummock west');
}

/** Storeys and views to come back to. */
function sheets(map: MapDocument): MapDocument {
  let doc = addStorey(map, { name: 'Quay', floor: 0, cut: 110 }, 'storey quay');
  doc = addStorey(doc, { name: 'Lookout', floor: 384, cut: 110 }, 'storey lookout');
  doc = addStorey(doc, { name: 'Loft', floor: 576, cut: 110 }, 'storey loft');
  return saveView(
    doc,
    {
      name: 'Through the wheel',
      centre: [300, 400, 300],
      zoom: 0.42,
      level: 0,
      cutHeight: 110,
      section: { at: [0, 400], looks: 90 },
      eye: { at: [900, 120, 170], towards: [-0.9, 0.4, -0.02] },
    },
    'view wheel',
  );
}
