import type { EntityKind } from './types.ts';

export const spawn: EntityKind = {
  kind: 'spawn',
  label: 'Spawn',
  tip: 'Where a player begins. The tick shows where they look.',
  standsAt: 0,
  mustBeInside: true,
  params: {},
};
