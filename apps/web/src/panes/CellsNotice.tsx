import { PaneNotice } from './PaneNotice.tsx';
import { useDisplay } from '../state/display.ts';
import { eyeMemory, useEyeRequest } from '../state/eye.ts';
import { cellAt, pinCamera, useSight } from '../state/sight.ts';

/** Among cells: offers to show what is seen from where the camera is, and tells how much that is. */
export function CellsNotice() {
  const shown = useDisplay((s) => s.eyeMode === 'cells');
  const sight = useSight((s) => s.sight);
  const pin = useSight((s) => s.pin);
  if (!shown || !sight) return null;
  const cell = pin ? cellAt(sight, pin) : -1;
  const count = (n: number) => n.toLocaleString('en');
  return (
    <PaneNotice className="cells-notice" id="cells-notice">
      {pin && cell < 0 && 'The pin is outside all cells. '}
      {pin && cell >= 0 && (
        <>
          As seen from the pin: {count(sight.cellSeen[cell]!)} of {count(sight.meta.cells)} cells,{' '}
          {count(sight.cellSeenTriangles[cell]!)} of {count(sight.index.length / 3)} triangles; the rest is faded.{' '}
          <button
            type="button"
            className="link-button"
            onClick={() => useEyeRequest.getState().face(pin, eyeMemory.target)}
          >
            Look from it
          </button>{' '}
        </>
      )}
      <button type="button" className="link-button" onClick={pinCamera}>
        As seen from here
      </button>{' '}
      {pin && (
        <button type="button" className="link-button" onClick={() => useSight.setState({ pin: null, goal: null })}>
          Show all
        </button>
      )}
    </PaneNotice>
  );
}
