import type { Draft } from '../drafting.ts';

/** The bank under the open sky: reeds, a jetty, a hulk, mooring posts. */
export function reedBank(d: Draft): void {
  reeds(d);
  // A jetty from the water gate out over the creek: one bay, copied.
  const bay = [
    d.box([-448, 896, 0], [-384, 988, 8], 'oak-plank', 'Jetty'),
    d.prism([-452, 932, -96], [-440, 944, 40], 8, 'tarred-board', 'Jetty post'),
    d.prism([-392, 932, -96], [-380, 944, 40], 8, 'tarred-board', 'Jetty post'),
  ];
  d.repeat(
    bay.map((b) => b.id),
    3,
    [0, 96, 0],
  );
  // A hulk: a pointed outline, hollowed, its lid taken off.
  const hull = d.shape('polygon', [600, 900, -32], [920, 1040, 40], {}, 'tarred-board', 'Hulk', [[600, 970], [680, 904], [840, 904], [916, 948], [916, 992], [840, 1036], [680, 1036]]); // prettier-ignore
  const planks = d.shell(hull, 8);
  d.remove(planks.filter((b) => Math.min(...b.vertices.map((v) => v[2])) >= 32));
  d.box([740, 912, 8], [772, 1028, 16], 'oak-plank', 'Thwart');
  // Mooring posts with iron caps.
  for (const [x, y] of [
    [64, 980],
    [320, 1000],
    [480, 1300],
  ] as const) {
    d.prism([x, y, -40], [x + 28, y + 28, 72], 8, 'tarred-board', 'Mooring post');
    d.shape('cone', [x - 4, y - 4, 72], [x + 32, y + 32, 92], { sides: 8, top: 0.4 }, 'black-iron', 'Cap');
  }
  // Two steps down from the hall's door.
  d.box([836, 832, -32], [956, 872, -4], 'tide-stone', 'Bank step');
  d.thing('spawn', [420, 900, -32], 'Salters 2', 270, { for: 'team', team: 'Salters' });
}

/** Clumps of reeds: spikes round a middle, every clump a turned copy of the first. */
function reeds(d: Draft): void {
  const clump = [0, 1, 2, 3, 4].flatMap((k) => {
    const [x, y] = [-300 + ((k * 37) % 64), 1430 + ((k * 23) % 56)];
    return d.shape('spike', [x, y, 0], [x + 7, y + 7, 118 + ((k * 29) % 54)], {}, 'thatch', 'Reed');
  });
  const ids = clump.map((b) => b.id);
  d.repeat(ids, 1, [1072, -64, -8]);
  d.repeat(ids, 2, [176, 36, -32]);
  d.repeat(ids, 1, [392, -456, -32]);
  d.repeat(ids, 1, [-136, -520, -32]);
}
