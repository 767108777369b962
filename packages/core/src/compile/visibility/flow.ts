import { ON_PLANE } from '../../math/index.ts';
import { Beam, emptyFlat, PolygonClip, type Flat } from './beam.ts';
import { hasBit } from './bits.ts';
import { portFlat, type Reach } from './bound.ts';
import { reversed, roomFor, type Ports } from './ports.ts';
import type { Ranges } from './ranges.ts';

/** A beam at one step of its way: what of the source is still looked through, and what of the port it has come to is lit. */
interface Step {
  readonly source: Flat;
  readonly lit: Flat;
  /** The beam from the one through the other. */
  readonly beam: Beam;
  /** Cells that it may still come to. */
  allowed: Uint32Array;
}

/**
 * Follows the beam that enters through a port through every chain of ports, and cuts it at each. Only ways that may lead to cells
 * that are asked for are gone.
 */
export class Flow {
  /** Beams that were cut for the last start. */
  spent = 0;
  private readonly ports: Ports;
  private readonly reach: Reach;
  private readonly might: Ranges;
  private readonly clip: PolygonClip;
  private readonly backward: Beam;
  private readonly steps: Step[] = [];
  private readonly onWay: Uint8Array;

  constructor(ports: Ports, reach: Reach, might: Ranges) {
    this.ports = ports;
    this.reach = reach;
    this.might = might;
    this.clip = new PolygonClip(roomFor(ports));
    this.backward = new Beam(this.clip.room);
    this.onWay = new Uint8Array(ports.count);
  }

  /**
   * Follows the beam through a port that {@link Reach} has started with. `asked` holds cells by bits; `found` is told of each that the
   * beam comes to, with the part of the source and the window it is seen through, and takes it out of `asked`. False when `budget`
   * beams were cut before the end.
   */
  follow(
    start: number,
    budget: number,
    asked: Uint32Array,
    found: (cell: number, source: Flat, lit: Flat) => void,
  ): boolean {
    this.spent = 0;
    const { ports, might } = this;
    const first = this.step(0, asked.length);
    portFlat(ports, start, first.source);
    portFlat(ports, start, first.lit);
    might.copy(start, first.allowed);
    const cell = ports.to[start]!;
    if (hasBit(asked, cell)) found(cell, first.source, first.lit);
    return this.onward(0, start, start, budget, asked, found);
  }

  private step(depth: number, words: number): Step {
    let step = this.steps[depth];
    if (!step) {
      const { room } = this.clip;
      step = {
        source: emptyFlat(depth ? room : 0),
        lit: emptyFlat(depth ? room : 0),
        beam: new Beam(room),
        allowed: new Uint32Array(words),
      };
      this.steps[depth] = step;
    }
    return step;
  }

  private onward(
    depth: number,
    start: number,
    through: number,
    budget: number,
    asked: Uint32Array,
    found: (cell: number, source: Flat, lit: Flat) => void,
  ): boolean {
    const { ports, reach, might, clip, onWay } = this;
    const { to, out, outFirst, plane } = ports;
    const here = this.step(depth, asked.length);
    const next = this.step(depth + 1, asked.length);
    const cell = to[through]!;
    const m = start * 4;
    const window = emptyFlat(0);
    if (depth > 0) here.beam.aim(here.source, here.lit, plane, m, through * 4);
    for (let k = outFirst[cell]!; k < outFirst[cell + 1]!; k++) {
      const port = out[k]!;
      if (port === reversed(through) || onWay[port] || !reach.has(port)) continue;
      // A port is worth going through only when cells lie beyond that are asked for.
      this.spent++;
      const target = to[port]!;
      const isAsked = hasBit(asked, target);
      if (!might.narrow(port, here.allowed, asked, next.allowed) && !isAsked) continue;
      if (this.spent > budget) return false;
      reach.window(port, window);
      clip.load(window);
      const p = port * 4;
      if (depth > 0 && !here.beam.shine(clip)) continue;
      clip.store(next.lit);
      // What of the source is still seen, back through the window.
      clip.load(here.source);
      if (!clip.cut(-plane[p]!, -plane[p + 1]!, -plane[p + 2]!, -plane[p + 3]! - ON_PLANE)) continue;
      if (depth > 0) {
        this.backward.aimBack(next.lit, here.lit, plane, p, through * 4);
        if (!this.backward.shine(clip)) continue;
      }
      clip.store(next.source);
      if (isAsked) found(target, next.source, next.lit);
      onWay[port] = 1;
      const finished = this.onward(depth + 1, start, port, budget, asked, found);
      onWay[port] = 0;
      if (!finished) return false;
    }
    return true;
  }
}
