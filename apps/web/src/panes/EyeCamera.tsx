import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import type { PerspectiveCamera } from 'three';
import { firstSpawn, PLAYER, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import type { EyeController } from './eye-controller.ts';
import { beginWalk, endTrial, endWalk, playTrial } from '../scene/trial.ts';
import { Sounds } from '../scene/sounds.ts';
import { walkInput } from '../scene/walker.ts';
import { useTrial } from '../state/trial.ts';
import { materialUnder } from '../geometry/surface-under.ts';
import { substanceOf } from '../state/library.ts';
import { useDisplay } from '../state/display.ts';
import { useEyeRequest, eyeMemory } from '../state/eye.ts';
import { degrees, radians } from '../scene/aim.ts';

/** After a pause of drawing on demand the first frame would count the pause, seconds. */
const LONGEST_FRAME = 0.1;

/** Which way a direction looks: yaw and pitch. */
const aimOf = ([x, y, z]: Vec3): [yaw: number, pitch: number] => [
  Math.atan2(y, x),
  Math.asin(Math.max(-1, Math.min(1, z))),
];

/** Lets the controller move the camera of the picture: flight and walking frame by frame, requests of other panels, and where Play ended. */
export function EyeCamera({ eye, mapId }: { eye: EyeController; mapId: string | null }) {
  const { camera, invalidate } = useThree();
  const request = useEyeRequest((s) => s.request);
  const walking = useDisplay((s) => s.walking);
  const heard = useRef<Sounds | null>(null);
  useEffect(() => () => heard.current?.close(), []);
  const hearTrial = (on: ReturnType<typeof playTrial>, seconds: number) => {
    if (!on) {
      heard.current?.close();
      heard.current = null;
      return;
    }
    heard.current ??= new Sounds();
    heard.current.listen(eye.at!, eye.yaw);
    heard.current.sound(on.played.world, on.played.state, on.told, seconds, (feet) =>
      substanceOf(materialUnder(useEditor.getState().doc, feet)),
    );
  };
  const running = useTrial((s) => s.running);
  const walks = useRef(false);
  useEffect(() => {
    eye.camera = camera as PerspectiveCamera;
    const stop = eye.listen(invalidate);
    const spawn = firstSpawn(useEditor.getState().doc.entities.values());
    if (eyeMemory.mapId === mapId) eye.put(eyeMemory.at, ...aimOf(eyeMemory.target));
    else if (spawn) eye.put([spawn.at[0], spawn.at[1], spawn.at[2] + PLAYER.eyeStanding], radians(spawn.turn), -0.06);
    else eye.put([-500, -700, 620], 0.95, -0.55);
    eyeMemory.mapId = mapId;
    return stop;
    // Only when another map is opened: later changes of the spawn must not move the camera.
  }, [mapId, camera, eye, invalidate]);
  useEffect(() => {
    if (!request) return;
    walks.current = false;
    const { at, stand, turn, towards } = request;
    if (stand) {
      const [yaw, pitch] = towards ? aimOf(towards) : [turn === undefined ? eye.yaw : radians(turn), 0];
      return eye.put(at, yaw, pitch);
    }
    const away = 320;
    eye.put([at[0] - Math.cos(eye.yaw) * away, at[1] - Math.sin(eye.yaw) * away, at[2] + 140], eye.yaw, -0.4);
  }, [request, eye]);
  useEffect(() => {
    walks.current = false;
    if (!walking) endWalk();
    invalidate();
  }, [walking, running, invalidate]);
  // Another map, or none: nothing of the trial stays.
  useEffect(() => endTrial, [mapId]);
  useFrame((_, delta) => {
    const seconds = Math.min(delta, LONGEST_FRAME);
    if (!walking) {
      const on = playTrial(seconds);
      if (on) invalidate();
      hearTrial(on, seconds);
      return eye.fly(seconds);
    }
    if (!walks.current) beginWalk(eye.at!);
    walks.current = true;
    const input = walkInput(eye.keys, degrees(eye.yaw), degrees(eye.pitch));
    const on = playTrial(seconds, input);
    hearTrial(on, seconds);
    if (!on) return;
    if (on.eyes && (on.moving || on.turned)) eye.put(on.eyes, eye.yaw + radians(on.turned));
    if (on.moving || useTrial.getState().doc) invalidate();
  });
  return null;
}
