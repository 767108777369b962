import { distance, lerp, normalize, sub, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { useEyeRequest } from '../state/eye.ts';
import { notify } from '../state/notify.ts';

/** How fast the camera flies, cm a second, and how far ahead it looks, cm. */
const SPEED = 450;
const AHEAD = 160;

const flight: { frame: number } = { frame: 0 };

/** Where a way is after so many centimetres. */
export function alongWay(way: readonly Vec3[], far: number): Vec3 {
  let left = far;
  for (let i = 1; i < way.length; i++) {
    const [a, b] = [way[i - 1]!, way[i]!];
    const step = distance(a, b);
    if (left <= step) return lerp(a, b, step > 0 ? left / step : 0);
    left -= step;
  }
  return way.at(-1)!;
}

/** The Eye's camera flies along a way to its end, looking ahead. Any key, press or wheel ends it where it is. */
export function flyAlong(way: readonly Vec3[]): void {
  cancelAnimationFrame(flight.frame);
  if (way.length < 2) return;
  const long = way.slice(1).reduce((n, p, i) => n + distance(way[i]!, p), 0);
  const show = (far: number) => {
    const at = alongWay(way, far);
    // At the end it goes on looking as it came.
    const [from, to] = far + 1 < long ? [at, alongWay(way, far + AHEAD)] : [way.at(-2)!, way.at(-1)!];
    useEyeRequest.getState().face(at, normalize(sub(to, from)));
  };
  // Who wants no movement is there at once.
  if (matchMedia('(prefers-reduced-motion: reduce)').matches) return show(long);
  const began = performance.now();
  const over = () => cancelAnimationFrame(flight.frame);
  const stop = new AbortController();
  for (const event of ['keydown', 'pointerdown', 'wheel'])
    window.addEventListener(event, () => (over(), stop.abort()), { once: true, capture: true, signal: stop.signal });
  const fly = (now: number) => {
    const far = Math.max(0, ((now - began) / 1000) * SPEED);
    show(Math.min(far, long));
    if (far < long) flight.frame = requestAnimationFrame(fly);
    else stop.abort();
  };
  flight.frame = requestAnimationFrame(fly);
}

/** Flies along the trail of the leak, from the thing to the hole and out. */
export function followTrail(trail = useEditor.getState().sealing.leak?.trail): void {
  if (trail) flyAlong(trail);
  else notify('The map does not leak: there is no trail to follow.', 'leak');
}
