/** Sentences that the live checks, the command line and a build share, so that one trouble is told in one way. */
export const SENTENCES = {
  noSpawn: 'There is no spawn, so nobody can play the map. Place one: tool Place, then Spawn.',
  noLight: 'There is no light: only the even ambient light will show. Place a point light or a sun.',
  leak: (from: string): string =>
    `The map leaks: from ${from} one can reach the void. Follow the trail to the hole and close it. Till then nothing is culled.`,
  anotherLeak: (which: number): string =>
    `The map leaks through another hole, the ${which === 2 ? 'second' : `${which}th`.replace('3th', '3rd')}. Close it as well.`,
  misplaced: (what: string, where: 'solid' | 'void'): string =>
    `${what} stands ${where === 'solid' ? 'inside a solid' : 'in the void outside the map'}. Move it into a room.`,
} as const;
