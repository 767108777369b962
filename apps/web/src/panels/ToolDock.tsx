import { Group, Select, Switch, Text, Tooltip } from '@mantine/core';
import {
  IconBucketDroplet,
  IconCube,
  IconSlice,
  IconMapPinPlus,
  IconPointer,
  IconRuler2,
  IconSquareRoundedPlus,
  IconVector,
} from '@tabler/icons-react';
import { commandById, gridSteps, setGrid } from '../palette/commands.ts';
import { keysOf } from '../palette/keys.ts';
import { useEditor } from '../state/editor.ts';
import { useView, type ToolName } from '../state/view.ts';
import { ToolOptions } from './ToolOptions.tsx';

const TOOLS: readonly {
  readonly name: ToolName;
  readonly label: string;
  readonly hint: string;
  readonly icon: typeof IconCube;
}[] = [
  {
    name: 'pick',
    label: 'Pick',
    hint: 'Click selects, drag moves, handles resize, the knob turns. Alt-drag copies. Type while dragging.',
    icon: IconPointer,
  },
  {
    name: 'draw',
    label: 'Draw',
    hint: 'Drag the base in any pane; type sizes like 128 64 96; Enter keeps it.',
    icon: IconCube,
  },
  {
    name: 'room',
    label: 'Room',
    hint: 'Drag on the Plan, or click corners and Enter. Inside a room: a platform, pillar, pit or pool.',
    icon: IconSquareRoundedPlus,
  },
  {
    name: 'cut',
    label: 'Cut',
    hint: 'Draw a line across the selection, or click three points in Eye. Enter cuts.',
    icon: IconSlice,
  },
  {
    name: 'reshape',
    label: 'Reshape',
    hint: 'Drag handles; a marquee takes whole columns. Alt-drag pulls a brush out of a face, a corner out of a room’s side.',
    icon: IconVector,
  },
  {
    name: 'paint',
    label: 'Paint',
    hint: 'Click paints, Shift the whole brush; Ctrl selects faces, whose picture is then dragged in the Eye. I held picks up.',
    icon: IconBucketDroplet,
  },
  { name: 'place', label: 'Place', hint: 'Click where the thing is to stand.', icon: IconMapPinPlus },
  {
    name: 'measure',
    label: 'Measure',
    hint: 'Drag or click from point to point. Two points also say what a player can do there.',
    icon: IconRuler2,
  },
];

/** What was typed so far, what would happen, or else how the tool works. */
function DockStatus({ hint }: { hint: string }) {
  const typed = useEditor((s) => s.overlay.typed);
  const note = useEditor((s) => s.overlay.note);
  return (
    <div className="dock-status">
      {typed && <span className="typed mono">{typed}</span>}
      {note ? (
        <Text size="xs" className="dock-note" data-testid="tool-note" role="status">
          {note}
        </Text>
      ) : (
        !typed && (
          <Text size="xs" c="dimmed" className="dock-hint">
            {hint}
          </Text>
        )
      )}
    </div>
  );
}

/** The tools at the foot of the centre, the active one's options above them. */
export function ToolDock() {
  const tool = useView((s) => s.tool);
  return (
    <footer className="dock">
      <div className="dock-options" data-testid="tool-options">
        <ToolOptions tool={tool} />
        <DockStatus hint={TOOLS.find((t) => t.name === tool)!.hint} />
      </div>
      <div className="dock-tools" role="toolbar" aria-label="Tools">
        {TOOLS.map(({ name, label, icon: Icon }) => {
          const command = commandById(`tool.${name}`);
          return (
            <Tooltip key={name} label={`${label} — ${keysOf(command)}`}>
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
  const snap = useView((s) => s.snap);
  const gridSet = useView((s) => s.gridSet);
  const set = useView((s) => s.set);
  const other = gridSet === 'binary' ? 'decimal' : 'binary';
  return (
    <Group gap={8} wrap="nowrap">
      <Tooltip label="Snap to the grid — G">
        <Switch size="xs" label="Snap" checked={snap} onChange={(e) => set({ snap: e.currentTarget.checked })} />
      </Tooltip>
      <Tooltip label="Grid step — Shift G finer, Alt G coarser">
        <Select
          w={84}
          aria-label="Grid step"
          data={[
            ...[...new Set([...gridSteps(), grid])]
              .sort((a, b) => a - b)
              .map((g) => ({ value: String(g), label: `${g} cm` })),
            { value: 'other', label: other === 'decimal' ? '1, 5, 10 …' : '1, 2, 4 …' },
          ]}
          value={String(grid)}
          allowDeselect={false}
          onChange={(v) => (v === 'other' ? set({ gridSet: other }) : v && setGrid(Number(v)))}
        />
      </Tooltip>
    </Group>
  );
}
