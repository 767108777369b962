import { Vector3, type PerspectiveCamera } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { boxCenter, boxSize, PLAYER, type Box } from '@yesca/core';
import { PERSON_WIDTH } from './Person.tsx';

/** Degrees that an arrow key turns. */
const NOTCH = 15;

/** A camera that goes round what stands there, by the pointer or by notches. */
export interface Turntable {
  /** Looks from where all of it is seen, and a person beside it where there is one. */
  readonly look: (bounds: Box, person: boolean) => void;
  /** So many notches to the right and down. */
  readonly turn: (across: number, down: number) => void;
  readonly dispose: () => void;
}

export function makeTurntable(camera: PerspectiveCamera, element: HTMLElement, changed: () => void): Turntable {
  camera.up.set(0, 0, 1);
  const controls = new OrbitControls(camera, element);
  controls.enablePan = false;
  controls.addEventListener('change', changed);
  return {
    look: (bounds, person) => {
      const [x, y, z] = boxCenter(bounds);
      const [w, d, h] = boxSize(bounds);
      const [wide, tall] = person ? [w + 2 * PERSON_WIDTH, Math.max(h, PLAYER.standing)] : [w, h];
      const away = Math.hypot(wide, d, tall) * 1.95;
      controls.target.set(x + (wide - w) / 2, y, bounds.min[2] + tall / 2);
      camera.position.set(x + away * 0.42, y - away * 0.8, z + away * 0.42);
      camera.near = away / 100;
      camera.far = away * 40;
      camera.updateProjectionMatrix();
      controls.update();
      changed();
    },
    turn: (across, down) => {
      const arm = camera.position.clone().sub(controls.target);
      const steep = arm.angleTo(camera.up);
      const by = (down * NOTCH * Math.PI) / 180;
      // Not over the top, where up and down change places.
      if (steep + by > 0.1 && steep + by < Math.PI - 0.1)
        arm.applyAxisAngle(new Vector3().crossVectors(camera.up, arm).normalize(), by);
      arm.applyAxisAngle(camera.up, (across * NOTCH * Math.PI) / 180);
      camera.position.copy(controls.target).add(arm);
      controls.update();
      changed();
    },
    dispose: () => controls.dispose(),
  };
}
