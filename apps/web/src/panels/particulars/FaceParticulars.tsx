import { Button, Group, Select, SimpleGrid, Text, Tooltip } from '@mantine/core';
import {
  brushPlanes, faceFrame, readFrame, setFrames, setShow, turnFrame, worldFrame, writeFrame, type FaceRef, type FrameNumbers, type MapDocument, type Plane, type TextureFrame,
} from '@yesca/core'; // prettier-ignore
import { LengthField } from '../../fields/LengthField.tsx';
import { MaterialSwatch } from '../MaterialSwatch.tsx';
import { run, Section } from './shared.tsx';

/** One value when all agree, otherwise null. */
const shared = <T,>(values: readonly T[], same: (a: T, b: T) => boolean = Object.is): T | null =>
  values.every((v) => same(v, values[0]!)) ? (values[0] ?? null) : null;
const close = (a: number, b: number) => Math.abs(a - b) < 1e-6;

export function FaceParticulars({ doc, refs }: { doc: MapDocument; refs: readonly FaceRef[] }) {
  const faces = refs.flatMap((ref) => {
    const brush = doc.brushes.get(ref.brush);
    const i = brush?.faces.findIndex((f) => f.id === ref.face) ?? -1;
    return brush && i >= 0
      ? [{ face: brush.faces[i]!, plane: brushPlanes(brush)[i]!, middle: brush.vertices[brush.faces[i]!.loop[0]!]! }]
      : [];
  });
  const numbers = faces.map(({ face, plane }) => readFrame(face.frame, plane));
  const lay = (label: string, frame: (old: TextureFrame, plane: Plane) => TextureFrame) =>
    run(label, (d) => setFrames(d, refs, (f, plane) => frame(f.frame, plane)));
  const set = (change: (n: FrameNumbers) => FrameNumbers) =>
    lay('Texture', (old, plane) => writeFrame(change(readFrame(old, plane)), plane));
  const material = shared(faces.map((f) => f.face.material));
  const show = shared(faces.map((f) => f.face.show ?? 'drawn'));
  return (
    <>
      <Section title={refs.length === 1 ? 'Face' : `${refs.length} faces`}>
        {material ? <MaterialSwatch name={material} size={72} withName /> : <Text size="xs">Several materials</Text>}
        <Select
          label="Shown as"
          value={show}
          placeholder="mixed"
          allowDeselect={false}
          data={[
            { value: 'drawn', label: 'Its material' },
            { value: 'sky', label: 'Sky – lets the sun in' },
            { value: 'unseen', label: 'Unseen – never drawn' },
          ]}
          onChange={(v) =>
            v && run('Shown as', (d) => setShow(d, refs, v === 'drawn' ? null : (v as 'sky' | 'unseen')))
          }
        />
      </Section>
      <Section title="Texture">
        <SimpleGrid cols={2} spacing={4}>
          {([0, 1] as const).map((i) => (
            <LengthField
              key={`o${i}`}
              label={i === 0 ? 'Offset across' : 'Offset down'}
              tip="How far the picture is moved, in texels"
              unit="tx"
              value={shared(
                numbers.map((n) => n.offset[i]),
                close,
              )}
              onChange={(v) => set((n) => ({ ...n, offset: i === 0 ? [v, n.offset[1]] : [n.offset[0], v] }))}
            />
          ))}
          {([0, 1] as const).map((i) => (
            <LengthField
              key={`s${i}`}
              label={i === 0 ? 'Scale across' : 'Scale down'}
              tip="Centimetres a texel covers; 0.5 is natural, negative mirrors"
              value={shared(
                numbers.map((n) => n.scale[i]),
                close,
              )}
              onChange={(v) => set((n) => ({ ...n, scale: i === 0 ? [v, n.scale[1]] : [n.scale[0], v] }))}
            />
          ))}
          <LengthField
            label="Turn"
            tip="Degrees, counter-clockwise seen from in front"
            unit="°"
            value={shared(
              numbers.map((n) => n.turn),
              close,
            )}
            onChange={(v) => set((n) => ({ ...n, turn: v }))}
          />
        </SimpleGrid>
        <Group gap={4}>
          <Tooltip label="Lay the picture straight along the world, as on flush neighbours">
            <Button variant="default" onClick={() => lay('World projection', (_, plane) => worldFrame(plane.normal))}>
              World
            </Button>
          </Tooltip>
          <Tooltip label="Lay the picture in the face's own plane, unstretched">
            <Button variant="default" onClick={() => lay('Face projection', (_, plane) => faceFrame(plane))}>
              Face
            </Button>
          </Tooltip>
          <Tooltip label="Turn the picture a quarter about the face's first corner">
            <Button
              variant="default"
              onClick={() =>
                run('Turn texture', (d) =>
                  setFrames(d, refs, (f, plane) =>
                    turnFrame(f.frame, plane, 90, faces.find((x) => x.face.id === f.id)?.middle ?? [0, 0, 0]),
                  ),
                )
              }
            >
              +90°
            </Button>
          </Tooltip>
        </Group>
      </Section>
    </>
  );
}
