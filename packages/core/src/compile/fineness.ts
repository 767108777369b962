export const PRESETS = {
  sketch: { luxel: 32, samples: 1, links: 36, cheap: true },
  review: { luxel: 16, samples: 2, links: 64, cheap: false },
  final: { luxel: 8, samples: 4, links: 64, cheap: false },
} as const;
export type Preset = keyof typeof PRESETS;

/** How fine a build is: a preset, or a glimpse of or a glance at the light while the map is worked on. */
export const FINENESS = {
  ...PRESETS,
  glimpse: { luxel: 64, samples: 1, links: 0, cheap: true, quick: true, guess: true },
  glance: { luxel: 32, samples: 1, links: 16, cheap: false, quick: true },
} as const;
export type Fineness = keyof typeof FINENESS;
