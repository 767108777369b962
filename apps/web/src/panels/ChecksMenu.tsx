import { Button, Group, Popover, Stack, Text, Tooltip } from '@mantine/core';
import { IconListCheck } from '@tabler/icons-react';
import { useMemo } from 'react';
import { call, entityNameWithin, fixLabels, LEAK_FIXES, problemData, SENTENCES, unseenSelection, type Leak, type Problem } from '@yesca/core'; // prettier-ignore
import { goTo, goToLeak } from '../commands/viewing.ts';
import { useEditor } from '../state/editor.ts';
import { selectedBrushes } from '../state/selection.ts';

const leakCall = ({ hole, beside }: Leak, fix: string) => call('leak.fix', { leak: { hole, beside }, fix });

/** The live list of problems: a click goes there, a fix is one undoable step. */
export function ChecksMenu({ problems: found }: { problems: readonly Problem[] }) {
  const leak = useEditor((s) => s.sealing.leak);
  const run = useEditor((s) => s.run);
  const preview = useEditor((s) => s.preview);
  const doc = useEditor((s) => s.doc);
  const selection = useEditor((s) => s.selection);
  const problems = useMemo(() => {
    const selected = new Set([...selectedBrushes(selection, doc), ...selection.entities]);
    return [...unseenSelection.find(doc, { selected }), ...found];
  }, [doc, selection, found]);
  const count = problems.length + (leak ? 1 : 0);
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
        {count === 0 && (
          <Text size="sm" p={8}>
            Nothing wrong was found.
          </Text>
        )}
        <Stack gap={2}>
          {leak && (
            <div className="check-row">
              <span className="badge" data-state="leaking">
                leak
              </span>
              <div>
                <Text size="xs">{SENTENCES.leak(entityNameWithin(doc.entities.get(leak.entity)))}</Text>
                <Group gap={4} mt={4}>
                  <Button variant="default" size="compact-xs" onClick={goToLeak}>
                    Go to the hole
                  </Button>
                  {LEAK_FIXES.map(({ label }) => (
                    <Button
                      key={label}
                      variant="default"
                      size="compact-xs"
                      onMouseEnter={() => preview(leakCall(leak, label))}
                      onMouseLeave={() => preview(null)}
                      onClick={() => run(leakCall(leak, label))}
                    >
                      {label}
                    </Button>
                  ))}
                </Group>
              </div>
            </div>
          )}
          {problems.slice(0, 200).map((p) => {
            return (
              <div key={p.id} className="check-row">
                <span className="badge" data-state={p.severity === 'error' ? 'failed' : 'warning'}>
                  {p.severity}
                </span>
                <div>
                  <Text size="xs">{p.text}</Text>
                  <Group gap={4} mt={4}>
                    {(p.at ?? p.brushes ?? p.entities) && (
                      <Button
                        variant="default"
                        size="compact-xs"
                        onClick={() => goTo(p.at, p.brushes, p.entities, p.faces)}
                      >
                        Go there
                      </Button>
                    )}
                    {fixLabels(doc, p).map((fix) => (
                      <Button
                        key={fix}
                        variant="default"
                        size="compact-xs"
                        onMouseEnter={() => preview(call('problem.fix', { problem: problemData(p), fix }))}
                        onMouseLeave={() => preview(null)}
                        onClick={() => run(call('problem.fix', { problem: problemData(p), fix }))}
                      >
                        {fix}
                      </Button>
                    ))}
                  </Group>
                </div>
              </div>
            );
          })}
        </Stack>
      </Popover.Dropdown>
    </Popover>
  );
}
