import {
  beginWorld,
  isSpawn,
  newPerson,
  parseMap,
  stepWorld,
  TIME_STEP,
  worldOfMap,
  type PlayerInput,
} from '@yesca/core';

/** Plays a map with people who wander as a seed says. Gives the state after each second, to the last bit, as text. */
export function replay(text: string, seconds: number, seed: number): string[] {
  const doc = parseMap(text);
  const world = worldOfMap(doc);
  const spawns = [...doc.entities.values()].filter(isSpawn);
  let random = seed;
  const part = (): number => {
    random = (Math.imul(random, 1664525) + 1013904223) >>> 0;
    return random / 2 ** 32;
  };
  let state = beginWorld(
    world,
    spawns.map((s) => newPerson(s.at, s.turn)),
  );
  let inputs: PlayerInput[] = [];
  const out: string[] = [];
  for (let tick = 0; tick < Math.round(seconds / TIME_STEP); tick++) {
    if (tick % 30 === 0)
      inputs = spawns.map(() => ({
        forward: Math.round(part() * 2 - 0.4),
        right: Math.round(part() * 2 - 1),
        jump: part() < 0.2,
        crouch: part() < 0.1,
        use: part() < 0.5,
        yaw: part() * 360,
        pitch: part() * 60 - 30,
      }));
    state = stepWorld(world, state, inputs, TIME_STEP).state;
    if ((tick + 1) % Math.round(1 / TIME_STEP) === 0) out.push(JSON.stringify(state));
  }
  return out;
}
