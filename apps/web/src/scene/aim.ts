import type { Camera } from 'three';
import type { Vec3 } from '@yesca/core';

export const radians = (degrees: number): number => (degrees * Math.PI) / 180;
export const degrees = (radians: number): number => (radians * 180) / Math.PI;

/** The way somebody looks who turned by `yaw` from east towards north, and up by `pitch`, in radians. */
export const forwardOf = (yaw: number, pitch: number): Vec3 => {
  const r = Math.cos(pitch);
  return [Math.cos(yaw) * r, Math.sin(yaw) * r, Math.sin(pitch)];
};

/** Puts a camera where eyes are, looking as they do, upright. */
export function aimCamera(camera: Camera, eyes: Vec3, yaw: number, pitch: number): void {
  const [x, y, z] = forwardOf(yaw, pitch);
  camera.up.set(0, 0, 1);
  camera.position.set(...eyes);
  camera.lookAt(eyes[0] + x, eyes[1] + y, eyes[2] + z);
}
