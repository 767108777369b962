import { Anchor, Button, Group, Text } from '@mantine/core';
import type { PropImportReport } from '@yesca/contract';

/** What is told of an import of whatever kind. */
export type Outcome = PropImportReport;

/** What became of an import. */
export function ImportReport({
  report,
  onClose,
  onShow,
}: {
  report: Outcome;
  onClose: () => void;
  onShow: (name: string) => void;
}) {
  const { added, same, refused, pack } = report;
  return (
    <section className="import-report" role="status" data-testid="import-report">
      <Group justify="space-between" wrap="nowrap">
        <Text fw={620}>
          {added.length === 0 ? 'Nothing new was imported' : `${added.length} imported into ${pack?.name}`}
        </Text>
        <Button variant="default" size="compact-xs" onClick={onClose}>
          Close
        </Button>
      </Group>
      {added.slice(0, 40).map((a) => (
        <Text key={a.file} size="xs">
          <Anchor component="button" type="button" size="xs" onClick={() => onShow(a.name)}>
            {a.name}
          </Anchor>{' '}
          from {a.file}. {a.notes.join(' ')}
        </Text>
      ))}
      {added.length > 40 && <Text size="xs">and {added.length - 40} more.</Text>}
      {same.map((s) => (
        <Text key={s.file} size="xs" c="var(--ochre)">
          {s.file} was there already as{' '}
          <Anchor component="button" type="button" size="xs" onClick={() => onShow(s.name)}>
            {s.name}
          </Anchor>
          .
        </Text>
      ))}
      {refused.slice(0, 60).map((r, i) => (
        <Text key={`${r.file} ${i}`} size="xs" c="var(--madder)">
          {r.file}: {r.message}
        </Text>
      ))}
    </section>
  );
}
