import { blocking } from './blocking.ts';
import { firstMap, leakingMap } from './first-map.ts';
import { runAll } from './harness.ts';
import { assemblies, furnishing, movingProps, propsPage, shadedProp } from './props.ts';
import { lights, reflections, skies } from './lights.ts';
import { doubleDoor, grilleAndPool, liftAndHatch } from './moving.ts';
import { replays } from './replay.ts';
import { revisions } from './revisions.ts';
import { drawing, faces, rooms } from './shaping.ts';
import { distance, gates, sights, suggested } from './sight.ts';
import { largeLibrary, pictures, surfaces } from './surfaces.ts';
import { keyboard, leaving, powerCut, byKeyboard, deletedElsewhere, savingBack, shelf } from './shelf.ts';

const all = [
  shelf,
  firstMap,
  leakingMap,
  drawing,
  rooms,
  blocking,
  doubleDoor,
  liftAndHatch,
  grilleAndPool,
  lights,
  skies,
  furnishing,
  assemblies,
  movingProps,
  shadedProp,
  reflections,
  sights,
  distance,
  gates,
  suggested,
  // What it imports and deletes is not to be seen in the Stock of the tests above, which run beside each other.
  propsPage,
  replays,
  revisions,
  faces,
  surfaces,
  pictures,
  largeLibrary,
  keyboard,
  savingBack,
  deletedElsewhere,
  byKeyboard,
  leaving,
  powerCut,
];
/** `E2E=pattern` runs only the tests whose name it finds. */
const wanted = new RegExp(process.env.E2E ?? '', 'i');
const ok = await runAll(
  all.filter(([name]) => wanted.test(name)),
  process.argv[2],
);
process.exit(ok ? 0 : 1);
