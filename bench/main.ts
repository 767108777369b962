/** Prints our figures with a peer's beside them, measured in one process on the same data. Ratios count; times are this machine's. */
import { measureMoving } from './moving.ts';
import { measureInterface } from './interface.ts';
import { measureModels, measureScatter } from './props.ts';
import { measureGrowth, measureProof, measureStray, measureThreads } from './sight.ts';
import { TIME_STEP } from '@yesca/core';
import { rebuild, threads } from './building.ts';
import { structure, subtractions } from './brushes.ts';
import { library } from './library.ts';
import { rays } from './rays.ts';
import { player } from './walking.ts';
import { note, printTable, say } from './table.ts';

function growth(): void {
  measureGrowth().forEach(say);
  say(measureStray());
}

/** Lines of sight in every kind of place; a million each with `npm run bench -- sight 1000000`. */
async function sight(): Promise<void> {
  measureProof(Number(process.argv[3] ?? 100_000)).forEach(say);
  const { one, two } = await measureThreads();
  note('visibility of 32 turned boxes on two threads', two, one, '≥ 1.7 ×', 'one thread');
}

/** The drawing table with 5,000 brushes in headless Chromium. */
async function drawingTable(): Promise<void> {
  const { brushes, open, nudge, nudgeAll, drag, arrow, marquee, pan, look, texture, materials, props } =
    await measureInterface();
  const of = `${brushes.toLocaleString('en')} brushes, ${materials} materials`;
  note(`script in a frame of a drag, ${of} (median)`, drag, null, '≤ 4 ms');
  note(`script in a frame of dragging a door’s arrow, ${of} (median)`, arrow, null, '≤ 4 ms');
  note(`script in a frame of a box selection, ${of} (median)`, marquee, null, '');
  note(`script in a frame of sliding the whole drawing, ${of} (median)`, pan, null, '');
  note(`script in a frame of turning the Eye, ${of} (median)`, look, null, '');
  note(`script in a frame of dragging a picture in the Eye, ${of} (median)`, texture, null, '');
  note(`script of nudging one brush, ${of} (median)`, nudge, null, '≤ 50 ms');
  note(
    `script of nudging all of ${nudgeAll.brushes.toLocaleString('en')} brushes (median)`,
    nudgeAll.script,
    null,
    '≤ 100 ms',
  );
  note(`opening the map, ${of}: script`, open.script, null, '≤ 1,500 ms');
  note(`opening the map, ${of}: script until the Eye is dressed too`, open.dressed, null, '');
  note(`opening the map, ${of}: until drawn`, open.whole, null, '');
  const many = '2,000 props of 40 kinds';
  note(`script in a frame of dragging one of ${many} (median)`, props.drag, null, '≤ 4 ms');
  note(`script in a frame of turning the Eye, ${many} (median)`, props.look, null, '');
  note(`opening a map with ${many}: script until all is drawn`, props.open, null, '≤ 1,500 ms');
}

async function moving(): Promise<void> {
  const { ours, peer } = await measureMoving();
  note(
    'a step of 500 platforms that move, 1,500 things that wait and a player',
    ours,
    peer,
    '',
    '`rapier3d-compat` kinematic bodies and its controller',
  );
  note('… the same beside real time', ours, TIME_STEP * 1000, '≥ 20 ×', 'a step lasts');
}

/** Fifty models imported beside their files read, and props strewn. */
async function furnishing(): Promise<void> {
  const { ours, peer } = await measureModels(50);
  note(
    '50 models imported: validated, cut into convex parts, pictured, written anew',
    ours,
    peer,
    '',
    '`@gltf-transform`, read only',
  );
  const strewn = measureScatter();
  note(`${strewn.count.toLocaleString('en')} props strewn over a floor`, strewn.ours, null, '');
}

/** `npm run bench -- word` runs only the parts whose name holds the word. */
const parts = {
  rays,
  structure,
  growth,
  sight,
  subtractions,
  player,
  library,
  furnishing,
  moving,
  threads,
  rebuild,
  drawingTable,
};
for (const [name, part] of Object.entries(parts)) if (name.includes(process.argv[2] ?? '')) await part();
printTable();
