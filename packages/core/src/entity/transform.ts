import { type Affine, applyAffine, arcTangent2, cosSinOf, determinant, length, type Vec3 } from '../math/index.ts';
import { eachField, type Keyframe, type ParamRecord, type ParamSpec, type ParamValue } from '../params/index.ts';
import { entityKind, modelOf } from './catalogue.ts';
import { propTurn } from './model.ts';
import type { Entity } from './types.ts';

/** A thing moved, turned, mirrored or stretched: its place, its turn, and what of its parameters lies in space. */
export function transformEntity(e: Entity, m: Affine): Entity {
  const specs = Object.entries(entityKind(e.kind)?.params ?? {});
  const params = { ...e.params };
  for (const [key, spec] of specs) if (params[key] !== undefined) params[key] = transformValue(spec, params[key], m);
  const model = modelOf(e);
  const turn = model ? turnedAboutUpright(m, model.up, e.turn) : turned(m, e.turn);
  return { ...e, at: applyAffine(m, e.at), turn, params };
}

/** The turn about its upright that a prop has after a map: found where its upright then points, of what its front then does. */
function turnedAboutUpright(m: Affine, up: Vec3, turn: number): number {
  const front = applyLinear(m, applyAffine(propTurn(up, turn, 1), [1, 0, 0]));
  const lean = propTurn(applyLinear(m, length(up) < 1e-9 ? [0, 0, 1] : up), 0, 1);
  // A turn's inverse is its transpose.
  const level = (k: 0 | 1): number => lean[k]! * front[0] + lean[4 + k]! * front[1] + lean[8 + k]! * front[2];
  return nearTurn(turn, (arcTangent2(level(1), level(0)) * 180) / Math.PI);
}

function transformValue(spec: ParamSpec, value: ParamValue, m: Affine): ParamValue {
  if (spec.type === 'list' && Array.isArray(value)) return value.map((v: ParamValue) => transformValue(spec.of, v, m));
  if (spec.type === 'record') return eachField(spec, value as ParamRecord, (of, v) => transformValue(of, v, m));
  if (spec.type === 'keyframes')
    return (value as readonly Keyframe[]).map((key) => ({
      ...key,
      move: applyLinear(m, key.move).map(tidy) as unknown as Vec3,
      turn: turnedAxis(m, key.turn, length(key.turn)),
    }));
  if (spec.type !== 'vector') return value;
  const v = value as Vec3;
  if (spec.means === 'axis') return turnedAxis(m, v, length(v));
  return (spec.means === 'place' ? applyAffine(m, v) : applyLinear(m, v)).map(tidy);
}

/** Where a direction points after a map: its shift does not count. */
const applyLinear = (m: Affine, v: Vec3): Vec3 =>
  applyAffine([m[0], m[1], m[2], 0, m[4], m[5], m[6], 0, m[8], m[9], m[10], 0], v);

/** What is turned about, after a map, of some length: a mirror image turns the other way round. */
function turnedAxis(m: Affine, v: Vec3, long: number): Vec3 {
  const way = applyLinear(m, v);
  const l = length(way);
  if (l < 1e-9) return [0, 0, 0];
  const k = (determinant(m) < 0 ? -long : long) / l;
  return [tidy(way[0] * k), tidy(way[1] * k), tidy(way[2] * k)];
}

/** Rounded off by what turning to and fro adds. */
const tidy = (x: number): number => Math.round(x * 1e9) / 1e9 + 0;

/** The turn after a map: where the facing tick then points. */
function turned(m: Affine, turn: number): number {
  const r = (turn * Math.PI) / 180;
  const [x, y] = cosSinOf(r);
  return nearTurn(turn, (arcTangent2(m[4] * x + m[5] * y, m[0] * x + m[1] * y) * 180) / Math.PI);
}

/** An angle from 0 to 360, the one that it was where only rounding tells them apart. */
function nearTurn(turn: number, angle: number): number {
  const near = Math.round(angle * 1e9) / 1e9;
  return Math.abs(near - turn) < 1e-6 || Math.abs(Math.abs(near - turn) - 360) < 1e-6 ? turn : (near + 360) % 360;
}
