import { scale, type Vec3 } from '../math/index.ts';
import { params, type NumberParam } from '../params/index.ts';

/** The strength of a lamp. */
export const strength = (initial: number): NumberParam =>
  params.quantity('cd', initial, {
    label: 'Strength',
    help: 'Luminous intensity in candela: a candle is 1, a bright lamp 300',
    min: 0,
    max: 1_000_000,
  });

export const tinted = (tint: readonly [number, number, number], amount: number): Vec3 => scale(tint, amount);

/** The distance (cm) at which a lamp gives 5 lux, the light of a dim corridor: drawn as its reach. */
export const dimReach = (candela: number): number => Math.sqrt(Math.max(0, candela) / 5) * 100;
