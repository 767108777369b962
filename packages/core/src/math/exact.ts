/**
 * Sine, cosine, arc tangent and length from additions, multiplications, divisions and square roots alone, which IEEE 754 rounds
 * alike everywhere: those of `Math` differ in their last bits from one engine to the next, and then a replay goes another way in the
 * browser than on the server. Polynomials and reductions are those of fdlibm (Sun Microsystems, 1993: k_sin, k_cos, s_atan, e_atan2,
 * e_rem_pio2), off by less than one unit in the last place.
 */

/** π/2 in two parts: the first has 33 bits, so that few turns of it are exact. */
const QUARTER = 1.57079632673412561417;
const QUARTER_REST = 6.07710050650619224932e-11;

/** Of an angle within an eighth of a turn, given as a sum. */
function sineNear(x: number, rest: number): number {
  const z = x * x;
  const v = z * x;
  const r =
    8.33333333332248946124e-3 +
    z *
      (-1.98412698298579493134e-4 +
        z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  return x - (z * (0.5 * rest - v * r) - rest - v * -1.66666666666666324348e-1);
}

function cosineNear(x: number, rest: number): number {
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z *
            (2.48015872894767294178e-5 +
              z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  const half = 0.5 * z;
  const w = 1 - half;
  return w + (1 - w - half + (z * r - x * rest));
}

/** Cosine and sine of an angle in radians, of up to some thousand turns. */
export function cosSinOf(radians: number): [cosine: number, sine: number] {
  const n = Math.round(radians / (Math.PI / 2));
  const near = radians - n * QUARTER;
  const less = n * QUARTER_REST;
  const x = near - less;
  const rest = near - x - less;
  const [c, s] = [cosineNear(x, rest), sineNear(x, rest)];
  switch (((n % 4) + 4) % 4) {
    case 0:
      return [c, s];
    case 1:
      return [-s, c];
    case 2:
      return [-c, -s];
    default:
      return [s, -c];
  }
}

/** Arc tangents of 1/2, 1, 3/2 and ∞, each in two parts. */
const ARCS = [
  [4.63647609000806093515e-1, 2.26987774529616870924e-17],
  [7.85398163397448278999e-1, 3.06161699786838301793e-17],
  [9.82793723247329054082e-1, 1.39033110312309984516e-17],
  [1.570796326794896558, 6.12323399573676603587e-17],
] as const;

function arcTangent(value: number): number {
  const size = Math.abs(value);
  if (size >= 2 ** 66) return value > 0 ? Math.PI / 2 : -Math.PI / 2;
  const id = size < 0.4375 ? -1 : size < 0.6875 ? 0 : size < 1.1875 ? 1 : size < 2.4375 ? 2 : 3;
  const x =
    id < 0
      ? value
      : id === 0
        ? (2 * size - 1) / (2 + size)
        : id === 1
          ? (size - 1) / (size + 1)
          : id === 2
            ? (size - 1.5) / (1 + 1.5 * size)
            : -1 / size;
  const z = x * x;
  const w = z * z;
  const odd =
    z *
    (3.33333333333329318027e-1 +
      w *
        (1.42857142725034663711e-1 +
          w *
            (9.09088713343650656196e-2 +
              w * (6.66107313738753120669e-2 + w * (4.97687799461593236017e-2 + w * 1.62858201153657823623e-2)))));
  const even =
    w *
    (-1.99999999998764832476e-1 +
      w *
        (-1.1111110405462355788e-1 +
          w * (-7.69187620504482999495e-2 + w * (-5.83357013379057348645e-2 + w * -3.6531572744216915527e-2))));
  if (id < 0) return x - x * (odd + even);
  const [high, low] = ARCS[id as 0 | 1 | 2 | 3];
  const arc = high - (x * (odd + even) - low - x);
  return value < 0 ? -arc : arc;
}

/** What π is more than its nearest double. */
const PI_REST = 1.2246467991473532e-16;

/** The angle of a point from the first axis towards the second, in radians, above −π up to π; 0 at the origin. */
export function arcTangent2(y: number, x: number): number {
  if (x === 0 && y === 0) return 0;
  if (x === 0) return y > 0 ? Math.PI / 2 : -Math.PI / 2;
  if (y === 0) return x > 0 ? y : Math.PI;
  const arc = arcTangent(Math.abs(y / x));
  const upper = x > 0 ? arc : Math.PI - (arc - PI_REST);
  return y < 0 ? -upper : upper;
}

/** The length of a way with some legs. */
export const hypot = (x: number, y: number, z = 0): number => Math.sqrt(x * x + y * y + z * z);

export const cosine = (radians: number): number => cosSinOf(radians)[0];
export const tangent = (radians: number): number => {
  const [c, s] = cosSinOf(radians);
  return s / c;
};
