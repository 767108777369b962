import { Button, Group, Select, SimpleGrid, Text, Tooltip } from '@mantine/core';
import {
  call,
  decalOf,
  ENTITY_KINDS,
  ownsBrushes,
  entityKind,
  modelOf,
  moves,
  aroundIn,
  partsOf,
  propsOf,
  stillShows,
  readValues,
  wrapDegrees,
  type CommandArgs,
  type Entity,
  type EntityKind,
  type MapDocument,
} from '@yesca/core';
import { freeSelection, separateSelection, tryIt } from '../../commands/doors.ts';
import { commandById } from '../../palette/commands.ts';
import { keysOf } from '../../palette/keys.ts';
import { playFrom } from '../../commands/playing.ts';
import { useEditor } from '../../state/editor.ts';
import { selectOnly } from '../../state/selection.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { SkyDome, type InSky } from '../../fields/SkyDome.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { ParamPanel } from '../params/ParamPanel.tsx';
import { DecalFields } from './DecalFields.tsx';
import { PictureField } from './PictureField.tsx';
import { DecalSheet } from './DecalSheet.tsx';
import { thingChoices } from './thing-choices.ts';
import { Wires } from './Wires.tsx';
import { run, Section } from './shared.tsx';

/** The values of one thing, or of several: those of one kind share its parameters, those of different kinds where they stand. */
export function EntityParticulars({ doc, entities }: { doc: MapDocument; entities: readonly Entity[] }) {
  const first = entities[0]!;
  const kind = entities.every((e) => e.kind === first.kind) ? entityKind(first.kind) : undefined;
  const single = entities.length === 1;
  const ids = entities.map((e) => e.id);
  const change = (what: Omit<CommandArgs<'thing.change'>, 'things'>) =>
    run(call('thing.change', { things: ids, ...what }));
  const all = <T,>(of: (e: Entity) => T): T | null => (entities.every((e) => of(e) === of(first)) ? of(first) : null);
  const things = (to: string) =>
    to === 'thing' ? thingChoices([...doc.entities.values()].filter((e) => !entities.includes(e))) : [];
  const title = kind?.label ?? (single ? first.kind : 'Things');
  const carriers = [...doc.entities.values()].filter(
    (e) => !entities.includes(e) && moves(e) && !ids.some((id) => ridesOn(doc, e.id, id)),
  );
  return (
    <>
      <Section title={single ? title : `${title} · ${entities.length}`}>
        {single && (
          <TextField
            label="Name"
            value={first.name ?? ''}
            placeholder={kind?.label}
            onChange={(name) => change({ name })}
          />
        )}
        <SimpleGrid cols={3} spacing={4}>
          {['X', 'Y', 'Z'].map((a, i) => (
            <LengthField
              key={a}
              label={a}
              tip={['East', 'North', 'Up'][i]!}
              value={all((e) => e.at[i]!)}
              onChange={(to) => run(call('thing.put', { things: ids, axis: i as 0 | 1 | 2, to }))}
            />
          ))}
        </SimpleGrid>
        {single && kind?.inSky && <Standing thing={first} height={kind.inSky} />}
        {kind?.facing && (
          <LengthField
            label={kind.facing.label}
            tip={kind.facing.help}
            unit="°"
            value={all((e) => e.turn)}
            onChange={(turn) => change({ turn: wrapDegrees(turn) })}
          />
        )}
        {kind && kind.presets.length > 0 && (
          <Tooltip label="Gives it the values of a thing that people know; each can be changed afterwards">
            <Select
              label="Like"
              placeholder="its own values"
              data={kind.presets.map((p) => p.label)}
              value={presetOf(kind, entities)}
              onChange={(label) => {
                const preset = kind.presets.find((p) => p.label === label);
                if (preset) change({ params: preset.values });
              }}
            />
          </Tooltip>
        )}
        {entities.every((e) => decalOf(e)) && <DecalFields entities={entities} />}
        {entities.every((e) => modelOf(e)?.picture) && (
          <PictureField
            entities={entities}
            shown={entities.map((e) => modelOf(e)!.picture!)}
            suits={(m) => m.solidity !== 'solid'}
          />
        )}
        {single && decalOf(first) && <DecalSheet key={first.id} thing={first} />}
        {kind && (
          <ParamPanel
            specs={kind.params}
            values={entities.map((e) => readValues(kind.params, e.params))}
            choices={things}
            onChange={(key, value) => {
              const spec = kind.params[key]!;
              // Another prop is of another size.
              if (spec.type === 'reference' && spec.to === 'model' && typeof value === 'string')
                run(call('prop.replace', { things: ids, model: value }));
              else change({ params: { [key]: value ?? null } });
            }}
          />
        )}
        {(carriers.length > 0 || entities.some((e) => e.carrier)) && (
          <Tooltip label="What it rides on: it moves along with that in play">
            <Select
              label="Rides on"
              clearable
              placeholder={all((e) => e.carrier?.id ?? '') === null ? 'mixed' : 'nothing'}
              data={thingChoices(carriers)}
              value={all((e) => e.carrier?.id ?? '') || null}
              onChange={(carrier) => run(call('thing.ride', { things: ids, carrier }))}
            />
          </Tooltip>
        )}
        <RidesOnLeaf doc={doc} entities={entities} />
        {kind && <Likeness doc={doc} entities={entities} />}
        {single && kind && ownsBrushes(kind) && <Parts doc={doc} thing={first} />}
        {single && kind?.tries && (
          <Tooltip
            label={`Plays it in the Eye as the map stands, without a build — ${keysOf(commandById('thing.try'))}`}
          >
            <Button variant="default" size="xs" onClick={tryIt}>
              Try it
            </Button>
          </Tooltip>
        )}
        {single && kind?.spawns && (
          <Tooltip label="Walks the last build from this spawn; Play then begins here until another is chosen">
            <Button variant="default" size="xs" onClick={() => playFrom(first.id)}>
              Play from this spawn
            </Button>
          </Tooltip>
        )}
        <Text size="xs" c="dimmed">
          {kind?.help ??
            (single ? 'This kind comes from a newer version. It is kept as it is.' : 'Things of several kinds.')}
        </Text>
      </Section>
      {single && <Wires key={first.id} doc={doc} entity={first} />}
    </>
  );
}

/** Where something stands in the sky, to be dragged. */
function Standing({ thing, height }: { thing: Entity; height: string }) {
  const { params } = entityKind(thing.kind)!;
  const shown = useEditor((s) => (s.draft ?? s.doc).entities.get(thing.id)) ?? thing;
  const spec = params[height];
  const change = (to: InSky) =>
    call('thing.change', { things: [thing.id], turn: to.turn, params: { [height]: to.height } });
  return (
    <SkyDome
      label="Its place in the sky"
      at={{ turn: shown.turn, height: readValues(params, shown.params)[height] as number }}
      least={spec?.type === 'number' ? spec.min : 0}
      onMove={(to) => useEditor.getState().preview(change(to))}
      onChange={(to) => run(change(to))}
    />
  );
}

/** The known thing that all of some things are like; null for none. */
const presetOf = ({ presets, params }: EntityKind, entities: readonly Entity[]): string | null =>
  presets.find(({ values }) =>
    entities.every((e) => {
      const own = readValues(params, e.params);
      return Object.entries(values).every(([key, value]) => own[key] === value);
    }),
  )?.label ?? null;

/** Whether a thing rides on another, directly or by something else. */
function ridesOn(doc: MapDocument, thing: string, on: string): boolean {
  for (let up: string | undefined = thing; up !== undefined; up = doc.entities.get(up)?.carrier?.id)
    if (up === on) return true;
  return false;
}

/** Which leaf of a door with several some things ride on. */
function RidesOnLeaf({ doc, entities }: { doc: MapDocument; entities: readonly Entity[] }) {
  const carrier = doc.entities.get(entities[0]!.carrier?.id ?? '');
  if (!carrier || entities.some((e) => e.carrier?.id !== carrier.id)) return null;
  const count = aroundIn(doc).parts(carrier.id).length;
  if (count < 2 || !entityKind(carrier.kind)?.parted) return null;
  const on = new Set(entities.map((e) => e.carrier!.part ?? 0));
  const things = entities.map((e) => e.id);
  return (
    <Tooltip label="The leaf that it moves along with">
      <Select
        label="On leaf"
        placeholder={on.size > 1 ? 'mixed' : ''}
        data={Array.from({ length: count }, (_, k) => ({ value: String(k), label: String(k + 1) }))}
        value={on.size === 1 ? String([...on][0]) : null}
        allowDeselect={false}
        onChange={(part) =>
          part !== null && run(call('thing.ride', { things, carrier: carrier.id, part: Number(part) }))
        }
      />
    </Tooltip>
  );
}

/** The brushes and props that a thing consists of: how many, selected by a click, given back to themselves. */
function Parts({ doc, thing }: { doc: MapDocument; thing: Entity }) {
  const brushes = partsOf(doc, thing.id).flat();
  const props = propsOf(doc, thing.id).flat();
  const parts = aroundIn(doc).parts(thing.id);
  const said = [
    ...(brushes.length ? [`${brushes.length} brush${brushes.length === 1 ? '' : 'es'}`] : []),
    ...(props.length ? [`${props.length} prop${props.length === 1 ? '' : 's'}`] : []),
  ].join(', ');
  const several = entityKind(thing.kind)?.parted && parts.length > 1;
  return (
    <>
      {parts.map((_, part) => {
        const shows = stillShows(doc, thing.id, part);
        return (
          shows !== null && (
            <LengthField
              key={part}
              label={several ? `Leaf ${part + 1} still shows` : 'Still shows'}
              tip="How much of it still shows when it is open: it slides by its own size less this; negative when it goes farther"
              value={shows}
              onChange={(to) => run(call('door.stillShows', { thing: thing.id, part, shows: to }))}
            />
          )
        );
      })}
      {several && (
        <Tooltip label="Makes a door of each leaf: they open each by itself, and what opened this one opens all of them">
          <Button size="compact-xs" variant="default" onClick={separateSelection}>
            Separate the leaves
          </Button>
        </Tooltip>
      )}
      <Group gap={4} wrap="nowrap">
        <Text size="xs" c="dimmed" flex={1}>
          {said || 'No brushes or props'}
        </Text>
        {said && (
          <>
            <Tooltip label="Selects the brushes and props that belong to it">
              <Button
                size="compact-xs"
                variant="default"
                onClick={() =>
                  useEditor
                    .getState()
                    .select(
                      selectOnly([
                        ...brushes.map(({ id }) => ({ type: 'brush' as const, id })),
                        ...props.map(({ id }) => ({ type: 'entity' as const, id })),
                      ]),
                    )
                }
              >
                Select them
              </Button>
            </Tooltip>
            <Tooltip label="What belongs to it stands by itself again">
              <Button size="compact-xs" variant="default" onClick={freeSelection}>
                Take off
              </Button>
            </Tooltip>
          </>
        )}
      </Group>
    </>
  );
}

/** Takes the parameters of another thing of the kind, or becomes of another kind that stands in the map in the same way. */
function Likeness({ doc, entities }: { doc: MapDocument; entities: readonly Entity[] }) {
  const ids = entities.map((e) => e.id);
  const { kind } = entities[0]!;
  const like = [...doc.entities.values()].filter((e) => e.kind === kind && !ids.includes(e.id));
  const body = entityKind(kind)?.body;
  const kinds = ENTITY_KINDS.filter((k) => k.body === body && k.kind !== kind);
  return (
    <SimpleGrid cols={2} spacing={4}>
      <Tooltip label="Takes all parameters of another one; place, name and brushes stay">
        <Select
          label="As"
          placeholder={like.length ? 'another one' : 'there is no other'}
          disabled={like.length === 0}
          data={thingChoices(like)}
          value={null}
          onChange={(from) => from && run(call('thing.copyParams', { from, things: ids }))}
        />
      </Tooltip>
      <Tooltip label="Becomes another kind; what both have alike stays, and so do its brushes">
        <Select
          label="Turn into"
          placeholder="another kind"
          data={kinds.map((k) => ({ value: k.kind, label: k.label }))}
          value={null}
          onChange={(to) => to && run(call('thing.become', { things: ids, kind: to }))}
        />
      </Tooltip>
    </SimpleGrid>
  );
}
