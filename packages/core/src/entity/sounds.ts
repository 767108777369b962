/** The sounds that ship, by name, and how each is called. `packages/stock` makes them. */
export const SOUNDS = {
  hinge: 'Hinge',
  winch: 'Winch',
  slide: 'Sliding board',
  latch: 'Latch',
  bolt: 'Bolt',
  thud: 'Thud',
  denied: 'Denied',
  pickup: 'Pickup',
  tokens: 'Tokens',
  water: 'Water running',
  splash: 'Splash',
  wheel: 'Mill wheel',
  wind: 'Wind in reeds',
  stepStone: 'Step on stone',
  stepWood: 'Step on wood',
  stepMetal: 'Step on metal',
  stepEarth: 'Step on earth',
  stepWater: 'Step in water',
  breakWood: 'Wood breaks',
  breakGlass: 'Glass breaks',
  breakStone: 'Stone breaks',
  shimmer: 'Shimmer',
} as const;

export type SoundName = keyof typeof SOUNDS;

/** A sound that goes on while something is the case: how far it is heard, cm, and how loud at its place, 0 to 1. */
export interface Hum {
  readonly sound: string;
  readonly reach: number;
  readonly volume: number;
}
