import './findings.css';
import { Anchor, Button, Group, Loader, SegmentedControl, Text, TextInput, Tooltip } from '@mantine/core';
import { IconRefresh, IconSearch } from '@tabler/icons-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { MapCard } from '@yesca/contract';
import type { Finding } from '@yesca/core';
import { useFindings, useProjects } from '../../state/remote.ts';
import { SEAL_WORDS } from '../../panels/seal-words.ts';
import { FindingRow, hasPlace } from '../../panels/FindingRow.tsx';
import { PageHead } from '../PageHead.tsx';

type Kind = 'all' | 'error' | 'warning';

/** More of one map are counted, not listed. */
const LISTED = 100;

/** Everything that is wrong with the maps of a project, as they are saved: what is left to do before they are shown. */
export function Findings() {
  const { projectId } = useParams();
  const { data: projects, error } = useProjects();
  const [kind, setKind] = useState<Kind>('all');
  const [search, setSearch] = useState('');
  const project = projects?.find((p) => p.id === projectId);
  return (
    <div className="findings">
      <PageHead title="Findings" about={project?.name}>
        <SegmentedControl
          aria-label="Which findings are listed"
          value={kind}
          onChange={(v) => setKind(v as Kind)}
          data={[
            { value: 'all', label: 'All' },
            { value: 'error', label: 'Errors' },
            { value: 'warning', label: 'Warnings' },
          ]}
        />
        <TextInput
          leftSection={<IconSearch size={14} />}
          placeholder="Search findings"
          aria-label="Search findings"
          value={search}
          onChange={(e) => setSearch(e.currentTarget.value)}
          onKeyDown={(e) => e.key === 'Escape' && setSearch('')}
        />
      </PageHead>
      <main className="findings-body">
        {error ? <Text c="var(--madder)">{(error as Error).message}</Text> : null}
        {projects && !project && (
          <Text>
            This project is no longer on the Shelf.{' '}
            <Anchor component={Link} to="/" inherit>
              Go to the Shelf.
            </Anchor>
          </Text>
        )}
        {project?.maps.length === 0 && (
          <Text>
            This project has no maps yet.{' '}
            <Anchor component={Link} to="/" inherit>
              Add one on the Shelf.
            </Anchor>
          </Text>
        )}
        {project?.maps.map((m) => (
          <MapFindings key={m.id} map={m} kind={kind} search={search} />
        ))}
      </main>
    </div>
  );
}

const word = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;

function MapFindings({ map, kind, search }: { map: MapCard; kind: Kind; search: string }) {
  const { data, error, isValidating, mutate } = useFindings(map.id);
  const all = data?.findings ?? [];
  const matches = (f: Finding) =>
    (kind === 'all' || f.severity === kind) && f.text.toLowerCase().includes(search.trim().toLowerCase());
  const shown = all.filter(matches);
  const errors = all.filter((f) => f.severity === 'error').length;
  return (
    <section className="findings-map" aria-label={map.name}>
      <header>
        <h2>
          <Anchor component={Link} to={`/maps/${map.id}/shape`} inherit c="var(--ink)">
            {map.name}
          </Anchor>
        </h2>
        {data && (
          <>
            <Text size="xs" className="quiet" data-testid="finding-counts">
              {all.length === 0 ? 'nothing found' : `${word(errors, 'error')}, ${word(all.length - errors, 'warning')}`}
            </Text>
            <span className="badge" data-state={data.sealing}>
              {SEAL_WORDS[data.sealing]}
            </span>
          </>
        )}
        {isValidating ? (
          <Group gap={6} role="status">
            <Loader size="xs" />
            <Text size="xs">checking</Text>
          </Group>
        ) : (
          <Tooltip label="Check the map again as it is saved now">
            <Button
              variant="subtle"
              size="compact-xs"
              leftSection={<IconRefresh size={13} />}
              onClick={() => void mutate()}
            >
              Again
            </Button>
          </Tooltip>
        )}
      </header>
      {error ? (
        <Text size="xs" p={8} c="var(--madder)">
          {(error as Error).message}
        </Text>
      ) : null}
      {data && shown.length === 0 && (
        <Text size="xs" p={8} className="quiet">
          {all.length === 0 ? 'Nothing wrong was found.' : 'Nothing of this kind. Show all to see the rest.'}
        </Text>
      )}
      {shown.slice(0, LISTED).map((f) => (
        <FindingRow key={f.id} finding={f}>
          <Button
            component={Link}
            to={`/maps/${map.id}/shape`}
            state={{ finding: f }}
            variant="default"
            size="compact-xs"
          >
            {hasPlace(f) ? 'Go there' : 'Open the map'}
          </Button>
        </FindingRow>
      ))}
      {shown.length > LISTED && (
        <Text size="xs" p={8} className="quiet">
          And {shown.length - LISTED} more of this map. Search narrows them down.
        </Text>
      )}
    </section>
  );
}
