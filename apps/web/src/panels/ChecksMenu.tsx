import { Button, Popover, Stack, Text, Tooltip } from '@mantine/core';
import { IconListCheck } from '@tabler/icons-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { call, fixLabels, unseenSelection, type Finding, type MapDocument } from '@yesca/core';
import { followTrail } from '../commands/follow.ts';
import { goToFinding } from '../commands/viewing.ts';
import { useEditor } from '../state/editor.ts';
import { selectedBrushes } from '../state/selection.ts';
import { useFollowed } from './Behind.tsx';
import { FindingRow, hasPlace } from './FindingRow.tsx';

/** More are not listed here; nobody works through them from a menu. */
const SHOWN = 200;

/** The live list of problems: a click goes there, a fix is one undoable step. */
export function ChecksMenu({ findings: found }: { findings: readonly Finding[] }) {
  const { preview } = useEditor.getState();
  const { doc, selection } = useFollowed(useEditor((s) => s.doc));
  const findings = useMemo(() => {
    const selected = new Set([...selectedBrushes(selection, doc), ...selection.entities]);
    return [...unseenSelection.find(doc, { selected }), ...found];
  }, [doc, selection, found]);
  const count = findings.length;
  return (
    <Popover width={380} position="bottom-end" shadow="md" onClose={() => preview(null)}>
      <Popover.Target>
        <Tooltip label="Problems found while you work">
          <Button variant="default" leftSection={<IconListCheck size={15} />} aria-label={`Checks: ${count}`}>
            {count === 0 ? 'No problems' : `${count} problem${count === 1 ? '' : 's'}`}
          </Button>
        </Tooltip>
      </Popover.Target>
      <Popover.Dropdown p={6} mah={420} style={{ overflow: 'auto' }}>
        <Found doc={doc} findings={findings} />
      </Popover.Dropdown>
    </Popover>
  );
}

/** What was found, with the ways on. Only while it is open: fixes are asked for by name. */
function Found({ doc, findings }: { doc: MapDocument; findings: readonly Finding[] }) {
  const project = useEditor((s) => s.projectId);
  const { run, preview } = useEditor.getState();
  const count = findings.length;
  return (
    <>
      {count === 0 && (
        <Text size="sm" p={8}>
          Nothing wrong was found.
        </Text>
      )}
      <Stack gap={2}>
        {findings.slice(0, SHOWN).map((f) => (
          <FindingRow key={f.id} finding={f}>
            {hasPlace(f) && (
              <Button variant="default" size="compact-xs" onClick={() => goToFinding(f)}>
                {f.trail ? 'Go to the hole' : 'Go there'}
              </Button>
            )}
            {f.trail && (
              <Tooltip label="The Eye flies along it, from the thing to the hole; any key ends it">
                <Button variant="default" size="compact-xs" onClick={() => followTrail(f.trail)}>
                  Fly along the trail
                </Button>
              </Tooltip>
            )}
            {fixLabels(doc, f).map((fix) => (
              <Button
                key={fix}
                variant="default"
                size="compact-xs"
                onMouseEnter={() => preview(call('finding.fix', { finding: f, fix }))}
                onMouseLeave={() => preview(null)}
                onClick={() => run(call('finding.fix', { finding: f, fix }))}
              >
                {fix}
              </Button>
            ))}
          </FindingRow>
        ))}
      </Stack>
      {count > SHOWN && (
        <Text size="xs" p={8}>
          And {count - SHOWN} more.
        </Text>
      )}
      {project && (
        <Button component={Link} to={`/projects/${project}/findings`} variant="subtle" size="compact-xs" m={4}>
          Findings of all maps of this project
        </Button>
      )}
    </>
  );
}
