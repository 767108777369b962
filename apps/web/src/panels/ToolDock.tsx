import { Group, NumberInput, SegmentedControl, Select, Switch, Text, Tooltip } from '@mantine/core';
import { IconBucketDroplet, IconCube, IconMapPinPlus, IconPointer, IconSquareRoundedPlus } from '@tabler/icons-react';
import { ENTITY_KINDS } from '@yesca/core';
import { commandById, GRID_STEPS, keyLabel, setGrid } from '../commands/commands.ts';
import { LengthField } from '../fields/LengthField.tsx';
import { useEditor } from '../state/editor.ts';
import { useView, type Shape, type ToolName } from '../state/view.ts';
import { MaterialSwatch } from './MaterialSwatch.tsx';

const TOOLS: readonly {
  readonly name: ToolName;
  readonly label: string;
  readonly hint: string;
  readonly icon: typeof IconCube;
}[] = [
  {
    name: 'pick',
    label: 'Pick',
    hint: 'Click selects, drag moves, handles resize. Alt-drag copies. Click again for what is behind.',
    icon: IconPointer,
  },
  {
    name: 'draw',
    label: 'Draw',
    hint: 'Drag the base on the Plan or a face of it in the Section; type sizes like 128 64 96; Enter keeps it.',
    icon: IconCube,
  },
  {
    name: 'room',
    label: 'Room',
    hint: 'Drag a rectangle on the Plan, or click corners and Enter. Type width, depth, height.',
    icon: IconSquareRoundedPlus,
  },
  {
    name: 'paint',
    label: 'Paint',
    hint: 'Click a face to paint it, Shift-click for the whole brush. Hold I and click to pick a material up.',
    icon: IconBucketDroplet,
  },
  { name: 'place', label: 'Place', hint: 'Click where the thing is to stand.', icon: IconMapPinPlus },
];

/** The tools at the foot of the centre, the active one's options above them. */
export function ToolDock() {
  const tool = useView((s) => s.tool);
  const typed = useEditor((s) => s.overlay.typed);
  const active = TOOLS.find((t) => t.name === tool)!;
  return (
    <footer className="dock">
      <div className="dock-options" data-testid="tool-options">
        <Options tool={tool} />
        {typed ? (
          <span className="typed mono">{typed}</span>
        ) : (
          <Text size="xs" c="dimmed" className="dock-hint">
            {active.hint}
          </Text>
        )}
      </div>
      <div className="dock-tools" role="toolbar" aria-label="Tools">
        {TOOLS.map(({ name, label, icon: Icon }) => {
          const command = commandById(`tool.${name}`);
          return (
            <Tooltip key={name} label={`${label} — ${keyLabel(command.keys!)}`}>
              <button
                type="button"
                className="tool"
                aria-pressed={tool === name}
                data-active={tool === name || undefined}
                onClick={command.run}
              >
                <Icon size={18} stroke={1.5} />
                {label}
              </button>
            </Tooltip>
          );
        })}
        <span className="dock-gap" />
        <GridControl />
      </div>
    </footer>
  );
}

function GridControl() {
  const grid = useEditor((s) => s.doc.settings.grid);
  const { snap, set } = useView();
  return (
    <Group gap={8} wrap="nowrap">
      <Tooltip label="Snap to the grid — G">
        <Switch size="xs" label="Snap" checked={snap} onChange={(e) => set({ snap: e.currentTarget.checked })} />
      </Tooltip>
      <Tooltip label="Grid step — Shift G finer, Alt G coarser">
        <Select
          w={92}
          aria-label="Grid step"
          data={[...new Set([...GRID_STEPS, grid])]
            .sort((a, b) => a - b)
            .map((g) => ({ value: String(g), label: `${g} cm` }))}
          value={String(grid)}
          allowDeselect={false}
          onChange={(v) => v && setGrid(Number(v))}
        />
      </Tooltip>
    </Group>
  );
}

function Options({ tool }: { tool: ToolName }) {
  const view = useView();
  const { set } = view;
  if (tool === 'draw')
    return (
      <Group gap={8} wrap="nowrap" align="flex-end">
        <SegmentedControl
          size="xs"
          aria-label="Shape"
          value={view.shape}
          onChange={(v) => set({ shape: v as Shape })}
          data={[
            { value: 'box', label: 'Box' },
            { value: 'wedge', label: 'Wedge' },
            { value: 'prism', label: 'Prism' },
          ]}
        />
        <div className="narrow-field">
          <LengthField
            label="Height"
            tip="Height of what is drawn on the Plan"
            value={view.height}
            onChange={(height) => set({ height: Math.max(1, height) })}
          />
        </div>
        {view.shape === 'prism' && (
          <NumberInput
            size="xs"
            label="Sides"
            w={64}
            min={3}
            max={64}
            value={view.sides}
            onChange={(v) => set({ sides: Math.min(64, Math.max(3, Math.round(Number(v) || 8))) })}
            onKeyDown={(e) => e.stopPropagation()}
          />
        )}
        {view.shape === 'wedge' && (
          <Select
            label="Rises to"
            w={90}
            allowDeselect={false}
            value={view.rises}
            data={['north', 'east', 'south', 'west']}
            onChange={(v) => v && set({ rises: v as 'north' })}
          />
        )}
      </Group>
    );
  if (tool === 'room')
    return (
      <Group gap={8} wrap="nowrap" align="flex-end">
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
      </Group>
    );
  if (tool === 'paint')
    return (
      <Group gap={8} wrap="nowrap">
        <MaterialSwatch name={view.material} size={30} withName />
        <Switch
          size="xs"
          label="Whole brush"
          checked={view.paintWhole}
          onChange={(e) => set({ paintWhole: e.currentTarget.checked })}
        />
      </Group>
    );
  if (tool === 'place')
    return (
      <SegmentedControl
        size="xs"
        aria-label="Thing to place"
        value={view.entityKind}
        onChange={(entityKind) => set({ entityKind })}
        data={ENTITY_KINDS.map((k) => ({ value: k.kind, label: k.label }))}
      />
    );
  return (
    <Tooltip label="Textures move along with their brushes">
      <Switch
        size="xs"
        label="Carry textures"
        checked={view.carry}
        onChange={(e) => set({ carry: e.currentTarget.checked })}
      />
    </Tooltip>
  );
}
