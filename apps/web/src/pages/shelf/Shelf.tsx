import './shelf.css';
import {
  ActionIcon,
  Button,
  Group,
  Menu,
  Modal,
  Select,
  Stack,
  Text,
  TextInput,
  Title,
  Tooltip,
  UnstyledButton,
} from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { IconDots, IconPlus, IconSearch } from '@tabler/icons-react';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { MapBody, MapCard, ProjectCard } from '@yesca/contract';
import { planDrawing } from '@yesca/core';
import { PlanAt, PlanPicture } from '../../panels/PlanPicture.tsx';
import { TEMPLATES } from '@yesca/stock';
import { api } from '../../api/client.ts';
import { fileName, saveFile } from '../../api/save-file.ts';
import { useProjects } from '../../state/remote.ts';
import { notifyError } from '../../state/notify.ts';
import { ThemeSwitch } from '../ThemeSwitch.tsx';

/** The start page: projects and their maps, each as the plan of the map itself. */
export function Shelf() {
  const { data: projects, error, mutate } = useProjects();
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState('made');
  const [making, setMaking] = useState<string | null>(null);
  const doing = (work: () => Promise<unknown>) => void work().then(() => mutate(), notifyError);

  const newProject = () =>
    doing(() => api('POST', '/api/projects', { name: `Project ${(projects?.length ?? 0) + 1}` }));
  return (
    <div className="shelf">
      <header className="shelf-head">
        <Group gap={10} align="baseline">
          <Title order={1} className="wordmark">
            Yesca
          </Title>
          <Text className="quiet">a workshop for first-person levels</Text>
        </Group>
        <Group gap={8}>
          <TextInput
            leftSection={<IconSearch size={14} />}
            placeholder="Search maps"
            aria-label="Search maps"
            value={search}
            onChange={(e) => setSearch(e.currentTarget.value)}
            onKeyDown={(e) => e.key === 'Escape' && e.currentTarget.blur()}
          />
          <Select
            aria-label="Sort maps"
            w={150}
            allowDeselect={false}
            value={order}
            onChange={(v) => setOrder(v ?? 'made')}
            data={[
              { value: 'made', label: 'In project order' },
              { value: 'recent', label: 'Last changed first' },
              { value: 'name', label: 'By name' },
            ]}
          />
          <Button variant="default" component={Link} to="/materials">
            Materials
          </Button>
          <Button variant="default" component={Link} to="/props">
            Props
          </Button>
          <Button variant="default" onClick={newProject}>
            New project
          </Button>
          <ThemeSwitch />
        </Group>
      </header>
      <main className="shelf-body">
        {error ? <Text c="var(--madder)">{(error as Error).message}</Text> : null}
        {projects?.length === 0 && (
          <Stack align="flex-start" gap={8} maw={460} mt={40}>
            <Title order={2}>An empty shelf</Title>
            <Text>
              A project holds maps that belong together. Start one, then add a map from a template: a sealed room is
              ready to build and walk at once.
            </Text>
            <Button className="act" onClick={newProject}>
              Start a project
            </Button>
          </Stack>
        )}
        {projects?.map((p) => (
          <Project key={p.id} project={p} search={search} order={order} onNew={() => setMaking(p.id)} doing={doing} />
        ))}
      </main>
      <NewMap projectId={making} onClose={() => setMaking(null)} />
    </div>
  );
}

const sorted = (maps: readonly MapCard[], order: string): MapCard[] =>
  [...maps].sort((a, b) =>
    order === 'name' ? a.name.localeCompare(b.name) : order === 'recent' ? b.updatedAt.localeCompare(a.updatedAt) : 0,
  );

function Project({
  project,
  search,
  order,
  onNew,
  doing,
}: {
  project: ProjectCard;
  search: string;
  order: string;
  onNew: () => void;
  doing: (work: () => Promise<unknown>) => void;
}) {
  const [name, setName] = useState<string | null>(null);
  const maps = sorted(
    project.maps.filter((m) => m.name.toLowerCase().includes(search.toLowerCase())),
    order,
  );
  const rename = () => {
    if (name?.trim() && name !== project.name)
      doing(() => api('PATCH', `/api/projects/${project.id}`, { name: name.trim() }));
    setName(null);
  };
  return (
    <section className="project">
      <Group gap={6} mb={10}>
        {name === null ? (
          <Title order={2} className="project-name" onDoubleClick={() => setName(project.name)}>
            {project.name}
          </Title>
        ) : (
          <TextInput
            autoFocus
            onFocus={(e) => e.currentTarget.select()}
            aria-label="Project name"
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            onBlur={rename}
            onKeyDown={(e) => (e.key === 'Enter' ? rename() : e.key === 'Escape' && setName(null))}
          />
        )}
        <Menu position="bottom-start" returnFocus={false}>
          <Menu.Target>
            <ActionIcon aria-label={`Menu of project ${project.name}`}>
              <IconDots size={16} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item component={Link} to={`/projects/${project.id}/findings`}>
              Findings of its maps
            </Menu.Item>
            <Menu.Item onClick={() => setName(project.name)}>Rename</Menu.Item>
            <Menu.Item onClick={() => remove(`/api/projects/${project.id}`, `Project ${project.name} deleted`, doing)}>
              Delete
            </Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </Group>
      <div className="cards">
        {maps.map((m) => (
          <Card key={m.id} map={m} doing={doing} />
        ))}
        <Tooltip label="New map from a template or a file">
          <UnstyledButton className="card card-new" onClick={onNew}>
            <IconPlus size={22} stroke={1.3} />
            New map
          </UnstyledButton>
        </Tooltip>
      </div>
    </section>
  );
}

/** Deletes with a notice that takes it back. */
function remove(path: string, message: string, doing: (work: () => Promise<unknown>) => void): void {
  doing(async () => {
    await api('DELETE', path);
    const id = notifications.show({
      message: (
        <Group justify="space-between">
          {message}
          <Button
            variant="default"
            onClick={() => {
              notifications.hide(id);
              doing(() => api('POST', `${path}/restore`));
            }}
          >
            Undo
          </Button>
        </Group>
      ),
      autoClose: 12_000,
      withBorder: true,
      color: 'var(--ink)',
    });
  });
}

const when = (iso: string): string =>
  new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));

function Card({ map, doing }: { map: MapCard; doing: (work: () => Promise<unknown>) => void }) {
  const [name, setName] = useState<string | null>(null);
  const build = map.lastBuild;
  const rename = () => {
    if (name?.trim() && name !== map.name) doing(() => api('PATCH', `/api/maps/${map.id}`, { name: name.trim() }));
    setName(null);
  };
  return (
    <article className="card">
      <Link to={`/maps/${map.id}/shape`} className="card-plan" aria-label={`Open ${map.name}`}>
        <PlanAt address={map.drawing} />
      </Link>
      <div className="card-foot">
        <div className="card-text">
          {name === null ? (
            <Link to={`/maps/${map.id}/shape`} className="card-name">
              {map.name}
            </Link>
          ) : (
            <TextInput
              autoFocus
              onFocus={(e) => e.currentTarget.select()}
              aria-label="Map name"
              value={name}
              onChange={(e) => setName(e.currentTarget.value)}
              onBlur={rename}
              onKeyDown={(e) => (e.key === 'Enter' ? rename() : e.key === 'Escape' && setName(null))}
            />
          )}
          <Text size="xs" c="dimmed">
            {map.summary.brushes} brushes · {when(map.updatedAt)}
          </Text>
        </div>
        <Menu position="bottom-end" returnFocus={false}>
          <Menu.Target>
            <ActionIcon aria-label={`Menu of ${map.name}`}>
              <IconDots size={16} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item component={Link} to={`/maps/${map.id}/shape`}>
              Open
            </Menu.Item>
            <Menu.Item component={Link} to={`/maps/${map.id}/play`}>
              Play
            </Menu.Item>
            <Menu.Item onClick={() => setName(map.name)}>Rename</Menu.Item>
            <Menu.Item onClick={() => doing(() => api('POST', `/api/maps/${map.id}/duplicate`))}>Duplicate</Menu.Item>
            <Menu.Item onClick={() => void saveMap(map)}>Save as a file</Menu.Item>
            <Menu.Item onClick={() => remove(`/api/maps/${map.id}`, `${map.name} deleted`, doing)}>Delete</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
      <span className="badge card-badge" data-state={build ? (build.sealed ? 'sealed' : 'leaking') : 'none'}>
        {build ? (build.sealed ? 'sealed' : 'leaking') : 'never built'}
      </span>
    </article>
  );
}

async function saveMap(map: MapCard): Promise<void> {
  try {
    const { document: text } = await api<MapBody>('GET', `/api/maps/${map.id}`);
    saveFile(fileName(map.name, '.yesca.json'), text);
  } catch (error) {
    notifyError(error);
  }
}

/** Choosing how a new map begins: a template, drawn as a plan, or a file. */
function NewMap({ projectId, onClose }: { projectId: string | null; onClose: () => void }) {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const drawings = useMemo(() => TEMPLATES.map((t) => planDrawing(t.make('Template'))), []);
  const make = async (body: { template: string } | { document: string }, fallback: string) => {
    try {
      const map = await api<MapBody>('POST', '/api/maps', { projectId, name: name.trim() || fallback, ...body });
      void navigate(`/maps/${map.id}/shape`);
    } catch (error) {
      notifyError(error);
    }
  };
  return (
    <Modal opened={projectId !== null} onClose={onClose} title="New map" size={640} centered>
      <TextInput
        label="Name"
        placeholder="Untitled"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        data-autofocus
        mb={14}
      />
      <div className="templates">
        {TEMPLATES.map((t, i) => (
          <UnstyledButton key={t.key} className="template" onClick={() => void make({ template: t.key }, t.label)}>
            <span className="card-plan">
              <PlanPicture drawing={drawings[i]!} />
            </span>
            <span className="card-name">{t.label}</span>
            <Text size="xs" c="dimmed">
              {t.tip}
            </Text>
          </UnstyledButton>
        ))}
      </div>
      <Group mt={14} gap={8}>
        <Button component="label" variant="default">
          Open a map file…
          <input
            type="file"
            accept=".json,application/json"
            hidden
            onChange={(e) => {
              const file = e.currentTarget.files?.[0];
              if (file)
                void file.text().then((document) => make({ document }, file.name.replace(/(\.yesca)?\.json$/, '')));
            }}
          />
        </Button>
        <Text size="xs" c="dimmed">
          Map files end in .yesca.json
        </Text>
      </Group>
    </Modal>
  );
}
