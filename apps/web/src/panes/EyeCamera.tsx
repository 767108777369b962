import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, type MutableRefObject } from 'react';
import { Vector3, type PerspectiveCamera } from 'three';
import { firstSpawn, PLAYER, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { solidsOf } from '../state/solids.ts';
import { eyeMemory, useEyeRequest, useView } from '../state/view.ts';
import { walkerAt, walkOn, type Walker } from './eye-walk.ts';

/** Flying speed, cm/s; three times that with Shift. */
const FLY = 420;

/** What the pointer and the keys of the Eye do to its camera. */
export interface EyeControls {
  camera: PerspectiveCamera | null;
  yaw: number;
  pitch: number;
  keys: Set<string>;
  looking: boolean;
  /** The point the camera goes round while it turns. */
  orbit: Vec3 | null;
}

/** Moves the camera: flight while the right button is held, requests of other panels, and where Play ended. */
export function EyeCamera({ controls, mapId }: { controls: MutableRefObject<EyeControls>; mapId: string | null }) {
  const { camera, invalidate } = useThree();
  const request = useEyeRequest((s) => s.request);
  const walking = useView((s) => s.walking);
  const walker = useRef<Walker | null>(null);
  const aim = useMemo(
    () => () => {
      const c = controls.current;
      const r = Math.cos(c.pitch);
      camera.up.set(0, 0, 1);
      camera.lookAt(
        camera.position.x + Math.cos(c.yaw) * r,
        camera.position.y + Math.sin(c.yaw) * r,
        camera.position.z + Math.sin(c.pitch),
      );
      eyeMemory.at = camera.position.toArray() as Vec3;
      eyeMemory.target = [Math.cos(c.yaw) * r, Math.sin(c.yaw) * r, Math.sin(c.pitch)];
      const pane = document.querySelector<HTMLElement>('[data-pane=eye]');
      if (pane) pane.dataset.eye = JSON.stringify(eyeMemory);
      invalidate();
    },
    [camera, controls, invalidate],
  );
  useEffect(() => {
    const c = controls.current;
    c.camera = camera as PerspectiveCamera;
    const remembered = eyeMemory.mapId === mapId;
    const spawn = firstSpawn(useEditor.getState().doc.entities.values());
    if (remembered) {
      camera.position.set(...eyeMemory.at);
      c.yaw = Math.atan2(eyeMemory.target[1], eyeMemory.target[0]);
      c.pitch = Math.asin(Math.max(-1, Math.min(1, eyeMemory.target[2])));
    } else if (spawn) {
      camera.position.set(spawn.at[0], spawn.at[1], spawn.at[2] + PLAYER.eyeStanding);
      c.yaw = (spawn.turn * Math.PI) / 180;
      c.pitch = -0.06;
    } else {
      camera.position.set(-500, -700, 620);
      c.yaw = 0.95;
      c.pitch = -0.55;
    }
    eyeMemory.mapId = mapId;
    aim();
    // Only when another map is opened: later changes of the spawn must not move the camera.
  }, [mapId, camera, controls, aim]);
  useEffect(() => {
    if (!request) return;
    walker.current = null;
    const c = controls.current;
    if (request.stand) {
      camera.position.set(request.at[0], request.at[1], request.at[2]);
      if (request.turn !== undefined) c.yaw = (request.turn * Math.PI) / 180;
      if (request.towards) c.yaw = Math.atan2(request.towards[1], request.towards[0]);
      c.pitch = request.towards ? Math.asin(Math.max(-1, Math.min(1, request.towards[2]))) : 0;
    } else {
      const away = 320;
      camera.position.set(
        request.at[0] - Math.cos(c.yaw) * away,
        request.at[1] - Math.sin(c.yaw) * away,
        request.at[2] + 140,
      );
      c.pitch = -0.4;
    }
    aim();
  }, [request, camera, controls, aim]);
  useEffect(() => {
    walker.current = null;
    invalidate();
  }, [walking, invalidate]);
  useFrame((_, delta) => {
    const c = controls.current;
    if (walking) {
      walker.current ??= walkerAt(camera.position.toArray() as Vec3);
      // After a pause of drawing on demand the first frame would count the pause.
      const { eyes, moving } = walkOn(
        solidsOf(useEditor.getState().doc),
        walker.current,
        c.keys,
        c.yaw,
        Math.min(delta, 0.1),
      );
      if (!moving) return;
      camera.position.set(...eyes);
      return aim();
    }
    if (!c.looking || c.keys.size === 0) return;
    const d = Math.min(delta, 0.1) * FLY * (c.keys.has('ShiftLeft') ? 3 : 1);
    const forward = new Vector3(
      Math.cos(c.yaw) * Math.cos(c.pitch),
      Math.sin(c.yaw) * Math.cos(c.pitch),
      Math.sin(c.pitch),
    );
    const right = new Vector3(Math.sin(c.yaw), -Math.cos(c.yaw), 0);
    const go = (key: string, v: Vector3, by: number) => c.keys.has(key) && camera.position.addScaledVector(v, by * d);
    go('KeyW', forward, 1);
    go('KeyS', forward, -1);
    go('KeyD', right, 1);
    go('KeyA', right, -1);
    go('KeyE', new Vector3(0, 0, 1), 1);
    go('KeyQ', new Vector3(0, 0, 1), -1);
    aim();
  });
  useEffect(() => {
    controls.current.camera = camera as PerspectiveCamera;
    const element = document.querySelector('[data-pane=eye]');
    element?.addEventListener('yesca-aim', aim);
    return () => element?.removeEventListener('yesca-aim', aim);
  }, [aim, camera, controls]);
  return null;
}
