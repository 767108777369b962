import type { Vec3 } from '@yesca/core';
import type { Draft } from '../drafting.ts';

/** What moves in the mill, and what sets it going: gate, sluice, wheel, sack lift, the loft's hatch; what lies about to be taken. */
export function machines(d: Draft): void {
  quayGate(d);
  sluice(d);
  wheel(d);
  sackLift(d);
  loftHatch(d);
  pierLadder(d);
  pickups(d);
  sounds(d);
}

/** Both leaves of the quay gate turn into the hall, as far as the kerb of the race lets them. */
function quayGate(d: Draft): void {
  const leaves = d.called('Gate leaf');
  const hinges = [386, 598];
  const gate = d.door(
    'Quay gate',
    leaves.map((id) => [id]),
    [492, 5, 0],
    {
      open: true,
      seconds: 2.4,
      away: false,
      obstructed: 'stop',
      wait: 6,
      leaves: hinges.map((x, k) => turning([x - 492, 0, 0], k === 0 ? 112 : -112)),
    },
  );
  d.turnTo(gate, 90);
}

const turning = (hinge: Vec3, angle: number) => ({
  moves: 'turns',
  travel: [0, 0, 0] as Vec3,
  hinge,
  axis: [0, 0, 1] as Vec3,
  angle,
});

const sliding = (travel: Vec3) => ({
  moves: 'slides',
  travel,
  hinge: [0, 0, 0] as Vec3,
  axis: [0, 0, 1] as Vec3,
  angle: 90,
});

/** The sluice door hangs raised; the windlass lowers it into the tail race. */
function sluice(d: Draft): void {
  const door = d.door('Sluice door', [[...d.called('Sluice board'), ...d.called('Rack')]], [-288, 400, 96], {
    opens: 'wires',
    stays: true,
    seconds: 4,
    obstructed: 'stop',
    leaves: [sliding([0, 0, -96])],
  });
  const crank = d.region('zone', 'Windlass crank', [-200, 344, 0], [-136, 456, 176], {});
  d.wire(crank, 'used', door, 'toggle');
}

/** The wheel turns slowly with the tide. */
function wheel(d: Draft): void {
  const parts = ['Axle', 'Paddle', 'Rim', 'Spoke'].flatMap((name) => d.called(name));
  d.machine('mover', 'Mill wheel', parts, [192, 400, 232], {
    spin: -14,
    axis: [1, 0, 0],
    obstructed: 'stop',
    soundMoves: 'wheel',
  });
}

/** The sack lift goes through a hole between hall and loft. A plate above and one below call it. */
function sackLift(d: Draft): void {
  const hole = d.box([880, 430, 505], [1008, 550, 580], 'oak-plank', 'Lift hole');
  d.subtract([hole.id], [...d.partsOf('hall', 'ceiling'), ...d.partsOf('loft', 'floor')]);
  d.remove([hole]);
  const car = d.box([884, 434, 0], [1004, 546, 12], 'oak-plank', 'Lift floor');
  const lift = d.machine('lift', 'Sack lift', [car.id], [944, 490, 0], {
    stops: [{ name: 'Loft', at: [0, 0, 564] }],
    speed: 150,
    delay: 0.8,
    returns: true,
    after: 12,
  });
  const below = d.region('zone', 'Plate below', [800, 430, 0], [880, 550, 120], {});
  const above = d.region('zone', 'Plate above', [800, 430, 576], [876, 550, 700], {});
  d.wire(below, 'entered', lift, 'first');
  d.wire(above, 'entered', lift, 'last');
}

/** Who wants into the loft from the landing pays; then somebody in there lights the lamp over the sacks. */
function loftHatch(d: Draft): void {
  const hatch = d.doorIn('landing', 'Loft hatch', 'pine-board', { price: 3, seconds: 1.5 });
  d.wire(hatch, 'opens', d.thingCalled('Sack lamp'), 'on');
}

/** A ladder up the gear pier. */
function pierLadder(d: Draft): void {
  for (const y of [380, 416]) d.box([584, y, 0], [590, y + 4, 216], 'oak-plank', 'Ladder rail');
  for (let z = 24; z < 176; z += 26) d.box([585, 384, z], [589, 416, z + 4], 'oak-plank', 'Ladder rung');
  d.box([584, 380, 0], [600, 420, 200], 'oak-plank', 'Pier ladder', 'ladder');
}

function pickups(d: Draft): void {
  const lie = (name: string, at: Vec3, params: Record<string, number | string>) =>
    d.thing('pickup', at, name, 0, params);
  lie('Quay tokens', [1120, -420, 0], { what: 'tokens', amount: 2, again: 20 });
  lie('Tower tokens', [1700, -400, 384], { what: 'tokens', amount: 3, again: 20 });
  lie('Hall bandage', [940, 220, 0], { what: 'bandage', amount: 40 });
  lie('Gallery oil', [-120, 520, 0], { what: 'oil', amount: 30 });
  lie('Loft armour', [240, 300, 576], { what: 'armour', amount: 50 });
  d.thing('spawn', [1300, -520, 0], 'Millers 2', 150, { for: 'team', team: 'Millers' });
}

function sounds(d: Draft): void {
  d.thing('sound', [-288, 300, 40], 'Tail race water', 0, { sound: 'water', reach: 700, volume: 0.6 });
  d.thing('sound', [192, 120, 60], 'Race water', 0, { sound: 'water', reach: 600, volume: 0.4 });
  d.thing('sound', [300, 1300, 60], 'Wind in the reeds', 0, { sound: 'wind', reach: 1400, volume: 0.5 });
}
