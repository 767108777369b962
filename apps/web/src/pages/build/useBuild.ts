import { useCallback, useEffect, useRef, useState } from 'react';
import type { BuildRow } from '@yesca/contract';
import { writeMap, type Preset } from '@yesca/core';
import { api } from '../../api/client.ts';
import { useBuilds } from '../../state/remote.ts';
import { notifyError } from '../../state/notify.ts';
import { useEditor } from '../../state/editor.ts';
import { useCurrent } from '../../state/current.ts';

export const isRunning = (row: BuildRow | null): boolean => row?.status === 'waiting' || row?.status === 'running';

/** The builds of a map, and the one that is going on, followed by server-sent events. */
export function useBuild(mapId: string) {
  const { data: builds, mutate } = useBuilds(mapId);
  const [live, setLive] = useState<BuildRow | null>(null);
  const source = useRef<EventSource | null>(null);

  const follow = useCallback(
    (row: BuildRow) => {
      setLive(row);
      if (!isRunning(row)) return;
      source.current?.close();
      const events = new EventSource(`/api/builds/${row.id}/events`);
      source.current = events;
      events.onmessage = (event) => {
        const now = JSON.parse(event.data as string) as BuildRow;
        setLive(now);
        if (isRunning(now)) return;
        events.close();
        void mutate();
        useEditor
          .getState()
          .set({ trail: now.report?.leak?.trail ?? useEditor.getState().sealing.leak?.trail ?? null });
      };
    },
    [mutate],
  );
  // A build that was started before this page was opened is followed too.
  useEffect(() => {
    const running = builds?.find(isRunning);
    if (running && !source.current) follow(running);
  }, [builds, follow]);
  useEffect(() => () => source.current?.close(), []);

  const start = useCallback(
    async (preset: Preset): Promise<string | null> => {
      useCurrent.setState({ preset });
      try {
        const row = await api<BuildRow>('POST', '/api/builds', {
          mapId,
          preset,
          document: writeMap(useEditor.getState().doc),
        });
        follow(row);
        return row.id;
      } catch (error) {
        notifyError(error);
        return null;
      }
    },
    [mapId, follow],
  );
  const cancel = useCallback(async (id: string) => {
    try {
      await api('DELETE', `/api/builds/${id}`);
    } catch (error) {
      notifyError(error);
    }
  }, []);
  return { builds, live: live ?? builds?.[0] ?? null, start, cancel };
}
