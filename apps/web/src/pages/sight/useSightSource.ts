import { useEffect, useState } from 'react';
import { Cancelled, readLevel, type Sight } from '@yesca/core';
import { getFile } from '../../api/client.ts';
import { useEditor } from '../../state/editor.ts';
import { notify, notifyError } from '../../state/notify.ts';
import { useBuilds } from '../../state/remote.ts';
import { useSight, useSightOptions } from '../../state/sight.ts';
import { Mirror } from '../../workers/mirror.ts';
import { SIGHT } from '../../workers/sight.ts';
import { openSightWorker } from './open-worker.ts';

/** Quiet time after an edit before sight is worked out anew, ms. */
const DELAY = 400;

export type SightSource =
  | { readonly state: 'working'; readonly done: number }
  | { readonly state: 'shown' }
  /** The map leaks, or nothing stands in it; or it was never built. */
  | { readonly state: 'open' }
  | { readonly state: 'unbuilt' }
  | { readonly state: 'old' };

const WORKING: SightSource = { state: 'working', done: 0 };

/** Fills the page's sight: from the last build that is done, or from the map as it is now. */
export function useSightSource(mapId: string): SightSource {
  const live = useSightOptions((s) => s.live);
  const [state, setState] = useState<SightSource>(WORKING);
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
        // A build of before cells had figures.
        if (!level.cellPlaneFirst) return tell({ state: 'old' });
        if (!level.meta.sealed || level.pvsWords.length === 0) {
          useSight.setState({ sight: null });
          return tell({ state: 'open' });
        }
        show(level);
        tell({ state: 'shown' });
      })
      .catch((error: unknown) => {
        if (stop.signal.aborted) return;
        // A level of another version cannot be read: a new build can.
        if ((error as { code?: string }).code?.startsWith('level.')) tell({ state: 'old' });
        else notifyError(error);
      });
    return () => stop.abort();
  }, [live, last]);
  useEffect(() => {
    if (!live) return;
    const mirror = new Mirror(
      openSightWorker,
      (again) => again || notify('The helper that works out sight stopped. Reload the page; nothing is lost.', 'sight'),
    );
    let timer: ReturnType<typeof setTimeout> | undefined;
    let running: AbortController | null = null;
    const ask = () => {
      running?.abort();
      const control = (running = new AbortController());
      const { doc, mapId } = useEditor.getState();
      if (!mapId) return;
      setState({ state: 'working', done: 0 });
      mirror
        .ask<null, Sight | null>(SIGHT, { mapId, doc }, null, {
          signal: control.signal,
          progress: (done) => setState({ state: 'working', done }),
        })
        .then((sight) => {
          if (sight) show(sight);
          else useSight.setState({ sight: null });
          setState({ state: sight ? 'shown' : 'open' });
        })
        .catch((error: unknown) => error instanceof Cancelled || control.signal.aborted || notifyError(error));
    };
    const stop = useEditor.subscribe((now, before) => {
      if (now.doc === before.doc) return;
      clearTimeout(timer);
      timer = setTimeout(ask, DELAY);
    });
    ask();
    return () => {
      stop();
      clearTimeout(timer);
      running?.abort();
      mirror.end();
    };
  }, [live]);
  if (live) return state;
  if (builds && !last) return { state: 'unbuilt' };
  return ofBuild && ofBuild.build === last ? ofBuild.source : WORKING;
}

const show = (sight: Sight) => useSight.setState({ sight, hovered: -1, line: null });
