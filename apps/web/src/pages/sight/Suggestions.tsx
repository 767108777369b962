import { Button, Group, Progress, Text, Tooltip } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { call, Cancelled, type Box, type MapDocument, type Suggestion } from '@yesca/core';
import { reveal } from '../../commands/viewing.ts';
import { useEditor } from '../../state/editor.ts';
import { sightKnowledge } from '../../state/library.ts';
import { notify, notifyError } from '../../state/notify.ts';
import { useSight } from '../../state/sight.ts';
import { Mirror } from '../../workers/mirror.ts';
import { SUGGESTIONS, type SightKnowledge } from '../../workers/sight.ts';
import { number, roomNameAt } from './words.ts';
import { openSightWorker } from '../../state/sighting.ts';

type State =
  | { readonly state: 'idle' }
  | { readonly state: 'working'; readonly done: number }
  | { readonly state: 'done'; readonly doc: MapDocument; readonly found: readonly Suggestion[] | null };

/** Of what was found so many are listed. */
const LISTED = 8;

/** What would make the map cheaper, tried by computation; accepting one places it as one step. */
export function Suggestions() {
  const [now, setNow] = useState<State>({ state: 'idle' });
  const doc = useEditor((s) => s.doc);
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);
  const look = async () => {
    running.current?.abort();
    const control = (running.current = new AbortController());
    const { doc, mapId } = useEditor.getState();
    if (!mapId) return;
    const mirror = new Mirror(
      openSightWorker,
      (again) => again || notify('The search stopped. Try it again.', 'sight'),
    );
    // Ended, a thread stops in the middle of what it does.
    control.signal.addEventListener('abort', () => mirror.end());
    setNow({ state: 'working', done: 0 });
    try {
      const found = await mirror.ask<SightKnowledge, Suggestion[] | null>(
        SUGGESTIONS,
        { mapId, doc },
        sightKnowledge(doc),
        { signal: control.signal, progress: (done) => control.signal.aborted || setNow({ state: 'working', done }) },
      );
      setNow({ state: 'done', doc, found });
    } catch (error) {
      if (error instanceof Cancelled || control.signal.aborted) return;
      setNow({ state: 'idle' });
      notifyError(error);
    } finally {
      mirror.end();
    }
  };
  const cancel = () => {
    running.current?.abort();
    setNow({ state: 'idle' });
  };
  const accept = ({ what }: Suggestion) => {
    useSight.setState({ proposal: null });
    setNow({ state: 'idle' });
    useEditor
      .getState()
      .run(
        'gate' in what
          ? call('opening.gate', { opening: what.gate })
          : call('brush.draw', { shape: { kind: 'box', box: what.hint, params: {} }, material: 'clear', role: 'hint' }),
      );
  };
  const old = now.state === 'done' && now.doc !== doc;
  return (
    <section data-testid="sight-suggestions" data-state={now.state}>
      <h3 className="panel-title">What would help</h3>
      {now.state === 'working' ? (
        <Group gap={8} wrap="nowrap">
          <Progress
            flex={1}
            value={Math.max(3, now.done * 100)}
            size={6}
            radius={1}
            color="var(--indigo)"
            aria-label="Trying hints and gates"
          />
          <Button size="compact-xs" variant="default" onClick={cancel}>
            Cancel
          </Button>
        </Group>
      ) : (
        <Group gap={8}>
          <Tooltip label="Tries hints across the costliest cells and gates in openings with doors, each by itself, on the map as it is now">
            <Button size="compact-xs" variant="default" onClick={() => void look()}>
              {now.state === 'done' ? 'Look again' : 'Try hints and gates'}
            </Button>
          </Tooltip>
          {old && (
            <Text size="xs" className="quiet">
              The map has changed since.
            </Text>
          )}
        </Group>
      )}
      {now.state === 'done' && now.found === null && (
        <Text size="xs">The map is open, so nothing would help yet. Close it first.</Text>
      )}
      {now.state === 'done' && now.found?.length === 0 && (
        <Text size="xs">Nothing that was tried saves as much as a hundredth of what is drawn.</Text>
      )}
      {now.state === 'done' &&
        now.found?.slice(0, LISTED).map((s, i) => (
          <div
            key={i}
            className="sight-suggestion"
            onMouseEnter={() => useSight.setState({ proposal: boxOfIt(s) })}
            onMouseLeave={() => useSight.setState({ proposal: null })}
          >
            <span>{nameOf(doc, s)}</span>
            <span className="mono">
              {number(s.before)} → {number(s.after)}
            </span>
            <Tooltip label="Places it, as one step; triangles drawn on average over the map stand before it">
              <Button
                size="compact-xs"
                variant="default"
                disabled={old}
                onFocus={() => {
                  const box = boxOfIt(s);
                  useSight.setState({ proposal: box });
                  reveal(box);
                }}
                onBlur={() => useSight.setState({ proposal: null })}
                onClick={() => accept(s)}
              >
                Place it
              </Button>
            </Tooltip>
          </div>
        ))}
    </section>
  );
}

/** Where it would stand. */
const boxOfIt = ({ what, at }: Suggestion): Box =>
  'hint' in what ? what.hint : { min: [at[0] - 16, at[1] - 16, at[2]], max: [at[0] + 16, at[1] + 16, at[2]] };

function nameOf(doc: MapDocument, { what, at }: Suggestion): string {
  if ('gate' in what) {
    const rooms: readonly string[] = doc.openings.get(what.gate)?.rooms ?? [];
    return `Gate between ${rooms.map((id) => doc.rooms.get(id)?.name ?? 'outside').join(' and ')}`;
  }
  const { min, max } = what.hint;
  const axis = [0, 1, 2].reduce((a, b) => (max[b]! - min[b]! < max[a]! - min[a]! ? b : a));
  return `Hint across ${roomNameAt(doc.rooms, at) ?? 'the cell'}, ${['x', 'y', 'height'][axis]} ${number((min[axis]! + max[axis]!) / 2)}`;
}
