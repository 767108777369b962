import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { buildAndPlay, leadTo, playFromHere } from '../commands/playing.ts';

/** Ctrl B builds and plays, on every page of a map. */
export function usePlayKey(mapId: string): void {
  const navigate = useNavigate();
  useEffect(() => {
    leadTo((address) => void navigate(address));
    const key = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.key.toLowerCase() !== 'b') return;
      event.preventDefault();
      event.stopPropagation();
      if (event.shiftKey) playFromHere(true);
      else buildAndPlay();
    };
    window.addEventListener('keydown', key, true);
    return () => {
      leadTo(null);
      window.removeEventListener('keydown', key, true);
    };
  }, [mapId, navigate]);
}
