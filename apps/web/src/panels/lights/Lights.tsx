import './lights.css';
import { ActionIcon, Button, Progress, Select, Slider, Text, Tooltip, UnstyledButton } from '@mantine/core';
import { IconBulb, IconBulbOff, IconFocus2 } from '@tabler/icons-react';
import { memo, useMemo } from 'react';
import { call, entityKind, entityName, strengthOf } from '@yesca/core';
import { makeLux, holdMeter } from '../../commands/lights.ts';
import { KindSymbol } from '../../fields/KindSymbol.tsx';
import { LengthField } from '../../fields/LengthField.tsx';
import { Toggle } from '../../fields/Toggle.tsx';
import { useDisplay } from '../../state/display.ts';
import { useEditor } from '../../state/editor.ts';
import { toggled } from '../../state/lists.ts';
import { materialLabel, useLibrary } from '../../state/library.ts';
import { hasLight, lightBytes, litOfBuild, useLit, useLitOptions, useMapLit, type Lit } from '../../state/lit.ts';
import { luxThere, useMeter } from '../../state/meter.ts';
import { notifyError } from '../../state/notify.ts';
import { useBuilds } from '../../state/remote.ts';
import { selectOnly, toggleThings } from '../../state/selection.ts';
import { Behind, useFollowed } from '../Behind.tsx';
import { run } from '../particulars/shared.tsx';
import { Moods } from './Moods.tsx';
import { Reflections } from './Reflections.tsx';
import { lightRows, type LightRow } from './rows.ts';

/** All that shines in a map: what each gives of its light, how strong it is, and how it would be without the others. */
export function Lights() {
  const shown = useDisplay((s) => s.eyeMode === 'lit');
  const { doc, behind } = useFollowed(useEditor((s) => s.draft ?? s.doc));
  const lit = useMapLit();
  const materials = useLibrary((s) => s.materials);
  const rows = useMemo(
    () =>
      lightRows(doc, lit?.ledger.layers ?? null, (name) => materials.get(name), {
        thing: (id) => entityName(doc.entities.get(id)),
        material: materialLabel,
      }),
    [doc, lit, materials],
  );
  return (
    <Behind when={behind}>
      <div className="lights">
        {shown ? <Shown /> : <ShowIt />}
        {shown && lit && <Meter />}
        <Moods />
        <ul className="light-list" aria-label="Lights, strongest first">
          {rows.map((row) => (
            <Row key={row.name} row={row} strength={row.thing ? strengthOf(doc.entities.get(row.thing)!) : null} />
          ))}
        </ul>
        {rows.every((r) => r.thing === null) && (
          <Text size="xs" c="dimmed" px={12}>
            Nothing shines here yet. Place a lamp: tool Place (L), then click where it hangs.
          </Text>
        )}
        <Reflections lit={lit} />
      </div>
    </Behind>
  );
}

function ShowIt() {
  return (
    <div className="lights-state">
      <Text size="xs">The Eye shows the map without its light.</Text>
      <Tooltip label="Show the light of the map in the Eye — S">
        <Button size="compact-xs" className="act" onClick={() => useDisplay.setState({ eyeMode: 'lit' })}>
          Show the light
        </Button>
      </Tooltip>
    </div>
  );
}

/** Where the light comes from that is shown, and how it is shown. */
function Shown() {
  const lit = useMapLit();
  const done = useLit((s) => s.done);
  const { live, stops, banded, dark, bright, luxels, relief, details } = useLitOptions();
  const set = useLitOptions.setState;
  const from = !lit
    ? 'No light yet'
    : lit.from === 'live'
      ? `Live, as fine as ${lit.preset}`
      : `Of the last ${lit.preset} build`;
  return (
    <div className="lights-state">
      <Text size="xs" data-testid="lit-from" role="status">
        {from}
        {!lit && !live && ': build the map, or let light follow it.'}
        {lit && !hasLight(lit) && ': nothing shines, so the Eye shows the light of the workroom.'}
      </Text>
      <Progress
        size={3}
        value={(done ?? 1) * 100}
        aria-label="Light that is being found"
        style={{ visibility: done === null ? 'hidden' : 'visible' }}
      />
      <Toggle
        label="Live"
        tip="Light follows the map while you work; else it is that of the last build"
        value={live}
        onChange={(on) => set({ live: on })}
      />
      <Tooltip label="Brighter or darker than in Play, in stops: one more is twice as bright">
        <div className="lights-slider">
          <span>Exposure</span>
          <Slider
            size="xs"
            aria-label="Exposure"
            min={-6}
            max={6}
            step={0.5}
            value={stops}
            label={(v) => (v > 0 ? `+${v}` : v)}
            onChange={(v) => set({ stops: v })}
          />
        </div>
      </Tooltip>
      <Toggle
        label="Stripe what is too dark or too bright"
        tip="Blue stripes where it is too dark for play, red ones where it is too bright"
        value={banded}
        onChange={(on) => set({ banded: on })}
      />
      <Toggle
        label="Show luxels"
        tip="Lines between the luxels, each eighth one stronger: how fine the light is where"
        value={luxels}
        onChange={(on) => set({ luxels: on })}
      />
      <Toggle
        label="Relief and reflections"
        tip="What is uneven or shiny shows it, here and in Play; off draws faster"
        value={relief}
        onChange={(on) => set({ relief: on })}
      />
      <Toggle
        label="Full detail"
        tip="Decals that are for full detail only are seen, here and in Play; off leaves them out"
        value={details}
        onChange={(on) => set({ details: on })}
      />
      {lit && <Budget lit={lit} />}
      <Compare />
      {banded && (
        <div className="lights-pair">
          <LengthField
            label="Too dark below"
            tip="Striped blue"
            unit="lx"
            value={dark}
            onChange={(v) => set({ dark: Math.max(0, v) })}
          />
          <LengthField
            label="Too bright above"
            tip="Striped red"
            unit="lx"
            value={bright}
            onChange={(v) => set({ bright: Math.max(0, v) })}
          />
        </div>
      )}
    </div>
  );
}

/** What the light takes, against what it may. */
function Budget({ lit }: { lit: Lit }) {
  const budget = useLitOptions((s) => s.budget);
  const megabytes = lightBytes(lit.level) / 1e6;
  return (
    <div className="lights-budget" data-over={megabytes > budget || undefined}>
      <LengthField
        label={`Light takes ${megabytes.toFixed(1)} of`}
        tip={`${(lit.level.lightTexels.length / 1e6).toFixed(2)} million luxels on ${lit.level.meta.pages.length} pages, as fine as ${lit.preset}; with what play can switch. Type what it may take`}
        unit="MB"
        value={budget}
        onChange={(v) => useLitOptions.setState({ budget: Math.max(0.1, v) })}
      />
      <Progress
        size={4}
        value={Math.min(100, (megabytes / budget) * 100)}
        color={megabytes > budget ? 'var(--madder)' : 'var(--indigo)'}
        aria-label="What the light takes of what it may"
      />
      {megabytes > budget && (
        <Text size="xs">Too much: give large faces a coarser grain, or join lamps that are switched together.</Text>
      )}
    </div>
  );
}

/** Another build to see beside what is shown. */
function Compare() {
  const mapId = useEditor((s) => s.mapId);
  const beside = useLit((s) => s.beside);
  const { data: builds, mutate } = useBuilds(mapId ?? '');
  const done = builds?.filter((b) => b.status === 'done') ?? [];
  const choose = async (id: string | null): Promise<void> => {
    const build = done.find((b) => b.id === id);
    if (!build || !mapId) return useLit.setState({ beside: null });
    try {
      const lit = await litOfBuild(mapId, build, new AbortController().signal);
      useLit.setState({ beside: { build: build.id, lit } });
    } catch (error) {
      notifyError(error);
    }
  };
  const difference = useLitOptions((s) => s.difference);
  return (
    <>
      <Tooltip label="Shows another build left of a line in the Eye that can be dragged">
        <Select
          size="xs"
          label="Compare with"
          placeholder={done.length > 0 ? 'a build' : 'no builds yet'}
          nothingFoundMessage="Build the map first (Ctrl B): its builds are listed here."
          clearable
          // Others may have built it meanwhile.
          onDropdownOpen={() => void mutate()}
          value={beside?.build ?? null}
          data={done.map((b) => ({ value: b.id, label: `${b.preset}, ${whenOf(b.startedAt)}` }))}
          onChange={(id) => void choose(id)}
        />
      </Tooltip>
      {beside && (
        <Toggle
          label="Show the difference"
          tip="Red where it is brighter than that build, blue where it is darker, by up to a stop: twice or half. Lines lie a quarter of a stop apart, and what only one of them has is striped"
          value={difference}
          onChange={(on) => useLitOptions.setState({ difference: on })}
        />
      )}
    </>
  );
}

const whenOf = (at: string): string =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

const showLux = (lux: number): string => (lux >= 100 ? lux.toFixed(0) : lux >= 1 ? lux.toFixed(1) : lux.toFixed(2));

/** Reads the light at the pointer, or where it was told to stay; there it can be set. */
function Meter() {
  const { pointed, held } = useMeter();
  const lit = useLit((s) => s.lit)!;
  // The light that is shown may be mixed anew.
  useLit((s) => s.mixed);
  const at = held ?? pointed;
  const lux = at && luxThere(lit, at);
  const beside = useLit((s) => s.beside);
  const other = at && beside && luxThere(beside.lit, at);
  return (
    <div className="lights-state">
      <div className="lights-meter">
        <span>{held ? 'Held place' : 'At the pointer'}</span>
        <b className="mono" data-testid="meter">
          {lux === null ? '—' : `${showLux(lux)} lx`}
          {other !== null && lux !== null && (
            <span className="quiet" data-testid="meter-beside">
              {` · ${showLux(other)} beside, ${other > 0 ? `${Math.round((lux / other - 1) * 100)} %` : '—'}`}
            </span>
          )}
        </b>
        <Tooltip
          label={
            held
              ? 'Let the meter follow the pointer again — Alt K'
              : 'Let the meter stay: point at a lit place in the Eye and press Alt K'
          }
        >
          <ActionIcon size="sm" aria-label="Hold the meter" aria-pressed={held !== null} onClick={holdMeter}>
            <IconFocus2 size={15} stroke={1.5} />
          </ActionIcon>
        </Tooltip>
      </div>
      {held && (
        <LengthField
          label="Make it here"
          tip="Sets the chosen lights, or all, so strong that this place has so many lux"
          unit="lx"
          value={lux === null ? null : Number(showLux(lux))}
          onChange={makeLux}
        />
      )}
    </div>
  );
}

/** The slider of a strength goes by tenfold: from a hundredth to a million. */
const LEAST = -2;
const MOST = 6;
const toSlider = (strength: number): number =>
  strength > 0 ? Math.max(LEAST, Math.min(MOST, Math.log10(strength))) : LEAST;
const fromSlider = (place: number): number => (place <= LEAST ? 0 : Number((10 ** place).toPrecision(3)));

const percent = (part: number): string => `${(part * 100).toFixed(1)} %`;

/** What a light gives, and what it costs, in words. */
const sharesOf = ({ share, work }: LightRow): string =>
  `${percent(share ?? 0)} of the map’s light${work === null ? '' : `; ${percent(work)} of the work of finding it (the mark)`}`;

const Row = memo(function Row({ row, strength }: { row: LightRow; strength: number | null }) {
  const { name, label, thing, share, work, changed } = row;
  const kind = useEditor((s) => (thing ? s.doc.entities.get(thing)?.kind : undefined));
  const selected = useEditor((s) => thing !== null && s.selection.entities.has(thing));
  const alone = useLit((s) => s.alone.has(name));
  const out = useLit((s) => s.out.has(name));
  const unit = kind && entityKind(kind)?.params[entityKind(kind)!.strength ?? ''];
  /** The lights that a change of this one's strength is of: all that are chosen, when it is one of them. */
  const together = (value: number): Record<string, number> => {
    const { selection, doc } = useEditor.getState();
    const own = strengthOf(doc.entities.get(thing!)!);
    if (!selection.entities.has(thing!) || own <= 0) return { [thing!]: value };
    const chosen = [...selection.entities].filter((id) => strengthOf(doc.entities.get(id)!) > 0);
    return Object.fromEntries(chosen.map((id) => [id, (strengthOf(doc.entities.get(id)!) * value) / own]));
  };
  const change = (value: number) => call('light.strengths', { strengths: together(value) });
  const flip = (of: 'alone' | 'out') => useLit.setState({ [of]: new Set(toggled([...useLit.getState()[of]], name)) });
  return (
    <li className="light-row" data-active={selected || undefined} data-out={out || undefined}>
      <div className="light-head">
        <UnstyledButton
          className="light-name"
          disabled={!thing}
          onClick={(e) => {
            if (!thing) return;
            const one = { type: 'entity', id: thing } as const;
            const { selection, select } = useEditor.getState();
            select(e.ctrlKey || e.metaKey || e.shiftKey ? toggleThings(selection, [one]) : selectOnly([one]));
          }}
        >
          {kind ? <KindSymbol kind={kind} size={16} /> : <span className="light-swatch" />}
          <span className="row-label">{label}</span>
        </UnstyledButton>
        <Tooltip label={alone ? 'Show the others again' : 'Show what this light gives alone'}>
          <ActionIcon size="xs" aria-label={`${label} alone`} aria-pressed={alone} onClick={() => flip('alone')}>
            <IconBulb size={13} stroke={1.5} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label={out ? 'Show it again' : 'Show the map without this light'}>
          <ActionIcon size="xs" aria-label={`Without ${label}`} aria-pressed={out} onClick={() => flip('out')}>
            <IconBulbOff size={13} stroke={1.5} />
          </ActionIcon>
        </Tooltip>
      </div>
      <Tooltip label={sharesOf(row)} disabled={share === null}>
        <div className="light-share">
          <span style={{ width: `${Math.max(0, share ?? 0) * 100}%` }} />
          {work !== null && <i style={{ left: `${work * 100}%` }} />}
        </div>
      </Tooltip>
      {thing && strength !== null && (
        <div className="light-strength">
          <Slider
            size="xs"
            aria-label={`Strength of ${label}`}
            min={LEAST}
            max={MOST}
            step={0.05}
            label={null}
            value={toSlider(strength)}
            onChange={(v) => useEditor.getState().preview(change(fromSlider(v)))}
            onChangeEnd={(v) => run(change(fromSlider(v)))}
          />
          <LengthField
            label={`Strength of ${label}, typed`}
            tip="How strong it is; chosen lights change together, each by as much"
            unit={unit && 'unit' in unit ? unit.unit : 'cd'}
            value={strength}
            onChange={(v) => run(change(Math.max(0, v)))}
          />
        </div>
      )}
      {changed && <span className="quiet light-note">moved since it was lit</span>}
    </li>
  );
});
