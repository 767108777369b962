import { useEffect, useReducer } from 'react';
import type { StoreApi } from 'zustand';

/** What is watched for changes. */
export type Watched = Pick<StoreApi<unknown>, 'subscribe'>;

/** Draws anew when one of some stores changes; gives how often that was. */
export function useWatched(watch: readonly Watched[]): number {
  const [times, again] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    const stops = watch.map((store) => store.subscribe(again));
    return () => stops.forEach((stop) => stop());
  }, [watch]);
  return times;
}
