import { Group, Select, Switch, Text, Tooltip } from '@mantine/core';
import { TOOLS, toolNamed } from '../tools/index.ts';
import { gridSteps, setGrid } from '../commands/grid.ts';
import { commandById } from '../palette/commands.ts';
import { keysOf } from '../palette/keys.ts';
import { useEditor } from '../state/editor.ts';
import { ToolOptions } from './ToolOptions.tsx';
import { useCurrent } from '../state/current.ts';
import { useWork } from '../state/work.ts';

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
  const active = toolNamed(useCurrent((s) => s.tool));
  return (
    <footer className="dock">
      <div className="dock-options" data-testid="tool-options">
        <ToolOptions tool={active} />
        <DockStatus hint={active.hint} />
      </div>
      <div className="dock-tools" role="toolbar" aria-label="Tools">
        {TOOLS.map(({ name, label, icon: Icon }) => {
          const command = commandById(`tool.${name}`);
          return (
            <Tooltip key={name} label={`${label} — ${keysOf(command)}`}>
              <button
                type="button"
                className="tool"
                aria-pressed={active.name === name}
                data-active={active.name === name || undefined}
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
  const snap = useWork((s) => s.snap);
  const gridSet = useWork((s) => s.gridSet);
  const other = gridSet === 'binary' ? 'decimal' : 'binary';
  return (
    <Group gap={8} wrap="nowrap">
      <Tooltip label="Snap to the grid — G">
        <Switch
          size="xs"
          label="Snap"
          checked={snap}
          onChange={(e) => useWork.setState({ snap: e.currentTarget.checked })}
        />
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
          onChange={(v) => (v === 'other' ? useWork.setState({ gridSet: other }) : v && setGrid(Number(v)))}
        />
      </Tooltip>
    </Group>
  );
}
