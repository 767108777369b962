import './drawing.css';
import { Button, Group, SegmentedControl, Text } from '@mantine/core';
import { modals } from '@mantine/modals';
import { DRAWING_OPTIONS, drawingSvg, isRefusal, type DrawingOptions } from '@yesca/core';
import { useMemo, useState } from 'react';
import { fileName, saveFile } from '../api/save-file.ts';
import { useCamera } from '../state/camera.ts';
import { useDrawingOptions } from '../state/drawing-options.ts';
import { lastPane } from '../state/last-pane.ts';
import { materialFacts, propFacts } from '../state/library.ts';
import { notify } from '../state/notify.ts';
import { shownNow } from '../state/shown.ts';
import { ParamPanel } from './params/ParamPanel.tsx';

type Kind = 'plan' | 'section';

/** Rooms are named on plans. */
const { names: _, ...OF_SECTIONS } = DRAWING_OPTIONS;

/** Asks how the Plan or the Section, as they are cut and with what they show, go into a file. */
export function openDrawing(): void {
  const id = modals.open({
    title: 'Save a drawing',
    size: 'xl',
    children: <DrawingForm first={lastPane.kind === 'section' ? 'section' : 'plan'} done={() => modals.close(id)} />,
  });
}

/** A drawing of what is shown now; what it refuses as a sentence. */
function drawingNow(kind: Kind, options: DrawingOptions) {
  const { level, cutHeight, section } = useCamera.getState();
  try {
    const of = kind === 'plan' ? { kind, height: level + cutHeight } : { kind, line: section };
    return { drawing: drawingSvg(shownNow(), of, options, propFacts, materialFacts), refused: null };
  } catch (error) {
    if (isRefusal(error)) return { drawing: null, refused: error.message };
    throw error;
  }
}

function DrawingForm({ first, done }: { first: Kind; done: () => void }) {
  const [kind, setKind] = useState(first);
  const options = useDrawingOptions((s) => s.options);
  const { drawing, refused } = useMemo(() => drawingNow(kind, options), [kind, options]);
  const picture = useMemo(() => drawing && `data:image/svg+xml,${encodeURIComponent(drawing.svg)}`, [drawing]);
  const save = () => {
    if (!drawing) return;
    const name = fileName(shownNow().name, `-${kind}.svg`);
    saveFile(name, drawing.svg, 'image/svg+xml');
    notify(`${name} is saved.`, 'save-drawing');
    done();
  };
  return (
    <form
      className="drawing"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <div className="drawing-picture">
        {picture && (
          <img src={picture} alt={kind === 'plan' ? 'The Plan as it is saved' : 'The Section as it is saved'} />
        )}
        {refused && <Text size="sm">{refused}</Text>}
      </div>
      <div className="drawing-options">
        <SegmentedControl
          fullWidth
          aria-label="What is drawn"
          value={kind}
          onChange={(value) => setKind(value as Kind)}
          data={[
            { value: 'plan', label: 'Plan' },
            { value: 'section', label: 'Section' },
          ]}
        />
        <ParamPanel
          specs={kind === 'plan' ? DRAWING_OPTIONS : OF_SECTIONS}
          values={[options]}
          onChange={(key, value) => useDrawingOptions.setState({ options: { ...options, [key]: value } })}
        />
        <Text size="xs" className="quiet">
          {drawing
            ? `Takes ${Math.ceil(drawing.width)} × ${Math.ceil(drawing.height)} mm of paper. Cut where the ${kind === 'plan' ? 'Plan' : 'Section'} is cut now; what is hidden is left out.`
            : ' '}
        </Text>
        <Group justify="flex-end" gap={8} mt="auto">
          <Button variant="default" onClick={done}>
            Leave it
          </Button>
          <Button className="act" type="submit" data-autofocus disabled={!drawing}>
            Save as SVG
          </Button>
        </Group>
      </div>
    </form>
  );
}
