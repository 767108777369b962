import { useEffect, useState } from 'react';
import { readLevel } from '@yesca/core';
import { getFile } from '../../api/client.ts';
import { notifyError } from '../../state/notify.ts';
import { useBuilds } from '../../state/remote.ts';
import { useSightOptions } from '../../state/sight.ts';
import { keepSight, showSight, type Sighting } from '../../state/sighting.ts';

/** Also: the map was never built, or last by a version that knew nothing of cells. */
export type SightSource = Sighting | { readonly state: 'unbuilt' | 'old' };

const WORKING: SightSource = { state: 'working', done: 0 };

/** Fills the page's sight: from the last build that is done, or from the map as it is now. */
export function useSightSource(mapId: string): SightSource {
  const live = useSightOptions((s) => s.live);
  const [ofMap, setOfMap] = useState<SightSource>(WORKING);
  /** What is known of a build. */
  const [ofBuild, setOfBuild] = useState<{ build: string; source: SightSource } | null>(null);
  const { data: builds } = useBuilds(mapId);
  const last = builds?.find((b) => b.status === 'done')?.id ?? null;
  useEffect(() => {
    if (live || !last) return;
    const stop = new AbortController();
    const tell = (source: SightSource) => setOfBuild({ build: last, source });
    getFile(`/api/builds/${last}/level`, stop.signal)
      .then((bytes) => {
        const level = readLevel(bytes);
        if (!level.cellPlaneFirst) return tell({ state: 'old' });
        const open = !level.meta.sealed || level.pvsWords.length === 0;
        showSight(open ? null : level);
        tell({ state: open ? 'open' : 'shown' });
      })
      .catch((error: unknown) => {
        if (stop.signal.aborted) return;
        // A level of another version cannot be read: a new build can.
        if ((error as { code?: string }).code?.startsWith('level.')) tell({ state: 'old' });
        else notifyError(error);
      });
    return () => stop.abort();
  }, [live, last]);
  useEffect(() => (live ? keepSight(setOfMap) : undefined), [live]);
  if (live) return ofMap;
  if (builds && !last) return { state: 'unbuilt' };
  return ofBuild && ofBuild.build === last ? ofBuild.source : WORKING;
}
