import { Button, Group, SimpleGrid, Text, Tooltip } from '@mantine/core';
import { call, decalOf, decalTurn, length, type CommandArgs, type Entity } from '@yesca/core';
import { DECAL_TAG } from '@yesca/stock';
import { turnPatches } from '../../commands/decals.ts';
import { commandById } from '../../palette/commands.ts';
import { keysOf } from '../../palette/keys.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { selectOnly, type Thing } from '../../state/selection.ts';
import { useEditor } from '../../state/editor.ts';
import { PictureField } from './PictureField.tsx';
import { run } from './shared.tsx';

const SIDES = [
  ['across', 'width', 'Width', 'Along its picture from left to right'],
  ['upward', 'height', 'Height', 'Along its picture from foot to top'],
  ['through', 'depth', 'Depth', 'How deep the box is within which it is seen: half before the surface, half behind'],
] as const;

/** The box of decals: its sizes and turn, and what they were chosen to fall on. */
export function DecalFields({ entities }: { entities: readonly Entity[] }) {
  const decals = entities.map((e) => decalOf(e)!);
  const change = (label: string, box: Omit<CommandArgs<'decal.box'>, 'things'>) =>
    run(call('decal.box', { things: entities.map((e) => e.id), label, ...box }));
  const same = (values: readonly number[]): number | null =>
    values.every((v) => Math.abs(v - values[0]!) < 0.01) ? Math.round(values[0]! * 100) / 100 : null;
  const chosen = decals.filter((d) => d.targets === 'chosen');
  const targets: Thing[] = [...new Set(chosen.flatMap((d) => d.brushes))].map((id): Thing => ({ type: 'brush', id }));
  targets.push(...[...new Set(chosen.flatMap((d) => d.things))].map((id): Thing => ({ type: 'entity', id })));
  return (
    <>
      <PictureField entities={entities} shown={decals} suits={(m) => m.tags.includes(DECAL_TAG)} />
      <SimpleGrid cols={3} spacing={4}>
        {SIDES.map(([way, key, label, tip]) => (
          <LengthField
            key={key}
            label={label}
            tip={tip}
            value={same(decals.map((d) => length(d[way])))}
            onChange={(to) => change(label, { [key]: to })}
          />
        ))}
      </SimpleGrid>
      <LengthField
        label="Turn"
        tip="On the surface, counter-clockwise seen from before it"
        unit="°"
        value={same(decals.map(decalTurn))}
        onChange={(turn) => change('Turn', { turn })}
      />
      <Group gap={4}>
        <Tooltip label="Shows its picture from the other side, left for right">
          <Button size="compact-xs" variant="default" onClick={() => change('Flip', { flip: true })}>
            Flip
          </Button>
        </Tooltip>
        <Tooltip label="As large as its picture is at its own density">
          <Button size="compact-xs" variant="default" onClick={() => change('Natural size', { natural: true })}>
            Natural size
          </Button>
        </Tooltip>
        <Tooltip
          label={`Makes thin brushes of it, flush with what it falls on, to be aligned like faces — ${keysOf(commandById('edit.patch'))}`}
        >
          <Button size="compact-xs" variant="default" onClick={turnPatches}>
            Make it a patch
          </Button>
        </Tooltip>
        {targets.length > 0 && (
          <Tooltip label="Selects the brushes and props that it falls on">
            <Button
              size="compact-xs"
              variant="default"
              onClick={() => useEditor.getState().select(selectOnly(targets))}
            >
              Select what it falls on
            </Button>
          </Tooltip>
        )}
      </Group>
      {chosen.length > 0 && (
        <Text size="xs" c="dimmed">
          It falls on {targets.length === 1 ? 'one thing' : `${targets.length} things`}. For others select them with it
          (Shift), then command Let decals fall on the rest of the selection.
        </Text>
      )}
    </>
  );
}
