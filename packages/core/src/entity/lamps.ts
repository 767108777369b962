import { scale, type Vec3 } from '../math/index.ts';
import { params, type NumberParam } from '../params/index.ts';
import { HEAT, heatTint, lightTint } from '../surface/index.ts';

/** The strength of a lamp. */
export const strength = (initial: number): NumberParam =>
  params.quantity('cd', initial, {
    label: 'Strength',
    help: 'Luminous intensity in candela: a candle is 1, a bright lamp 300',
    min: 0,
    max: 1_000_000,
  });

/** What colour light has: its own, or that of heat. */
export const coloured = (initial: string, help: string) => ({
  color: params.color(initial, { label: 'Colour', help }),
  kelvin: params.quantity('K', 0, {
    label: 'Temperature',
    help: 'The colour of heat in place of the one above, from 1700 K: a candle 1900, an oil lamp 2200, a filament 2700, noon 5500, shade 7500; 0 for the one above',
    min: 0,
    max: HEAT.max,
  }),
});

/** The colour of light that has {@link coloured} parameters. */
export const tintOf = ({
  color,
  kelvin,
}: {
  readonly color: string;
  readonly kelvin: number;
}): [number, number, number] => (kelvin > 0 ? heatTint(kelvin) : lightTint(color));

/** How large what shines is. */
export const size: NumberParam = params.length(0, {
  label: 'Size',
  help: 'Width of what shines: the larger it is, the softer are shadows; 0 for sharp ones',
  min: 0,
  max: 400,
});

/** Where the light of a lamp comes to an end. */
export const ends: NumberParam = params.length(0, {
  label: 'Ends at',
  help: 'How far its light goes, in cm: it is the true one for half of the way and then fades to nothing; 0 for no end',
  min: 0,
  max: 100_000,
});

/** What a {@link LightSource} has of {@link size} and {@link ends}. */
export const extent = ({ size, ends }: { readonly size: number; readonly ends: number }) => ({
  ...(size > 0 && { radius: size / 2 }),
  ...(ends > 0 && { end: ends }),
});

export const tinted = (tint: readonly [number, number, number], amount: number): Vec3 => scale(tint, amount);

/** The distance (cm) at which a lamp gives 5 lux, the light of a dim corridor: drawn as its reach. */
export function dimReach({ candela, ends }: { readonly candela: number; readonly ends: number }): number {
  const reach = Math.sqrt(Math.max(0, candela) / 5) * 100;
  return ends > 0 ? Math.min(reach, ends) : reach;
}
