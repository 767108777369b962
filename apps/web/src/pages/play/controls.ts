import type { PlayerInput } from '@yesca/core';
import { USE, walkInput } from '../../scene/walker.ts';

/** Degrees a pixel of mouse movement turns the view. */
const TURN = 0.11;
/** Degrees a second that held arrows turn and tilt it. */
const BY_KEYS = { turn: 120, tilt: 80 };
/** Steepest view up and down, degrees. */
const STEEPEST = 89;

const NO_KEYS: ReadonlySet<string> = new Set();

/** What mouse and keys make of somebody who plays: where they look, and what they want to do. */
export class PlayControls {
  /** Codes of the keys that are held. */
  readonly keys = new Set<string>();
  /** Codes of keys that were pressed since they were last asked for: a press between two frames counts, however short. */
  private readonly tapped = new Set<string>();
  /** Degrees from east towards north, and up. */
  yaw: number;
  pitch = 0;
  private walking = false;
  private uses = 0;

  constructor(yaw: number) {
    this.yaw = yaw;
  }

  /** A key goes down; `again` when it is held and repeats by itself. */
  press(code: string, again = false): void {
    this.keys.add(code);
    this.tapped.add(code);
    if (code === USE && !again && this.walking) this.uses++;
  }

  /** Whether the keys walk: not before the player has begun. */
  walk(on: boolean): void {
    this.walking = on;
  }

  /** Looks some way, level. */
  face(yaw: number): void {
    this.yaw = yaw;
  }

  turn(yaw: number, pitch: number): void {
    this.yaw += yaw;
    this.pitch = Math.max(-STEEPEST, Math.min(STEEPEST, this.pitch + pitch));
  }

  moveMouse(right: number, down: number): void {
    this.turn(-right * TURN, -down * TURN);
  }

  turnByKeys(seconds: number): void {
    const axis = (plus: string, minus: string) => Number(this.keys.has(plus)) - Number(this.keys.has(minus));
    this.turn(
      axis('ArrowLeft', 'ArrowRight') * BY_KEYS.turn * seconds,
      axis('ArrowUp', 'ArrowDown') * BY_KEYS.tilt * seconds,
    );
  }

  /** What is wanted until it is asked again, and how often use was pressed since. */
  takeInput(): { readonly input: PlayerInput; readonly uses: number } {
    const keys = this.walking ? new Set([...this.keys, ...this.tapped]) : NO_KEYS;
    this.tapped.clear();
    const { uses } = this;
    this.uses = 0;
    return { input: walkInput(keys, this.yaw, this.pitch), uses };
  }
}
