import {
  applyAffine,
  arcTangent2,
  type Box,
  boxCenter,
  boxOf,
  cosSin,
  growBox,
  hypot,
  scale,
  sub,
  uniteBoxes,
  type Vec3,
} from '../math/index.ts';
import {
  AT_REST,
  farthestMove,
  movedBox,
  poseBetween,
  stepBetween,
  type Happening,
  type Memory,
  type Moment,
  type Pose,
} from '../entity/index.ts';
import { moveBody, movingNear, removeBody, solidAt, solidsAt, type Placed } from './bodies.ts';
import { newSweep, sweepBox, type Collision, type MovingSolid } from './collide.ts';
import { PLAYER, SKIN } from './constants.ts';
import {
  carriedBy,
  eyeOf,
  playerHeight,
  pushedFree,
  startPlayer,
  stepPlayer,
  type PlayerInput,
  type PlayerState,
} from './player.ts';
import { mediumAt } from './medium.ts';
import { breathing, given, harmed, HEALTH, type Person } from './person.ts';
import type { Due, Told, WorldState } from './state.ts';
import { freshen, keepWhereabouts, posesOf, whereaboutsOf, type Whereabouts } from './whereabouts.ts';
import { signalKey, type World } from './world.ts';

export interface Stepped {
  readonly state: WorldState;
  readonly told: readonly Told[];
  /** By how many degrees each player was turned by what carries them: whoever says where they look turns along. */
  readonly turned: readonly number[];
}

/** From how far (cm) something can be used. */
export const USE_REACH = 140;
/** A body gets no farther than this (cm) before who is in its way is moved: less than half of what is thinnest in a player. */
const PUSH_STEP = 6;
/** Farther than this (cm) from everywhere that something can be nobody is met by it in a step. */
const ALONE = 60;
/** Who is nearer than this (cm) touches. */
const TOUCHES = 1;

/**
 * One step of a world: things act, what moves carries and pushes who is there, then everybody walks. The same world, state and
 * inputs always give the same next state.
 */
export function stepWorld(world: World, state: WorldState, inputs: readonly PlayerInput[], dt: number): Stepped {
  return new Step(world, state, dt).run(inputs);
}

/** What is changed while a step is made; nothing of it outlives the step. */
class Step {
  private readonly memories: Memory[];
  private readonly people: Person[];
  private readonly due: Due[] = [];
  private worked: Record<string, number>;
  private readonly told: Told[] = [];
  /** Where each player looked before they walked, turned by what carries them. */
  private readonly turns: number[] = [];
  private readonly poses: (readonly Pose[])[];
  private readonly placed: Placed;
  private readonly asleep: Uint8Array;
  private readonly stale: Uint8Array;
  private readonly moment: Moment;
  /** Who walks at a part of their speed in this step. */
  private readonly slowed = new Map<number, number>();
  /** Which thing acts. */
  private acting = 0;
  /** What happens to each thing, by index. */
  private readonly happenings = new Map<number, Happening[]>();

  constructor(
    private readonly world: World,
    private readonly state: WorldState,
    private readonly dt: number,
  ) {
    this.memories = [...state.memories];
    this.people = [...state.people];
    this.worked = { ...state.worked };
    const { poses, placed, asleep, stale } = whereaboutsOf(world, state.memories);
    this.asleep = asleep.slice();
    this.stale = stale.slice();
    this.poses = poses.slice();
    this.placed = { poses: placed.poses.slice(), bounds: placed.bounds.slice() };
    this.moment = {
      dt,
      around: world.around,
      signal: (signal, by) => this.signal(this.acting, signal, by),
      feetOf: (k) => this.people[k]?.body.at ?? [0, 0, 0],
      holds: (k, key) => this.people[k]?.keys.includes(key) ?? false,
      pay: (k, tokens) => {
        const person = this.people[k];
        if (!person || person.tokens < tokens) return false;
        this.people[k] = { ...person, tokens: person.tokens - tokens };
        return true;
      },
      harm: (k, by) => {
        const person = this.people[k];
        if (person) this.people[k] = harmed(person, by);
      },
      give: (k, what, amount, named) => {
        const person = this.people[k];
        const next = person && given(person, what, amount, named);
        if (next) this.people[k] = next;
        return Boolean(next);
      },
      push: (k, speed) => this.change(k, (body) => ({ ...body, velocity: speed, onGround: false, standsOn: -1 })),
      slow: (k, part) => this.slowed.set(k, Math.min(this.slowed.get(k) ?? 1, part)),
      arrived: (k) => this.people[k]?.putIn === this.state.tick - 1,
      put: (k, at, turn) => {
        const person = this.people[k];
        if (person) this.people[k] = { ...person, putIn: this.state.tick };
        this.change(k, (body) => ({ ...startPlayer(at, body.yaw), pitch: body.pitch, crouching: body.crouching }));
        this.turns[k] = (this.turns[k] ?? 0) + turn - this.state.people[k]!.body.yaw;
      },
      begins: (k, at, yaw) => {
        const person = this.people[k];
        if (person) this.people[k] = { ...person, begins: { at, yaw } };
      },
    };
  }

  run(inputs: readonly PlayerInput[]): Stepped {
    for (const due of this.state.due)
      if (due.tick <= this.state.tick) this.happen(due.thing, { what: 'action', ...due });
      else this.due.push(due);
    this.meet(inputs);
    for (let i = 0; i < this.world.things.length; i++) this.act(i);
    this.people.forEach(({ body }, k) => (this.turns[k] = (this.turns[k] ?? 0) + body.yaw));
    this.people.forEach((_, k) => this.walk(k, this.wished(k, inputs[k] ?? STANDING)));
    this.people.forEach((_, k) => this.live(k));
    const { memories, people, due, worked } = this;
    keepWhereabouts(this.world, memories, this.where());
    const turned = this.state.people.map(({ body }, k) => this.turns[k]! - body.yaw);
    return { state: { tick: this.state.tick + 1, people, memories, due, worked }, told: this.told, turned };
  }

  private wished(k: number, input: PlayerInput): PlayerInput {
    const part = this.slowed.get(k);
    return part === undefined ? input : { ...input, forward: input.forward * part, right: input.right * part };
  }

  /** Whether somebody is near a box. */
  private isMet({ min, max }: Box): boolean {
    for (const { body } of this.people) {
      const [x, y, z] = body.at;
      const w = PLAYER.halfWidth + ALONE;
      if (x + w > min[0] && x - w < max[0] && y + w > min[1] && y - w < max[1])
        if (z + PLAYER.standing + ALONE > min[2] && z - ALONE < max[2]) return true;
    }
    return false;
  }

  private where(): Whereabouts {
    const { poses, placed, asleep, stale } = this;
    return { poses, placed, asleep, stale };
  }

  /** Finds out where all is that could be in a box. */
  private freshenIn(box: Box): void {
    for (let i = this.stale.indexOf(1); i >= 0; i = this.stale.indexOf(1, i + 1))
      if (overlaps(this.world.things[i]!.reach!, box)) freshen(this.world, this.memories, this.where(), i);
  }

  private near(box: Box, but = -1): MovingSolid[] {
    this.freshenIn(box);
    return movingNear(this.world, this.placed, box, but);
  }

  private change(k: number, to: (body: PlayerState) => PlayerState): void {
    const person = this.people[k];
    if (person) this.people[k] = { ...person, body: to(person.body) };
  }

  private happen(thing: number, happening: Happening): void {
    const list = this.happenings.get(thing);
    if (list) list.push(happening);
    else this.happenings.set(thing, [happening]);
  }

  /** What players use, touch and come near to. */
  private meet(inputs: readonly PlayerInput[]): void {
    this.people.forEach(({ body }, by) => {
      this.freshenIn(growBox(boxOfPlayer(body), USE_REACH));
      const input = inputs[by];
      if (input?.use && !body.useHeld) {
        const hit = lookedAt(this.world, this.placed, body, input.yaw, input.pitch);
        if (hit >= 0) this.happen(this.world.bodies[hit]!.thing, { what: 'used', by });
      }
      const on = this.world.bodies[body.standsOn];
      if (on) this.happen(on.thing, { what: 'ridden', by });
      const near = growBox(boxOfPlayer(body), TOUCHES);
      const touched = new Set<number>();
      for (let k = 0; k < this.world.bodies.length; k++)
        if (overlaps(this.placed.bounds[k]!, near) && this.touches(k, body)) touched.add(this.world.bodies[k]!.thing);
      for (const thing of [...touched].sort((a, b) => a - b)) this.happen(thing, { what: 'touched', by });
    });
    for (const region of this.world.regions)
      this.people.forEach(({ body }, by) => {
        if (!this.isIn(region, body)) return;
        this.happen(region.thing, { what: 'inside', by });
        if (inputs[by]?.use && !body.useHeld) this.happen(region.thing, { what: 'usedInside', by });
      });
    for (const { thing, reach, boxes } of this.world.noticing)
      this.people.forEach(({ body }, by) => {
        const me = boxOfPlayer(body);
        const pose = this.poses[thing]![0] ?? AT_REST;
        if (boxes.some((b) => gapBetween(movedByCarrier(this.world, thing, pose, b), me) <= reach))
          this.happen(thing, { what: 'near', by });
      });
  }

  /** Whether somebody is in a region, wherever what it rides on has carried it. */
  private isIn({ thing, solids, bounds }: World['regions'][number], player: PlayerState): boolean {
    const pose = this.poses[thing]![0] ?? AT_REST;
    if (!overlaps(movedBox(pose, bounds), boxOfPlayer(player))) return false;
    const h = playerHeight(player.crouching) / 2;
    const [x, y, z] = player.at;
    const moving = solids.map((s) => solidAt(-1, s, boxOf(s.vertices), pose));
    return sweepBox({ ...NOTHING, moving }, [x, y, z + h], PLAYER.halfWidth, PLAYER.halfWidth, h, 0, 0, 0, probe).stuck;
  }

  private touches(body: number, player: PlayerState): boolean {
    const h = playerHeight(player.crouching) / 2;
    const [x, y, z] = player.at;
    const c = { ...NOTHING, moving: solidsAt(this.world, body, this.placed.poses[body]!) };
    return sweepBox(
      c,
      [x, y, z + h],
      PLAYER.halfWidth + TOUCHES,
      PLAYER.halfWidth + TOUCHES,
      h + TOUCHES,
      0,
      0,
      0,
      probe,
    ).stuck;
  }

  private signal(thing: number, signal: string, by?: number): void {
    const { id } = this.world.things[thing]!.entity;
    this.told.push({ thing: id, signal, ...(by === undefined ? {} : { by }) });
    for (const { wire, to } of this.world.wires.get(signalKey(id, signal)) ?? []) {
      const times = this.worked[wire.id] ?? 0;
      if (wire.times !== undefined && times >= wire.times) continue;
      if (wire.times !== undefined) this.worked[wire.id] = times + 1;
      // At the earliest in the next step: what things do to each other never depends on their order within one.
      const tick = this.state.tick + Math.max(1, Math.round((wire.delay ?? 0) / this.dt));
      this.due.push({
        tick,
        thing: to,
        action: wire.to.action,
        ...(wire.value === undefined ? {} : { value: wire.value }),
        ...(by === undefined ? {} : { by }),
      });
    }
  }

  /** One thing acts; when it moves, who is in its way is moved, or it is obstructed. */
  private act(i: number): void {
    const happenings = (this.happenings.size > 0 && this.happenings.get(i)) || NO_HAPPENINGS;
    if (this.asleep[i] && happenings.length === 0) return;
    const { entity, behaviour, moves, reach } = this.world.things[i]!;
    const before = this.memories[i]!;
    const { moment } = this;
    this.acting = i;
    const after = behaviour.step(entity, before, happenings, moment);
    this.asleep[i] = after === before && happenings.length === 0 ? 1 : 0;
    if (after === before) return;
    if (reach && !this.isMet(reach)) {
      this.memories[i] = after;
      this.stale[i] = 1;
      return;
    }
    if (this.stale[i]) freshen(this.world, this.memories, this.where(), i);
    if (behaviour.gone) this.gone(i, after);
    const people = [...this.people];
    const obstructed = this.moveTo(i, after);
    if (obstructed === null) return;
    // Back to how things were, and as the thing then decides; should that not fit either, it waits.
    people.forEach((p, k) => (this.people[k] = { ...this.people[k]!, body: p.body }));
    for (const body of moves) this.place(body);
    const decided = behaviour.blocked?.(entity, before, after, obstructed, moment) ?? before;
    const again = [...this.people];
    if (this.moveTo(i, decided) === null) return;
    again.forEach((p, k) => (this.people[k] = { ...this.people[k]!, body: p.body }));
    this.memories[i] = before;
    this.repose(i);
    for (const body of moves) this.place(body);
  }

  /** Takes away the bodies of a thing, or puts them back, as it remembers now. */
  private gone(i: number, memory: Memory): void {
    const { behaviour, bodies } = this.world.things[i]!;
    const gone = behaviour.gone!(memory);
    if (gone === behaviour.gone!(this.memories[i]!)) return;
    for (const body of bodies) {
      this.place(body);
      if (gone) removeBody(this.placed, body);
    }
  }

  /** Poses of a thing and of what rides on it, anew. */
  private repose(thing: number): void {
    this.poses[thing] = posesOf(this.world, this.memories, this.poses, thing);
    for (const i of this.world.things[thing]!.riders) this.poses[i] = posesOf(this.world, this.memories, this.poses, i);
  }

  private place(body: number): void {
    moveBody(this.world, this.placed, body, this.poseOf(body));
  }

  /** Moves a thing to what it remembers now. Gives who could not be moved out of the way, null when all is well. On failure nothing is put back. */
  private moveTo(thing: number, memory: Memory): number | null {
    const { moves } = this.world.things[thing]!;
    const was = this.memories[thing]!;
    this.memories[thing] = memory;
    if (moves.length === 0) return null;
    this.repose(thing);
    let far = 0;
    let met = false;
    for (const body of moves) {
      const [from, to] = [this.placed.poses[body]!, this.poseOf(body)];
      if (from === to) continue;
      const { bounds } = this.world.bodies[body]!;
      far = Math.max(far, farthestMove(bounds, from, to));
      met ||= this.people.length > 0 && this.comesNear(body, movedBox(to, bounds));
    }
    if (far === 0) return null;
    if (!met) {
      for (const body of moves) this.place(body);
      return null;
    }
    const from = moves.map((body) => this.placed.poses[body]!);
    const steps = Math.ceil(far / PUSH_STEP);
    for (let s = 1; s <= steps; s++)
      for (const [k, body] of moves.entries()) {
        const old = this.placed.poses[body]!;
        const pose = poseBetween(from[k]!, this.poseOf(body), s / steps, boxCenter(this.world.bodies[body]!.bounds));
        const obstructed = pose === old ? null : this.shove(body, old, pose);
        if (obstructed !== null) {
          this.memories[thing] = was;
          this.repose(thing);
          return obstructed;
        }
      }
    return null;
  }

  /** Where a body belongs by what things remember now. */
  private poseOf(body: number): Pose {
    const { thing, part } = this.world.bodies[body]!;
    return this.poses[thing]![part] ?? AT_REST;
  }

  /** Whether somebody may be met by a body on its way from where it is to a box, or stands on it. */
  private comesNear(body: number, to: Box): boolean {
    const way = growBox(uniteBoxes([this.placed.bounds[body]!, to]), 2 * PUSH_STEP);
    return this.people.some(({ body: b }) => b.standsOn === body || overlaps(way, boxOfPlayer(b)));
  }

  /** Moves one body a little: who stands on it goes along, who is in its way is pushed. Gives who cannot be. */
  private shove(body: number, from: Pose, to: Pose): number | null {
    moveBody(this.world, this.placed, body, to);
    const bounds = this.placed.bounds[body]!;
    for (let k = 0; k < this.people.length; k++) {
      const person = this.people[k]!;
      let { at, yaw } = person.body;
      const { crouching, standsOn } = person.body;
      const rides = standsOn === body;
      if (!rides && !overlaps(growBox(bounds, SKIN), boxOfPlayer(person.body))) continue;
      const box = growBox(boxOfPlayer(person.body), 3 * PUSH_STEP + SKIN);
      if (rides) {
        const step = stepBetween(from, to);
        const target = applyAffine(step, at);
        const others: Collision = { ...this.world.still, moving: this.near(box, body) };
        at = wayTo(others, at, target, crouching);
        yaw += (arcTangent2(step[4], step[0]) * 180) / Math.PI;
      }
      const all: Collision = { ...this.world.still, moving: this.near(box) };
      const free = pushedFree(all, at, crouching);
      if (!free) return k;
      if (free === person.body.at && yaw === person.body.yaw) continue;
      this.people[k] = { ...person, body: { ...person.body, at: free, yaw } };
    }
    return null;
  }

  /** One player walks, on the world as it now is. */
  private walk(k: number, input: PlayerInput): void {
    const person = this.people[k]!;
    const before = this.state.people[k]!.body;
    const { body } = person;
    const reach = hypot(...body.velocity) * this.dt + PLAYER.step + 8;
    const world: Collision = {
      ...this.world.still,
      moving: this.near(growBox(boxOfPlayer(body), reach)),
    };
    const medium = mediumAt(this.world.liquids, this.world.ladders, body);
    // Who is turned by what carries them looks along.
    const turned = this.turns[k]! - before.yaw;
    let next = stepPlayer(world, body, turned === 0 ? input : { ...input, yaw: input.yaw + turned }, this.dt, medium);
    // Not who was put somewhere else meanwhile.
    const was = body.standsOn;
    if (was >= 0 && !next.onGround) {
      // Leaving the ground one keeps the speed of what carried one.
      const v: Vec3 = sub(body.at, before.at).map((d) => d / this.dt) as unknown as Vec3;
      next = { ...next, velocity: [next.velocity[0] + v[0], next.velocity[1] + v[1], next.velocity[2] + v[2]] };
    }
    this.people[k] = breathing({ ...person, body: next }, medium.under, this.dt);
  }

  /** Who has no health left begins again. */
  private live(k: number): void {
    const person = this.people[k]!;
    if (person.health > 0) return;
    this.turns[k] = person.begins.yaw;
    this.people[k] = {
      ...person,
      health: HEALTH,
      breath: PLAYER.breath,
      body: startPlayer(person.begins.at, person.begins.yaw),
    };
  }
}

const NO_HAPPENINGS: readonly Happening[] = [];
const STANDING: PlayerInput = { forward: 0, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0 };
const probe = newSweep();

const NOTHING: Collision = {
  bvh: { bounds: new Float64Array(0), link: new Int32Array(0), order: new Uint32Array(0), depth: 0 } as never,
  first: new Uint32Array(1),
  planes: new Float64Array(0),
  stack: new Int32Array(0),
};

const overlaps = (a: Box, b: Box): boolean =>
  a.min[0] <= b.max[0] &&
  a.max[0] >= b.min[0] &&
  a.min[1] <= b.max[1] &&
  a.max[1] >= b.min[1] &&
  a.min[2] <= b.max[2] &&
  a.max[2] >= b.min[2];

/** How far apart two boxes are, cm; 0 when they touch. */
const gapBetween = (a: Box, b: Box): number => {
  const apart = (i: 0 | 1 | 2) => Math.max(0, a.min[i] - b.max[i], b.min[i] - a.max[i]);
  return hypot(apart(0), apart(1), apart(2));
};

/** A box of a thing where what it rides on has carried it; what it does itself does not count. */
const movedByCarrier = (world: World, thing: number, pose: Pose, box: Box): Box =>
  world.things[thing]!.carrier < 0 || world.things[thing]!.behaviour.poses ? box : movedBox(pose, box);

/** The room that a player takes. */
export function boxOfPlayer({ at: [x, y, z], crouching }: PlayerState): Box {
  const w = PLAYER.halfWidth;
  return { min: [x - w, y - w, z], max: [x + w, y + w, z + playerHeight(crouching)] };
}

/** From a place towards another as far as there is room, sliding along what is met. Exactly there when nothing is. */
function wayTo(c: Collision, from: Vec3, to: Vec3, crouching: boolean): Vec3 {
  const by = sub(to, from);
  const h = playerHeight(crouching) / 2;
  const w = PLAYER.halfWidth;
  const free = sweepBox(c, [from[0], from[1], from[2] + h], w, w, h, by[0], by[1], by[2], probe);
  return free.fraction === 1 && !free.stuck ? to : carriedBy(c, from, crouching, by);
}

/** The body that a player looks at within reach, −1 for none or when something else is in the way. */
export function lookedAt(world: World, placed: Placed, body: PlayerState, yaw: number, pitch: number): number {
  const eye = eyeOf(body);
  const [cy, sy] = cosSin(yaw);
  const [cp, sp] = cosSin(pitch);
  const way = scale([cy * cp, sy * cp, sp], USE_REACH);
  const end: Vec3 = [eye[0] + way[0], eye[1] + way[1], eye[2] + way[2]];
  const moving = movingNear(world, placed, boxOf([eye, end]));
  const hit = sweepBox({ ...world.still, moving }, eye, 0, 0, 0, way[0], way[1], way[2], probe);
  return hit.fraction < 1 || hit.stuck ? hit.body : -1;
}
