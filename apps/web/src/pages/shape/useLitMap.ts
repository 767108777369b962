import { useEffect } from 'react';
import { meshesLit } from '../../scene/prop-meshes.ts';
import { useDisplay } from '../../state/display.ts';
import { useEditor } from '../../state/editor.ts';
import { keepLit } from '../../state/lighting.ts';
import { litOfBuild, useLit, useLitOptions } from '../../state/lit.ts';
import { useMeter } from '../../state/meter.ts';
import { notifyError } from '../../state/notify.ts';
import { useBuilds } from '../../state/remote.ts';

/** Whether anything on the screen asks for the light of the map. */
const useWanted = (): boolean => useDisplay((s) => s.eyeMode === 'lit');

/** Whose lights are put out for now, and whose build is shown beside: not those of another map. */
const lastMap: { id: string | null } = { id: null };

/** Sees to it that there is light to show while some is shown: that of the last build at once, and then what follows the map. */
export function useLitMap(): void {
  const wanted = useWanted();
  const mapId = useEditor((s) => s.mapId);
  const live = useLitOptions((s) => s.live);
  const { data: builds } = useBuilds(mapId ?? '');
  const last = builds?.find((b) => b.status === 'done');
  const id = last?.id;
  const preset = last?.preset;
  useEffect(() => {
    if (!wanted || !mapId || !builds) return;
    if (!id || !preset) return useLit.setState({ asked: mapId });
    // Live light that is there is newer.
    const isLive = () => live && useLit.getState().lit?.from === 'live' && useLit.getState().lit?.mapId === mapId;
    if (isLive()) return useLit.setState({ asked: mapId });
    const stop = new AbortController();
    void litOfBuild(mapId, { id, preset }, stop.signal)
      .then((lit) => !stop.signal.aborted && !isLive() && useLit.setState({ lit }))
      // A build of before there were ledgers has none to show; live light needs none.
      .catch((error: unknown) => !stop.signal.aborted && !live && notifyError(error))
      .finally(() => !stop.signal.aborted && useLit.setState({ asked: mapId }));
    return () => stop.abort();
  }, [wanted, mapId, builds, id, preset, live]);
  useEffect(() => {
    if (lastMap.id === mapId) return;
    lastMap.id = mapId;
    useLit.setState({ beside: null, alone: new Set(), out: new Set() });
    useMeter.setState({ pointed: null, held: null });
  }, [mapId]);
  const asked = useLit((s) => s.asked === mapId);
  useEffect(() => (wanted && live && asked ? keepLit(meshesLit) : undefined), [wanted, live, asked]);
}
