import { cross, length, normalize, sub, type Vec3 } from '@yesca/core';
import sharp from 'sharp';

const EDGE = 128;
/** Drawn so many times as large, and then made smaller: its edges are smooth. */
const FINER = 3;

/** From where a prop is seen: from before it, a little to the side and above. */
const RIGHT: Vec3 = normalize([0.86, 0.5, 0]);
const BACK: Vec3 = normalize([-0.42, 0.72, -0.55]);
const UP: Vec3 = cross(BACK, RIGHT).map((c) => -c) as unknown as Vec3;
const LIGHT: Vec3 = normalize([0.25, -0.6, 0.85]);

const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Triangles of one colour: corners in cm, z up; red, green and blue in sRGB, 0 to 255. */
export interface PlainPart {
  readonly rgb: readonly number[];
  readonly position: ArrayLike<number>;
}

/** A small picture of a prop on nothing, in plain colours, as WebP. */
export async function thumbOf(parts: readonly PlainPart[]): Promise<Uint8Array> {
  const size = EDGE * FINER;
  const color = new Uint8Array(size * size * 4);
  const depth = new Float32Array(size * size).fill(Infinity);
  const drawn = parts.map(({ rgb, position }) => {
    const seen: Vec3[] = [];
    const real: Vec3[] = [];
    for (let k = 0; k < position.length; k += 3) {
      const p: Vec3 = [position[k]!, position[k + 1]!, position[k + 2]!];
      real.push(p);
      seen.push([dot(p, RIGHT), dot(p, UP), dot(p, BACK)]);
    }
    return { rgb, seen, real };
  });
  const all = drawn.flatMap((p) => p.seen);
  const [x0, x1] = [Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
  const [y0, y1] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
  const scale = (0.9 * size) / Math.max(x1 - x0, y1 - y0);
  const toX = (x: number): number => size / 2 + (x - (x0 + x1) / 2) * scale;
  const toY = (y: number): number => size / 2 - (y - (y0 + y1) / 2) * scale;
  for (const { rgb, seen, real } of drawn)
    for (let k = 0; k < seen.length; k += 3) {
      const normal = cross(sub(real[k + 1]!, real[k]!), sub(real[k + 2]!, real[k]!));
      if (length(normal) < 1e-9 || dot(normal, BACK) > 0) continue;
      const shade = 0.55 + 0.45 * Math.max(0, dot(normalize(normal), LIGHT));
      const [a, b, c] = [seen[k]!, seen[k + 1]!, seen[k + 2]!].map((p): Vec3 => [toX(p[0]), toY(p[1]), p[2]]) as [
        Vec3,
        Vec3,
        Vec3,
      ];
      const area = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
      if (Math.abs(area) < 1e-9) continue;
      const low = Math.max(0, Math.floor(Math.min(a[1], b[1], c[1])));
      const high = Math.min(size - 1, Math.ceil(Math.max(a[1], b[1], c[1])));
      const left = Math.max(0, Math.floor(Math.min(a[0], b[0], c[0])));
      const right = Math.min(size - 1, Math.ceil(Math.max(a[0], b[0], c[0])));
      for (let y = low; y <= high; y++)
        for (let x = left; x <= right; x++) {
          const u = ((b[0] - x) * (c[1] - y) - (b[1] - y) * (c[0] - x)) / area;
          const v = ((c[0] - x) * (a[1] - y) - (c[1] - y) * (a[0] - x)) / area;
          const w = 1 - u - v;
          if (u < 0 || v < 0 || w < 0) continue;
          const far = u * a[2] + v * b[2] + w * c[2];
          const at = y * size + x;
          if (far >= depth[at]!) continue;
          depth[at] = far;
          rgb.forEach((part, n) => (color[at * 4 + n] = Math.min(255, part * shade)));
          color[at * 4 + 3] = 255;
        }
    }
  const picture = sharp(color, { raw: { width: size, height: size, channels: 4 } }).resize(EDGE, EDGE);
  return new Uint8Array(await picture.webp({ quality: 84 }).toBuffer());
}
