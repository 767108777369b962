import { SimpleGrid, Stack } from '@mantine/core';
import { call, idsOf, type Box, type Call } from '@yesca/core';
import { LengthField } from '../../fields/LengthField.tsx';
import { useEditor } from '../../state/editor.ts';
import { pickedIds, type Selection } from '../../state/selection.ts';
import { movedPicked } from '../../state/moved.ts';
import { useWork } from '../../state/work.ts';

/** Does a command as one undoable step. */
export const run = (call: Call): void => void useEditor.getState().run(call);

export function Section({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="particulars-section">
      <h3 className="panel-title">{title}</h3>
      <Stack gap={6}>{children}</Stack>
    </section>
  );
}

/** Where the selection's low corner is, and how large it is. */
export function PlaceAndSize({ box, selection, rooms }: { box: Box; selection: Selection; rooms: boolean }) {
  const carry = useWork((s) => s.carry);
  const axes = ['X', 'Y', 'Z'] as const;
  const tips = ['east', 'north', 'up'] as const;
  const move = (axis: number, to: number) => {
    const by: [number, number, number] = [0, 0, 0];
    by[axis] = to - box.min[axis]!;
    run(call('pick.move', { picked: idsOf(movedPicked(useEditor.getState().doc, selection)), by, carry }));
  };
  const resize = (axis: number, size: number) => {
    const max: [number, number, number] = [...box.max];
    max[axis] = box.min[axis]! + size;
    run(call('pick.resize', { picked: pickedIds(selection), to: { min: box.min, max }, carry }));
  };
  return (
    <>
      <SimpleGrid cols={3} spacing={4}>
        {axes.map((a, i) => (
          <LengthField
            key={a}
            label={a}
            tip={`Low corner, towards ${tips[i]}`}
            value={box.min[i]!}
            onChange={(v) => move(i, v)}
          />
        ))}
        {(['Width', 'Depth', 'Height'] as const).map((name, i) => (
          <LengthField
            key={name}
            label={name}
            tip={rooms ? `Clear ${name.toLowerCase()} inside the walls` : `Size along ${axes[i]}`}
            value={box.max[i]! - box.min[i]!}
            onChange={(v) => resize(i, v)}
          />
        ))}
      </SimpleGrid>
    </>
  );
}
