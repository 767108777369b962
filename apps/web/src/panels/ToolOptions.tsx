import { Group, SegmentedControl, Select, Stack, Switch, Tooltip } from '@mantine/core';
import { ENTITY_KINDS, SHAPES, shapeSpec, type Role, type ShapeKind, type ShapeValue } from '@yesca/core';
import { LengthField } from '../fields/LengthField.tsx';
import { Toggle } from '../fields/Toggle.tsx';
import { useEditor } from '../state/editor.ts';
import { activeShape, type ToolName, type ViewState, useSettings } from '../state/view.ts';
import { redrawGhost } from '../tools/draw.ts';
import { Choice } from '../fields/Choice.tsx';
import { SheetOptions } from './SheetOptions.tsx';
import { MaterialSwatch } from './MaterialSwatch.tsx';
import { ParamPanel } from './params/ParamPanel.tsx';

function DrawOptions() {
  const view = useSettings();
  const { set, shape } = view;
  const params = activeShape(view);
  const change = (key: string, value: ShapeValue) => {
    set({ shapes: { ...view.shapes, [shape]: { ...params, [key]: value } } });
    redrawGhost();
  };
  return (
    <Group gap={8} wrap="wrap" align="flex-end">
      <Tooltip label="What is drawn — Shift B takes the next">
        <Select
          label="Shape"
          w={116}
          allowDeselect={false}
          data={SHAPES.map((s) => ({ value: s.kind, label: s.label }))}
          value={shape}
          onChange={(v) => {
            if (v) set({ shape: v as ShapeKind });
            redrawGhost();
          }}
        />
      </Tooltip>
      <div className="narrow-field">
        <LengthField
          label="Height"
          tip="Height of what is drawn on the Plan"
          value={view.height}
          onChange={(height) => set({ height: Math.max(1, height) })}
        />
      </div>
      <ParamPanel
        row
        specs={shapeSpec(shape).params}
        values={[params]}
        onChange={(key, v) => change(key, v as ShapeValue)}
      />
      <Tooltip label="What drawn brushes are for">
        <Select
          label="Role"
          w={96}
          allowDeselect={false}
          data={['structure', 'detail', 'clip', 'hint', 'liquid']}
          value={view.drawRole}
          onChange={(v) => {
            if (v) set({ drawRole: v as Role });
            redrawGhost();
          }}
        />
      </Tooltip>
    </Group>
  );
}

function RoomOptions() {
  const view = useSettings();
  const { set } = view;
  return (
    <Group gap={8} wrap="wrap" align="flex-end">
      <div className="narrow-field">
        <LengthField
          label="Height"
          tip="Clear height from floor to ceiling"
          value={view.roomHeight}
          onChange={(roomHeight) => set({ roomHeight: Math.max(8, roomHeight) })}
        />
      </div>
      <div className="narrow-field">
        <LengthField
          label="Walls"
          tip="Thickness of walls, floor and ceiling"
          value={view.wall}
          onChange={(wall) => set({ wall: Math.max(1, wall) })}
        />
      </div>
      <div className="narrow-field">
        <LengthField
          label="Floor at"
          tip="Height of the floor: the level things stand on"
          value={view.level}
          onChange={(level) => set({ level })}
        />
      </div>
      <Switch
        size="xs"
        mb={6}
        label="Open sky"
        checked={view.open}
        onChange={(e) => set({ open: e.currentTarget.checked })}
      />
      <Tooltip label="What a footprint drawn inside a room becomes">
        <Select
          label="Inside a room"
          w={104}
          allowDeselect={false}
          data={[
            { value: 'platform', label: 'Platform' },
            { value: 'pillar', label: 'Pillar' },
            { value: 'pit', label: 'Pit' },
            { value: 'pool', label: 'Pool' },
          ]}
          value={view.inset}
          onChange={(v) => v && set({ inset: v as ViewState['inset'] })}
        />
      </Tooltip>
      {view.inset !== 'pillar' && (
        <div className="narrow-field">
          <LengthField
            label={view.inset === 'platform' ? 'Rise' : 'Depth'}
            tip="How far it stands up or is sunk"
            value={view.insetHeight}
            onChange={(insetHeight) => set({ insetHeight: Math.max(1, insetHeight) })}
          />
        </div>
      )}
    </Group>
  );
}

/** What can be set on the active tool. */
export function ToolOptions({ tool }: { tool: ToolName }) {
  const view = useSettings();
  const rooms = useEditor((s) => s.selection.rooms.size > 0);
  const { set } = view;
  switch (tool) {
    case 'draw':
      return <DrawOptions />;
    case 'room':
      return <RoomOptions />;
    case 'cut':
      return (
        <Group gap={8} wrap="nowrap">
          <Choice
            label="Keep"
            tip="Which half a new cut keeps"
            value={view.cutKeep}
            onChange={(v) => set({ cutKeep: v })}
            options={[
              ['both', 'Keep both'],
              ['back', 'Near half'],
              ['front', 'Far half'],
            ]}
          />
          <Choice
            label="New faces"
            tip="What the faces show that a cut or a subtraction makes: what their brush shows most, or the active material"
            value={view.capMaterial}
            onChange={(v) => set({ capMaterial: v })}
            options={[
              ['brush', 'Faces as the brush'],
              ['active', 'Active material'],
            ]}
          />
        </Group>
      );
    case 'reshape':
      return (
        <Group gap={8} wrap="nowrap">
          <SegmentedControl
            size="xs"
            aria-label="Handles"
            value={view.handles}
            onChange={(v) => set({ handles: v as 'faces' })}
            data={[
              { value: 'vertices', label: 'Vertices' },
              { value: 'edges', label: 'Edges' },
              { value: 'faces', label: 'Faces' },
            ]}
          />
          {view.handles === 'faces' && (
            <div className="narrow-field">
              <LengthField
                label="Taper"
                tip="What is left of a face that is pulled out at its far end: 1 straight, 0.5 half, 0 a point"
                unit=""
                value={view.taper}
                onChange={(v) => set({ taper: Math.min(16, Math.max(0, v)) })}
              />
            </div>
          )}
          <Toggle
            label="Split"
            tip="Split a brush that would become concave into convex parts"
            value={view.splitConcave}
            onChange={(v) => set({ splitConcave: v })}
          />
        </Group>
      );
    case 'paint':
      return (
        <Group gap={8} wrap="nowrap">
          <MaterialSwatch name={view.material} size={30} withName />
          <Choice
            label="What a click covers"
            tip="The face; the whole brush (Shift); flush neighbours as one; flow from the face painted last; the face and the far side of a thin brush"
            value={view.paintMode}
            options={[
              ['face', 'Face'],
              ['brush', 'Brush'],
              ['flush', 'Flush'],
              ['flow', 'Flow'],
              ['both', 'Both sides'],
            ]}
            onChange={(paintMode) => set({ paintMode })}
          />
        </Group>
      );
    case 'place':
      return (
        <Group gap={8} wrap="nowrap">
          <Choice
            label="Thing to place"
            tip="What a click puts down; a sheet is a thin brush of the active material, such as reed or ivy"
            value={view.placing === 'sheet' ? 'sheet' : view.entityKind}
            options={[...ENTITY_KINDS.map((k) => [k.kind, k.label] as const), ['sheet', 'Thin sheet'] as const]}
            onChange={(v) => set(v === 'sheet' ? { placing: 'sheet' } : { placing: 'thing', entityKind: v })}
          />
          {view.placing === 'sheet' && <SheetOptions />}
        </Group>
      );
    case 'measure':
      return (
        <Toggle
          label="Figure"
          tip="The player's figure in the Section, with step and jump — Shift F"
          value={view.figure}
          onChange={(v) => set({ figure: v })}
        />
      );
    default:
      return (
        <Group gap={10} wrap="nowrap">
          <Tooltip label="Resize by scaling the shape, or move only the faces on that side and keep slopes">
            <SegmentedControl
              size="xs"
              aria-label="Resize"
              value={view.resize}
              onChange={(v) => set({ resize: v as 'scale' })}
              data={[
                { value: 'scale', label: 'Scale shape' },
                { value: 'slopes', label: 'Keep slopes' },
              ]}
            />
          </Tooltip>
          <Tooltip label="On the Plan the transform box lies in the world’s axes, or in those of the brush itself — X">
            <SegmentedControl
              size="xs"
              aria-label="Axes"
              value={view.axes}
              onChange={(v) => set({ axes: v as 'own' })}
              data={[
                { value: 'world', label: 'World' },
                { value: 'own', label: 'Own' },
              ]}
            />
          </Tooltip>
          <Toggle
            label="Carry"
            tip="Textures move along with their brushes"
            value={view.carry}
            onChange={(v) => set({ carry: v })}
          />
          {rooms && (
            // One over the other: what the selection adds must not move the panes.
            <Stack gap={4}>
              <Toggle
                label="Contents"
                tip="A room that is moved, turned or mirrored takes along what stands in it: lamps, spawns, loose brushes"
                value={view.contents}
                onChange={(v) => set({ contents: v })}
              />
              <Toggle
                label="Neighbours"
                tip="A room takes along the rooms that it shares walls with, and theirs"
                value={view.neighbours}
                onChange={(v) => set({ neighbours: v })}
              />
            </Stack>
          )}
          <Tooltip label="Step of turns by hand; Alt turns freely">
            <Select
              w={78}
              aria-label="Angle step"
              allowDeselect={false}
              data={['1', '5', '15', '22.5', '45', '90'].map((a) => ({ value: a, label: `${a}°` }))}
              value={String(view.angleStep)}
              onChange={(v) => v && set({ angleStep: Number(v) })}
            />
          </Tooltip>
        </Group>
      );
  }
}
