import './finding-row.css';
import { Group, Text } from '@mantine/core';
import type { Finding } from '@yesca/core';
import type { ReactNode } from 'react';

const STATE = { error: 'failed', warning: 'warning', info: 'done' } as const;

/** Something found, with what can be done about it. */
export function FindingRow({
  finding,
  children,
}: {
  finding: Pick<Finding, 'severity' | 'text'>;
  children?: ReactNode;
}) {
  return (
    <div className="finding" data-severity={finding.severity}>
      <span className="badge" data-state={STATE[finding.severity]}>
        {finding.severity}
      </span>
      <div>
        <Text size="xs">{finding.text}</Text>
        {children && (
          <Group gap={4} mt={4}>
            {children}
          </Group>
        )}
      </div>
    </div>
  );
}

/** Whether a finding has a place that can be gone to. */
export const hasPlace = ({ at, brushes = [], entities = [] }: Finding): boolean =>
  Boolean(at) || brushes.length > 0 || entities.length > 0;
