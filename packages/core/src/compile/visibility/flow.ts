import { ON_PLANE } from '../../math/index.ts';
import { Beam, emptyFlat, PolygonClip, type Flat } from './beam.ts';
import { gateFlat, type Reach } from './bound.ts';
import { reversed, roomFor, type Gates } from './gates.ts';
import type { Ranges } from './ranges.ts';

/** A beam at one step of its way: what of the source is still looked through, and what of the gate it has come to is lit. */
interface Step {
  readonly source: Flat;
  readonly lit: Flat;
  /** The beam from the one through the other. */
  readonly beam: Beam;
  /** Cells that it may still come to. */
  allowed: Uint32Array;
}

/**
 * Follows the beam that enters through a gate through every chain of gates, and cuts it at each. Only ways that may lead to cells
 * that are asked for are gone.
 */
export class Flow {
  /** Beams that were cut for the last start. */
  spent = 0;
  private readonly gates: Gates;
  private readonly reach: Reach;
  private readonly might: Ranges;
  private readonly clip: PolygonClip;
  private readonly backward: Beam;
  private readonly steps: Step[] = [];
  private readonly onWay: Uint8Array;

  constructor(gates: Gates, reach: Reach, might: Ranges) {
    this.gates = gates;
    this.reach = reach;
    this.might = might;
    this.clip = new PolygonClip(roomFor(gates));
    this.backward = new Beam(this.clip.room);
    this.onWay = new Uint8Array(gates.count);
  }

  /**
   * Follows the beam through a gate that {@link Reach} has started with. `asked` holds cells by bits; `found` is told of each that the
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
    const { gates, might } = this;
    const first = this.step(0, asked.length);
    gateFlat(gates, start, first.source);
    gateFlat(gates, start, first.lit);
    might.copy(start, first.allowed);
    const cell = gates.to[start]!;
    if (asked[cell >> 5]! & (1 << (cell & 31))) found(cell, first.source, first.lit);
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
    const { gates, reach, might, clip, onWay } = this;
    const { to, out, outFirst, plane } = gates;
    const here = this.step(depth, asked.length);
    const next = this.step(depth + 1, asked.length);
    const cell = to[through]!;
    const m = start * 4;
    const window = emptyFlat(0);
    if (depth > 0) here.beam.aim(here.source, here.lit, plane, m, through * 4);
    for (let k = outFirst[cell]!; k < outFirst[cell + 1]!; k++) {
      const gate = out[k]!;
      if (gate === reversed(through) || onWay[gate] || !reach.has(gate)) continue;
      // A gate is worth going through only when cells lie beyond that are asked for.
      this.spent++;
      const target = to[gate]!;
      const isAsked = (asked[target >> 5]! & (1 << (target & 31))) !== 0;
      if (!might.narrow(gate, here.allowed, asked, next.allowed) && !isAsked) continue;
      if (this.spent > budget) return false;
      reach.window(gate, window);
      clip.load(window);
      const p = gate * 4;
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
      onWay[gate] = 1;
      const finished = this.onward(depth + 1, start, gate, budget, asked, found);
      onWay[gate] = 0;
      if (!finished) return false;
    }
    return true;
  }
}
