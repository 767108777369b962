import type { Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { surfaceUnder } from '../geometry/surface-under.ts';
import { lastPane } from '../state/last-pane.ts';
import { useCurrent } from '../state/current.ts';

/** What an address calls the spawn that a playtest begins at. */
export const FROM_SPAWN = 'from';

/** Where a playtest begins and with which build, as an address. `fresh` builds first, with the preset used last. */
export function playAddress(
  mapId: string,
  how: { fresh?: boolean; at?: Vec3; turn?: number; spawn?: string } = {},
): string {
  const search = new URLSearchParams();
  if (how.fresh) search.set('fresh', '1');
  if (how.at) search.set('at', how.at.map((c) => Math.round(c * 10) / 10).join(' '));
  if (how.turn !== undefined) search.set('turn', String(Math.round(how.turn)));
  if (how.spawn) search.set(FROM_SPAWN, how.spawn);
  return `/maps/${mapId}/play${search.size ? `?${search}` : ''}`;
}

/** The floor under the pointer of the pane that was used last. */
export function floorHere(): Vec3 | null {
  const { at, kind } = lastPane;
  if (!at) return null;
  return kind === 'section' ? at : [at[0], at[1], surfaceUnder(useEditor.getState().doc, [at[0], at[1], at[2] + 1])];
}

/** Set by the frame of a map's pages, for commands that lead to Play. */
let go: ((address: string) => void) | null = null;

/** Builds the map as it is with the preset used last, and plays it. */
export function buildAndPlay(): void {
  const { mapId } = useEditor.getState();
  // A number tells two such orders apart, so that the second builds again.
  if (mapId) go?.(`${playAddress(mapId, { fresh: true })}&go=${Date.now() % 1e6}`);
}

export function playFromHere(fresh = false): void {
  const { mapId } = useEditor.getState();
  const at = floorHere();
  if (mapId && at) go?.(playAddress(mapId, { at, fresh }));
}
export function playFrom(spawn: string): void {
  const { mapId } = useEditor.getState();
  useCurrent.setState({ playSpawn: spawn });
  if (mapId) go?.(playAddress(mapId, { spawn }));
}

/** Tells how commands get from one page to another; null when no map's pages are open. */
export function leadTo(how: ((address: string) => void) | null): void {
  go = how;
}
