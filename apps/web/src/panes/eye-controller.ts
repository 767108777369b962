import { Raycaster, Vector2, Vector3, type PerspectiveCamera } from 'three';
import { cross, dot, type Vec3 } from '@yesca/core';
import { aimCamera, forwardOf } from '../scene/aim.ts';
import { eyeMemory } from '../state/eye.ts';

/** Flying speed, cm/s; three times that with Shift. */
const FLY = 420;
/** Nearly straight up or down, radians: further the picture would tip over. */
const STEEPEST = 1.55;

/** What moves the Eye's camera: pointer and keys, requests of other panels, the walker. Who wants to know where it looks listens. */
export class EyeController {
  camera: PerspectiveCamera | null = null;
  yaw = 0;
  pitch = 0;
  /** Whether the pointer looks round, and keys fly. */
  looking = false;
  readonly keys = new Set<string>();
  /** The point the camera goes round while it turns. */
  orbit: Vec3 | null = null;
  private readonly listeners = new Set<() => void>();

  /** Called whenever the camera moved or turned; gives what ends that. */
  listen(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** The way the camera looks. */
  get forward(): Vec3 {
    return forwardOf(this.yaw, this.pitch);
  }

  get at(): Vec3 | null {
    return this.camera ? (this.camera.position.toArray() as Vec3) : null;
  }

  /** Puts the camera somewhere, looking some way (radians). */
  put(at: Vec3, yaw = this.yaw, pitch = this.pitch): void {
    this.yaw = yaw;
    this.pitch = Math.max(-STEEPEST, Math.min(STEEPEST, pitch));
    this.camera?.position.set(...at);
    this.aim();
  }

  /** Turns by some radians; round the point of orbit where there is one. */
  turn(yaw: number, pitch: number): void {
    const before = [this.forward, this.yaw] as const;
    this.yaw += yaw;
    this.pitch = Math.max(-STEEPEST, Math.min(STEEPEST, this.pitch + pitch));
    if (this.orbit && this.camera) keepInPlace(this.camera, this.orbit, before, [this.forward, this.yaw]);
    this.aim();
  }

  /** Moves along the picture: to the right, up, and towards what is seen, cm. */
  slide(right: number, up: number, ahead: number): void {
    this.camera?.translateX(right);
    this.camera?.translateY(up);
    this.camera?.translateZ(-ahead);
    this.aim();
  }

  /** Flies on by some time with the keys held. */
  fly(seconds: number): void {
    if (!this.camera || !this.looking || this.keys.size === 0) return;
    const far = seconds * FLY * (this.keys.has('ShiftLeft') ? 3 : 1);
    const axis = (plus: string, minus: string) => (this.keys.has(plus) ? far : 0) - (this.keys.has(minus) ? far : 0);
    const { position } = this.camera;
    position.addScaledVector(new Vector3(...this.forward), axis('KeyW', 'KeyS'));
    position.addScaledVector(new Vector3(Math.sin(this.yaw), -Math.cos(this.yaw), 0), axis('KeyD', 'KeyA'));
    position.z += axis('KeyE', 'KeyQ');
    this.aim();
  }

  /** The line of sight through a place of the picture: 0 to 1 across and down. */
  rayThrough(across: number, down: number): { readonly from: Vec3; readonly towards: Vec3 } | null {
    if (!this.camera) return null;
    const caster = new Raycaster();
    // What was aimed since the last frame counts already.
    this.camera.updateMatrixWorld();
    caster.setFromCamera(new Vector2(across * 2 - 1, 1 - down * 2), this.camera);
    return { from: caster.ray.origin.toArray() as Vec3, towards: caster.ray.direction.toArray() as Vec3 };
  }

  /** Where a point lies in the picture, 0 to 1 across and down; null behind the camera. */
  placeOf(at: Vec3): readonly [number, number] | null {
    if (!this.camera) return null;
    const p = new Vector3(...at).project(this.camera);
    return p.z < 1 ? [(p.x + 1) / 2, (1 - p.y) / 2] : null;
  }

  /** Points the camera where it looks and tells who listens. */
  aim(): void {
    if (!this.camera) return;
    eyeMemory.at = this.camera.position.toArray() as Vec3;
    eyeMemory.target = this.forward;
    aimCamera(this.camera, eyeMemory.at, this.yaw, this.pitch);
    for (const listener of this.listeners) listener();
  }
}

type Aim = readonly [forward: Vec3, yaw: number];

/** Keeps a point where it is on screen while the camera turns: the camera goes round it. */
function keepInPlace(camera: PerspectiveCamera, point: Vec3, before: Aim, after: Aim): void {
  const to: Vec3 = [point[0] - camera.position.x, point[1] - camera.position.y, point[2] - camera.position.z];
  const basis = ([forward, yaw]: Aim): readonly [Vec3, Vec3, Vec3] => {
    const side: Vec3 = [Math.sin(yaw), -Math.cos(yaw), 0];
    return [forward, side, cross(side, forward)];
  };
  const parts = basis(before).map((axis) => dot(to, axis));
  const is = basis(after);
  const now = [0, 1, 2].map((i) => is[0][i]! * parts[0]! + is[1][i]! * parts[1]! + is[2][i]! * parts[2]!);
  camera.position.set(point[0] - now[0]!, point[1] - now[1]!, point[2] - now[2]!);
}
