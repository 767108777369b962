import { entityKind, TIME_STEP, type Entity, type Told, type Vec3, type World, type WorldState } from '@yesca/core';

/** How far (cm) what happens is heard, and from where on it grows fainter. */
const HEARD = { reach: 1800, full: 150 };
/** A step is heard each so many cm of walking, and each so many of swimming. */
const STRIDE = { walk: 78, swim: 150 };
/** So many sounds at once are enough. */
const MOST = 24;

/** Plays the sounds that ship where they come from, with the browser's own audio. Nothing is fetched before the first is heard. */
export class Sounds {
  private readonly context = new AudioContext();
  private readonly loaded = new Map<string, Promise<AudioBuffer | null>>();
  private readonly hums = new Map<string, { name: string; gain: GainNode; stop: () => void } | 'soon'>();
  private playing = 0;
  private walked = 0;

  /** Where one hears from, and which way one looks. */
  listen([x, y, z]: Vec3, yaw: number): void {
    const { listener } = this.context;
    const at = this.context.currentTime;
    const put = (p: AudioParam | undefined, to: number) => p?.setValueAtTime(to, at);
    put(listener.positionX, x);
    put(listener.positionY, y);
    put(listener.positionZ, z);
    put(listener.forwardX, Math.cos(yaw));
    put(listener.forwardY, Math.sin(yaw));
    put(listener.forwardZ, 0);
    put(listener.upX, 0);
    put(listener.upY, 0);
    put(listener.upZ, 1);
  }

  private load(name: string): Promise<AudioBuffer | null> {
    let known = this.loaded.get(name);
    if (!known) {
      // What cannot be had is silent: a map may name sounds of a newer version.
      known = fetch(`/stock/sounds/${encodeURIComponent(name)}`)
        .then(async (r) => (r.ok ? this.context.decodeAudioData(await r.arrayBuffer()) : null))
        .catch(() => null);
      this.loaded.set(name, known);
    }
    return known;
  }

  private from([x, y, z]: Vec3, reach: number): PannerNode {
    return new PannerNode(this.context, {
      panningModel: 'equalpower',
      distanceModel: 'linear',
      refDistance: Math.min(HEARD.full, reach / 4),
      maxDistance: reach,
      positionX: x,
      positionY: y,
      positionZ: z,
    });
  }

  /** Plays a sound once; at the listener when no place is given. */
  async play(name: string, at: Vec3 | null, volume = 0.8, reach = HEARD.reach): Promise<void> {
    if (name === '' || this.playing >= MOST) return;
    this.playing++;
    const buffer = await this.load(name);
    if (!buffer || this.context.state === 'closed') return void this.playing--;
    const source = new AudioBufferSourceNode(this.context, { buffer });
    const gain = new GainNode(this.context, { gain: volume });
    const panner = at && this.from(at, reach);
    (panner ? source.connect(panner) : source).connect(gain).connect(this.context.destination);
    source.onended = () => this.playing--;
    source.start();
  }

  /** Keeps what is heard all the while in step with a world. */
  private hum(world: World, state: WorldState, placeOf: (thing: number) => Vec3): void {
    world.things.forEach(({ entity, behaviour }, k) => {
      const hum = behaviour.hum?.(entity, state.memories[k]!) ?? null;
      const now = this.hums.get(entity.id);
      if (now === 'soon') return;
      if (now && now.name !== hum?.sound) {
        now.stop();
        this.hums.delete(entity.id);
      } else if (!now && hum) {
        this.hums.set(entity.id, 'soon');
        void this.load(hum.sound).then((buffer) => {
          this.hums.delete(entity.id);
          if (!buffer || this.context.state === 'closed') return;
          const source = new AudioBufferSourceNode(this.context, { buffer, loop: true });
          const gain = new GainNode(this.context, { gain: hum.volume });
          source
            .connect(this.from(placeOf(k), hum.reach))
            .connect(gain)
            .connect(this.context.destination);
          source.start();
          this.hums.set(entity.id, { name: hum.sound, gain, stop: () => source.stop() });
        });
      }
    });
  }

  /** Sounds what was told, what goes on, and the steps of who walks. */
  sound(world: World, state: WorldState, told: readonly Told[], seconds: number): void {
    if (this.context.state === 'suspended') void this.context.resume();
    const placeOf = (entity: Entity): Vec3 => {
      const [box] = world.around.parts(entity.id).filter((b) => b.min[0] <= b.max[0]);
      return box ? (box.min.map((c, i) => (c + box.max[i]!) / 2) as unknown as Vec3) : entity.at;
    };
    for (const { thing, signal } of told) {
      const entity = world.around.thing(thing);
      const name = entity && entityKind(entity.kind)?.sounds(entity)[signal];
      if (name) void this.play(name, placeOf(entity));
    }
    this.hum(world, state, (k) => placeOf(world.things[k]!.entity));
    const body = state.people[0]?.body;
    if (!body) return;
    const wet = state.people[0]!.breath < 15;
    const speed = Math.hypot(body.velocity[0], body.velocity[1]);
    if (body.onGround && speed > 30) this.walked += speed * Math.max(seconds, TIME_STEP);
    if (this.walked > (wet ? STRIDE.swim : STRIDE.walk)) {
      this.walked = 0;
      void this.play(wet ? 'stepWater' : 'stepStone', null, 0.22);
    }
  }

  close(): void {
    for (const hum of this.hums.values()) if (hum !== 'soon') hum.stop();
    this.hums.clear();
    if (this.context.state !== 'closed') void this.context.close();
  }
}
