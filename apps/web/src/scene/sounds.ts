import {
  entityKind,
  TIME_STEP,
  type Entity,
  type SoundName,
  type Substance,
  type Told,
  type Vec3,
  type World,
  type WorldState,
} from '@yesca/core';

/** How far (cm) what happens is heard, and from where on it grows fainter. */
const HEARD = { reach: 1800, full: 150 };
/** A step is heard each so many cm of walking, and each so many of swimming. */
const STRIDE = { walk: 78, swim: 150 };
/** What is heard of a step on each substance; on all others it sounds like stone. */
const STEPS: Partial<Record<Substance, SoundName>> = {
  wood: 'stepWood',
  metal: 'stepMetal',
  earth: 'stepEarth',
  plant: 'stepEarth',
  cloth: 'stepEarth',
};
/** How long a room sounds on at most, s, and how much of it is heard at most. */
const ECHO = { longest: 2.4, share: 0.22 };
/** How much of what meets the sides of a room they swallow: bare walls with some wood. */
const SWALLOWED = 0.22;
/** So many sounds at once are enough. */
const MOST = 24;

/** Plays the sounds that ship where they come from, with the browser's own audio. Nothing is fetched before the first is heard. */
export class Sounds {
  private readonly context = new AudioContext();
  private readonly loaded = new Map<string, Promise<AudioBuffer | null>>();
  private readonly hums = new Map<string, { name: string; gain: GainNode; stop: () => void } | 'soon'>();
  private playing = 0;
  private walked = 0;
  /** Everything goes through here: to the ears, and by the echo of the room. */
  private readonly out = new GainNode(this.context);
  private readonly room = new ConvolverNode(this.context, { disableNormalization: false });
  private readonly share = new GainNode(this.context, { gain: 0 });
  private echo = 0;

  constructor() {
    this.out.connect(this.context.destination);
    this.out.connect(this.room).connect(this.share).connect(this.context.destination);
  }

  /**
   * Lets everything sound as in a room of a size (cm); null in the open. How long it sounds on follows from its room and sides alone
   * (Sabine: 0.161 · volume / swallowing area, in metres).
   */
  within(size: Vec3 | null): void {
    const [x, y, z] = (size ?? [0, 0, 0]).map((c) => c / 100) as unknown as Vec3;
    const area = 2 * (x * y + y * z + z * x);
    const seconds = area > 0 ? Math.min(ECHO.longest, (0.161 * x * y * z) / (area * SWALLOWED)) : 0;
    // In steps of a quarter second: nobody hears less, and each needs a noise of its own.
    const echo = Math.round(seconds * 4) / 4;
    if (echo === this.echo) return;
    this.echo = echo;
    if (echo > 0) this.room.buffer = fading(this.context, echo);
    this.share.gain.setTargetAtTime(echo > 0 ? ECHO.share : 0, this.context.currentTime, 0.15);
  }

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
    (panner ? source.connect(panner) : source).connect(gain).connect(this.out);
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
            .connect(this.out);
          source.start();
          this.hums.set(entity.id, { name: hum.sound, gain, stop: () => source.stop() });
        });
      }
    });
  }

  /** Sounds what was told, what goes on, and the steps of who walks, on what `underfoot` says. */
  sound(
    world: World,
    state: WorldState,
    told: readonly Told[],
    seconds: number,
    underfoot: (feet: Vec3) => Substance | null = () => null,
  ): void {
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
      const under = underfoot(body.at);
      void this.play(wet ? 'stepWater' : ((under && STEPS[under]) ?? 'stepStone'), null, 0.22);
    }
  }

  close(): void {
    for (const hum of this.hums.values()) if (hum !== 'soon') hum.stop();
    this.hums.clear();
    if (this.context.state !== 'closed') void this.context.close();
  }
}

/** Noise that fades by 60 dB in some seconds: what a room answers to a clap. The same each time. */
function fading(context: BaseAudioContext, seconds: number): AudioBuffer {
  const buffer = new AudioBuffer({
    numberOfChannels: 2,
    length: Math.ceil(seconds * context.sampleRate),
    sampleRate: context.sampleRate,
  });
  for (let channel = 0; channel < 2; channel++) {
    const data = buffer.getChannelData(channel);
    let random = channel + 1;
    for (let i = 0; i < data.length; i++) {
      random = (Math.imul(random, 1664525) + 1013904223) >>> 0;
      data[i] = (random / 2 ** 31 - 1) * 10 ** ((-3 * i) / data.length);
    }
  }
  return buffer;
}
