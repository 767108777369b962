import { ActionIcon, Button, Group, NumberInput, Select, SimpleGrid, Switch, Text, Tooltip } from '@mantine/core';
import {
  IconArrowsJoin,
  IconBoxMargin,
  IconBoxMultiple,
  IconCirclesRelation,
  IconCopyPlus,
  IconFlipHorizontal,
  IconFlipVertical,
  IconLayoutAlignBottom,
  IconLayoutAlignCenter,
  IconLayoutAlignLeft,
  IconLayoutAlignMiddle,
  IconLayoutAlignRight,
  IconLayoutAlignTop,
  IconLayoutDistributeHorizontal,
  IconLayoutDistributeVertical,
  IconLayersIntersect2,
  IconLayersSubtract,
  IconRotate2,
  IconRotateClockwise2,
} from '@tabler/icons-react';
import { useState } from 'react';
import {
  call,
  pickedBounds,
  shapeSpec,
  sharedGroup,
  entityKind,
  stopsPlayers,
  type Brush,
  volumeOf,
  type Group as BrushGroup,
  type MapDocument,
  type Role,
  type ShapeValue,
  isPatch,
} from '@yesca/core';
import { commandById } from '../../palette/commands.ts';
import { keysOf } from '../../palette/keys.ts';
import {
  brushesNow,
  giveBackSelection,
  layerSelection,
  repeatSelection,
  repeatSelectionAround,
  shellSelection,
  sideBySide,
} from '../../commands/shaping.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { asPicked, selectOnly, thingsOf, type Selection } from '../../state/selection.ts';
import { MaterialSwatch } from '../MaterialSwatch.tsx';
import { ParamPanel } from '../params/ParamPanel.tsx';
import { useEditor } from '../../state/editor.ts';
import { turnPatches } from '../../commands/decals.ts';
import { freeSelection } from '../../commands/doors.ts';
import { PlaceAndSize, run, Section } from './shared.tsx';
import { useCamera } from '../../state/camera.ts';
import { useCurrent } from '../../state/current.ts';
import { useRoomOptions } from '../../tools/room.ts';

/** The roles a build knows what to do with. */
const ROLES_OFFERED: { value: Role; label: string }[] = [
  { value: 'structure', label: 'Structure – seals and hides' },
  { value: 'detail', label: 'Detail – drawn, does not seal' },
  { value: 'clip', label: 'Clip – unseen, holds players back' },
  { value: 'hint', label: 'Hint – cuts cells for visibility' },
  { value: 'gate', label: 'Gate – closes with its door, hides what lies behind' },
  { value: 'liquid', label: 'Liquid – drawn, one swims in it' },
  { value: 'ladder', label: 'Ladder – unseen, one climbs it' },
  { value: 'zone', label: 'Zone – unseen, notices who is inside' },
];

/** A command as an icon, with its name and key as the tip. */
function CommandIcon({ id, icon: Icon }: { id: string; icon: typeof IconRotate2 }) {
  const command = commandById(id);
  return (
    <Tooltip label={`${command.label} — ${keysOf(command)}`}>
      <ActionIcon variant="default" size={25} aria-label={command.label} onClick={command.run}>
        <Icon size={16} stroke={1.5} />
      </ActionIcon>
    </Tooltip>
  );
}

export function BrushParticulars({ doc, selection }: { doc: MapDocument; selection: Selection }) {
  const box = pickedBounds(doc, asPicked(selection));
  const brushes = [...selection.brushes].flatMap((id) => doc.brushes.get(id) ?? []);
  const role = new Set(brushes.map((b) => b.role)).size === 1 ? brushes[0]!.role : null;
  const materials = [...new Set(brushes.flatMap((b) => b.faces.map((f) => f.material)))];
  const count = thingsOf(selection).length;
  const group = sharedGroup(doc, brushes);
  const layers = new Set(brushes.map((b) => b.layer ?? ''));
  const inRoom = brushes.length === 1 && brushes[0]!.room ? doc.rooms.get(brushes[0]!.room.id) : undefined;
  const released = brushes.some((b) => b.room?.released);
  return (
    <>
      <Section title={count === 1 ? 'Brush' : group ? `${group.name}, ${count} brushes` : `${count} selected`}>
        {box && <PlaceAndSize box={box} selection={selection} rooms={false} />}
        {brushes.length > 0 && (
          <Text size="xs" c="dimmed" className="mono">
            {Math.round(volumeOf(doc, selection.brushes) / 1000) / 1000} m³
          </Text>
        )}
        <Owner doc={doc} brushes={brushes} />
        {brushes.some(isPatch) && (
          <Tooltip
            label={`Shows its picture as a decal from then on, on what it lies on — ${keysOf(commandById('edit.patch'))}`}
          >
            <Button size="compact-xs" variant="default" onClick={turnPatches}>
              Make it a decal
            </Button>
          </Tooltip>
        )}
        {brushes.some((b) => stopsPlayers(b) || b.stops) && (
          <Tooltip label="Players and all else pass through, as through leaves and cloth">
            <Switch
              size="xs"
              label="Passable"
              checked={brushes.every((b) => b.stops?.length === 0)}
              onChange={(e) => {
                const passable = e.currentTarget.checked;
                run(call('brush.passable', { brushes: brushes.map((b) => b.id), passable }));
              }}
            />
          </Tooltip>
        )}
        {brushes.some((b) => b.role === 'structure' || b.role === 'detail') && (
          <Tooltip label="Whether light ends at it in a build; off, it goes through. What has holes or is seen through dims it by its picture">
            <Switch
              size="xs"
              label="Casts shadow"
              checked={brushes.every((b) => b.shadow !== false)}
              onChange={(e) => {
                const casts = e.currentTarget.checked;
                run(call('brush.shadow', { brushes: brushes.map((b) => b.id), casts }));
              }}
            />
          </Tooltip>
        )}
        {brushes.length > 0 && (
          <SimpleGrid cols={2} spacing={4}>
            <Select
              label="Role"
              data={ROLES_OFFERED}
              value={role}
              placeholder="mixed"
              allowDeselect={false}
              comboboxProps={{ width: 230, position: 'bottom-end' }}
              onChange={(v) => v && run(call('brush.role', { brushes: brushes.map((b) => b.id), role: v as Role }))}
            />
            <Select
              label="Layer"
              data={[
                { value: '', label: 'none' },
                ...[...doc.layers.values()].map((l) => ({ value: l.id, label: l.name })),
              ]}
              value={layers.size === 1 ? [...layers][0]! : null}
              placeholder="mixed"
              allowDeselect={false}
              onChange={(v) => layerSelection(v || null)}
            />
          </SimpleGrid>
        )}
        {inRoom && !released && (
          <Text size="xs" c="dimmed">
            Part of {inRoom.name}. Shaped by hand, this brush is released; the room stays a room.
          </Text>
        )}
        {released && (
          <>
            <Text size="xs" data-testid="released">
              <span className="badge" data-state="warning">
                released
              </span>{' '}
              Shaped by hand: its room never touches it.
            </Text>
            <Button variant="default" onClick={giveBackSelection}>
              Give back to the room
            </Button>
          </>
        )}
      </Section>
      {group?.shape && <ShapeSection group={group} />}
      {brushes.length > 0 && <Operations box={box !== null} />}
      {materials.length > 0 && (
        <Section title="Materials">
          <Group gap={4}>
            {materials.slice(0, 8).map((m) => (
              <MaterialSwatch key={m} name={m} size={40} />
            ))}
          </Group>
        </Section>
      )}
    </>
  );
}

/** The numbers a shape was made from: changing them makes it anew where it stands. */
function ShapeSection({ group }: { group: BrushGroup }) {
  const shape = group.shape!;
  const spec = shapeSpec(shape.kind);
  const change = (key: string, value: ShapeValue) =>
    run(call('brush.changeShape', { group: group.id, params: { [key]: value } }));
  const steps = shape.params.steps as number | undefined;
  const rise = steps ? (shape.box.max[2] - shape.box.min[2]) / steps : 0;
  const along = shape.params.rises === 'east' || shape.params.rises === 'west' ? 0 : 1;
  const stretch = (axis: 0 | 1 | 2, size: number) => {
    const max: [number, number, number] = [...shape.box.max];
    max[axis] = shape.box.min[axis] + size;
    run(call('brush.changeShape', { group: group.id, box: { min: shape.box.min, max } }));
  };
  if (Object.keys(spec.params).length === 0) return null;
  return (
    <Section title={spec.label}>
      <ParamPanel specs={spec.params} values={[shape.params]} onChange={(key, v) => change(key, v as ShapeValue)} />
      {steps && (
        <SimpleGrid cols={2} spacing={4}>
          <LengthField
            label="Step height"
            tip="Height of one step; changes how high the stair is"
            value={rise}
            onChange={(v) => v > 0 && stretch(2, v * steps)}
          />
          {shape.kind === 'stair' && (
            <LengthField
              label="Step depth"
              tip="Depth of one step; changes how long the stair is"
              value={(shape.box.max[along] - shape.box.min[along]) / steps}
              onChange={(v) => v > 0 && stretch(along, v * steps)}
            />
          )}
        </SimpleGrid>
      )}
    </Section>
  );
}

/** What can be done with the selected brushes as solids. */
function Operations({ box }: { box: boolean }) {
  const wall = useRoomOptions((s) => s.wall);
  const [thickness, setThickness] = useState(wall);
  return (
    <>
      <Section title="Solids">
        <Group gap={3} wrap="nowrap">
          <CommandIcon id="shape.subtract" icon={IconLayersSubtract} />
          <CommandIcon id="shape.intersect" icon={IconLayersIntersect2} />
          <CommandIcon id="shape.merge" icon={IconArrowsJoin} />
          <CommandIcon id="shape.hull" icon={IconCirclesRelation} />
          <CommandIcon id="edit.turnLeft" icon={IconRotate2} />
          <CommandIcon id="edit.turnRight" icon={IconRotateClockwise2} />
          <CommandIcon id="edit.mirrorX" icon={IconFlipHorizontal} />
          <CommandIcon id="edit.mirrorY" icon={IconFlipVertical} />
        </Group>
        <Group gap={4} align="flex-end" wrap="nowrap">
          <LengthField
            label="Shell"
            tip="Thickness of the walls that Shell leaves"
            value={thickness}
            onChange={setThickness}
          />
          <Tooltip label="Shell inside its faces — Shift O">
            <ActionIcon variant="default" aria-label="Shell inside" onClick={() => shellSelection(thickness, 'inside')}>
              <IconBoxMargin size={16} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
          <Tooltip label="Shell outside its faces — Alt O">
            <ActionIcon
              variant="default"
              aria-label="Shell outside"
              onClick={() => shellSelection(thickness, 'outside')}
            >
              <IconBoxMultiple size={16} stroke={1.5} />
            </ActionIcon>
          </Tooltip>
        </Group>
      </Section>
      <Section title="Arrange">
        <Group gap={3} wrap="nowrap">
          <CommandIcon id="align.lowEast" icon={IconLayoutAlignLeft} />
          <CommandIcon id="align.middleEast" icon={IconLayoutAlignCenter} />
          <CommandIcon id="align.highEast" icon={IconLayoutAlignRight} />
          <CommandIcon id="align.lowNorth" icon={IconLayoutAlignBottom} />
          <CommandIcon id="align.middleNorth" icon={IconLayoutAlignMiddle} />
          <CommandIcon id="align.highNorth" icon={IconLayoutAlignTop} />
          <CommandIcon id="spread.East" icon={IconLayoutDistributeVertical} />
          <CommandIcon id="spread.North" icon={IconLayoutDistributeHorizontal} />
        </Group>
        {box && <Repeat />}
      </Section>
    </>
  );
}

/** Copies along a line or around a centre. */
function Repeat() {
  const [count, setCount] = useState(3);
  const [axis, setAxis] = useState<'east' | 'north' | 'up' | 'around'>('east');
  const [step, setStep] = useState<number | null>(null);
  const around = axis === 'around';
  const k = axis === 'north' ? 1 : axis === 'up' ? 2 : 0;
  const shown = step ?? (around ? 360 / (count + 1) : sideBySide(k as 0));
  const repeat = () => {
    const by: [number, number, number] = [0, 0, 0];
    by[k] = shown;
    if (!around) return repeatSelection(count, by);
    // Around the point that turns go round, or else the middle of the view.
    const { centre } = useCamera.getState();
    const { pivot } = useCurrent.getState();
    if (brushesNow().size) repeatSelectionAround(count, pivot ?? centre, shown);
  };
  return (
    <SimpleGrid cols={3} spacing={4} style={{ alignItems: 'end' }}>
      <Tooltip label="How many copies">
        <NumberInput
          size="xs"
          hideControls
          label="Copies"
          min={1}
          max={256}
          value={count}
          onChange={(v) => setCount(Math.max(1, Math.round(Number(v) || 1)))}
          onKeyDown={(e) => e.stopPropagation()}
        />
      </Tooltip>
      <Tooltip label="Which way; around goes about the point set by Shift T, or the middle of the view">
        <Select
          label="Towards"
          allowDeselect={false}
          data={['east', 'north', 'up', 'around']}
          value={axis}
          onChange={(v) => {
            if (v) setAxis(v as 'east');
            setStep(null);
          }}
        />
      </Tooltip>
      <LengthField
        label={around ? 'Angle' : 'Step'}
        unit={around ? '°' : ''}
        tip={around ? 'Angle from one copy to the next' : 'Distance from one copy to the next'}
        value={shown}
        onChange={setStep}
      />
      <Button
        style={{ gridColumn: '1 / -1' }}
        variant="default"
        leftSection={<IconCopyPlus size={16} stroke={1.5} />}
        onClick={repeat}
      >
        Make the copies
      </Button>
    </SimpleGrid>
  );
}

/** What the selected brushes belong to. */
function Owner({ doc, brushes }: { doc: MapDocument; brushes: readonly Brush[] }) {
  const owners = [...new Set(brushes.flatMap((b) => b.owner?.id ?? []))].flatMap((id) => doc.entities.get(id) ?? []);
  if (owners.length === 0) return null;
  const [owner] = owners;
  const part = brushes.length === 1 && brushes[0]!.owner?.part;
  const name = owner!.name || (entityKind(owner!.kind)?.label ?? owner!.kind);
  return (
    <Group gap={4} wrap="nowrap">
      <Text size="xs" flex={1}>
        {owners.length === 1 ? `Part of ${name}${part ? `, ${part + 1}` : ''}` : `Parts of ${owners.length} things`}
      </Text>
      <Tooltip label="Selects what they belong to">
        <Button
          size="compact-xs"
          variant="default"
          onClick={() =>
            useEditor.getState().select(selectOnly(owners.map((e) => ({ type: 'entity' as const, id: e.id }))))
          }
        >
          Select it
        </Button>
      </Tooltip>
      <Tooltip label="They stand by themselves again">
        <Button size="compact-xs" variant="default" onClick={freeSelection}>
          Take off
        </Button>
      </Tooltip>
    </Group>
  );
}
