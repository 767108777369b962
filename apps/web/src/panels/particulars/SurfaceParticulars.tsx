import { ActionIcon, Button, Group, Select, SimpleGrid, Switch, Text, Tooltip } from '@mantine/core';
import {
  IconArrowDown,
  IconArrowLeft,
  IconArrowRight,
  IconArrowsShuffle,
  IconArrowUp,
  IconBorderBottom,
  IconBorderLeft,
  IconBorderRight,
  IconBorderTop,
  IconColumns3,
  IconCopy,
  IconEaseInOutControlPoints,
  IconFlipHorizontal,
  IconFlipVertical,
  IconFocusCentered,
  IconFrame,
  IconMap2,
  IconPerspective,
  IconArrowsHorizontal,
  IconRotate2,
  IconRotateClockwise2,
  IconRulerMeasure,
  IconTexture,
  IconWorld,
} from '@tabler/icons-react';
import type { MouseEvent } from 'react';
import {
  call,
  entityName,
  findFaces,
  readFrame,
  reflects,
  regionsFor,
  writeFrame,
  type FaceRef,
  type FrameNumbers,
  type MapDocument,
} from '@yesca/core';
import { framesCall } from '../../tools/texture-box.ts';
import { useEditor } from '../../state/editor.ts';
import { commandById } from '../../palette/commands.ts';
import { keysOf } from '../../palette/keys.ts';
import { alignSelected, fitSelected, nudgeTexture, scatterSelected } from '../../commands/surfaces.ts';
import { Choice } from '../../fields/Choice.tsx';
import { LengthField } from '../../fields/LengthField.tsx';
import { materialFacts } from '../../state/library.ts';
import { MaterialSwatch } from '../MaterialSwatch.tsx';
import { ScatterProps } from './ScatterProps.tsx';
import { run, Section } from './shared.tsx';
import { useLaying } from '../../state/laying.ts';

/** One value when all agree, otherwise null. */
const shared = <T,>(values: readonly T[], same: (a: T, b: T) => boolean = Object.is): T | null =>
  values.every((v) => same(v, values[0]!)) ? (values[0] ?? null) : null;
const close = (a: number, b: number) => Math.abs(a - b) < 1e-6;

/** A small button with a tip. */
function Act({
  tip,
  label,
  icon: Icon,
  onClick,
}: {
  tip: string;
  label: string;
  icon: typeof IconWorld;
  onClick: (event: MouseEvent) => void;
}) {
  return (
    <Tooltip label={tip}>
      <ActionIcon variant="default" size={26} aria-label={label} onClick={onClick}>
        <Icon size={15} stroke={1.5} />
      </ActionIcon>
    </Tooltip>
  );
}

/** A command as a small button with its name and key. */
function Do({ id, icon }: { id: string; icon: typeof IconWorld }) {
  const command = commandById(id);
  const keys = keysOf(command);
  const tip = `${command.label}${keys === 'no key' ? '' : ` — ${keys}`}`;
  return <Act tip={tip} label={command.label} icon={icon} onClick={command.run} />;
}

/** How the selected faces are dressed: material, numbers of the texture, and all that can be done to lay it. */
export function SurfaceParticulars({ doc, refs }: { doc: MapDocument; refs: readonly FaceRef[] }) {
  const there = refs.filter((r) => doc.brushes.get(r.brush)?.faces.some((f) => f.id === r.face));
  if (there.length === 0) return null;
  const faces = findFaces(doc, there);
  const show = shared(faces.map((f) => f.face.show ?? 'drawn'));
  const materials = [...new Set(faces.map((f) => f.face.material))];
  return (
    <>
      <Section title={there.length === 1 ? 'Face' : `${there.length} faces`}>
        <Group gap={4}>
          {materials.slice(0, 5).map((name) => (
            <MaterialSwatch
              key={name}
              name={name}
              size={materials.length === 1 ? 64 : 34}
              withName={materials.length === 1}
            />
          ))}
          {materials.length > 1 && (
            <Text size="xs" c="dimmed">
              {materials.length} materials
            </Text>
          )}
        </Group>
        <Select
          label="Shown as"
          value={show}
          placeholder="mixed"
          allowDeselect={false}
          data={[
            { value: 'drawn', label: 'Its material' },
            { value: 'sky', label: 'Sky – lets the sun in' },
            { value: 'unseen', label: 'Unseen – never drawn' },
          ]}
          onChange={(v) =>
            v && run(call('face.show', { faces: there, show: v === 'drawn' ? null : (v as 'sky' | 'unseen') }))
          }
        />
        <SimpleGrid cols={2} spacing={4}>
          <LengthField
            label="Mirror"
            tip="How much of the light it reflects as a mirror, 0 to 1"
            unit=""
            value={shared(faces.map((f) => f.face.mirror ?? 0))}
            onChange={(v) => run(call('face.mirrorStrength', { faces: there, mirror: v }))}
          />
          <LengthField
            label="Grain"
            tip="How coarse the lightmap is here against the rest: 0.5 is twice as fine, 4 four times as coarse"
            unit="×"
            value={shared(faces.map((f) => f.face.grain ?? 1))}
            onChange={(v) => run(call('face.grain', { faces: there, grain: v }))}
          />
        </SimpleGrid>
        <Reflects doc={doc} refs={there} chosen={faces.map((f) => f.face.reflection ?? '')} />
      </Section>
      <Numbers refs={there} faces={faces} />
      <Laying doc={doc} refs={there} />
      <ScatterProps refs={there} />
    </>
  );
}

/** Whose reflections they show. Nothing where there is nothing to choose. */
function Reflects({ doc, refs, chosen }: { doc: MapDocument; refs: readonly FaceRef[]; chosen: readonly string[] }) {
  const probes = [...doc.entities.values()].filter(reflects);
  if (probes.length === 0) return null;
  return (
    <Tooltip label="The reflection probe whose surroundings they reflect, as far as their material shines">
      <Select
        label="Reflects"
        value={shared(chosen)}
        placeholder="mixed"
        allowDeselect={false}
        data={[
          { value: '', label: 'What the nearest probe sees' },
          ...probes.map((e) => ({ value: e.id, label: entityName(e) })),
        ]}
        onChange={(v) => v !== null && run(call('face.reflection', { faces: refs, thing: v === '' ? null : v }))}
      />
    </Tooltip>
  );
}

/** Offset, scale, turn and skew. */
function Numbers({ refs, faces }: { refs: readonly FaceRef[]; faces: ReturnType<typeof findFaces> }) {
  const numbers = faces.map(({ frame, plane }) => readFrame(frame, plane));
  const set = (change: (n: FrameNumbers) => FrameNumbers) =>
    run(
      framesCall(useEditor.getState().doc, refs, ({ frame, plane }) =>
        writeFrame(change(readFrame(frame, plane)), plane),
      ),
    );
  const pair = (which: 'offset' | 'scale', i: 0 | 1, v: number) =>
    set((n) => ({ ...n, [which]: i === 0 ? [v, n[which][1]] : [n[which][0], v] }));
  const one = (read: (n: FrameNumbers) => number) => shared(numbers.map(read), close);
  return (
    <Section title="Texture">
      <SimpleGrid cols={2} spacing={4}>
        {([0, 1] as const).map((i) => (
          <LengthField
            key={`o${i}`}
            label={i === 0 ? 'Offset across' : 'Offset down'}
            tip="How far the picture is moved, in texels"
            unit="tx"
            value={one((n) => n.offset[i])}
            onChange={(v) => pair('offset', i, v)}
          />
        ))}
        {([0, 1] as const).map((i) => (
          <LengthField
            key={`s${i}`}
            label={i === 0 ? 'Scale across' : 'Scale down'}
            tip="Centimetres a texel covers; 0.5 is usual, negative mirrors"
            value={one((n) => n.scale[i])}
            onChange={(v) => pair('scale', i, v)}
          />
        ))}
        <LengthField
          label="Turn"
          tip="Degrees, counter-clockwise seen from in front"
          unit="°"
          value={one((n) => n.turn)}
          onChange={(v) => set((n) => ({ ...n, turn: v }))}
        />
        <LengthField
          label="Skew"
          tip="By how many degrees courses rise to the right while columns stay upright"
          unit="°"
          value={one((n) => n.skew)}
          onChange={(v) => set((n) => ({ ...n, skew: Math.max(-85, Math.min(85, v)) }))}
        />
      </SimpleGrid>
    </Section>
  );
}

/** Everything that lays textures, in rows of small buttons. */
function Laying({ doc, refs }: { doc: MapDocument; refs: readonly FaceRef[] }) {
  const { asPiece, repeats, seam, closeFlow, texelStep, nudgeBy } = useLaying();
  const set = useLaying.setState;
  const ranked = regionsFor(doc, refs[0]!, materialFacts);
  return (
    <Section title="Lay">
      <Group gap={4} wrap="nowrap" justify="space-between">
        <Tooltip label="Faces that hang together are laid as one sheet — Shift D">
          <Switch
            size="xs"
            label="As one piece"
            checked={asPiece}
            disabled={refs.length < 2}
            onChange={(e) => set({ asPiece: e.currentTarget.checked })}
          />
        </Tooltip>
        <Do id="surface.flat" icon={IconMap2} />
      </Group>
      <Group gap={3}>
        <Do id="surface.world" icon={IconWorld} />
        <Do id="surface.face" icon={IconPerspective} />
        <Do id="surface.natural" icon={IconRulerMeasure} />
        <Do id="surface.turn" icon={IconRotate2} />
        <Act
          tip="Turn the picture a quarter back"
          label="Turn the picture a quarter back"
          icon={IconRotateClockwise2}
          onClick={() => alignSelected({ do: 'turn', degrees: -90 })}
        />
        <Do id="surface.flip" icon={IconFlipHorizontal} />
        <Do id="surface.flipDown" icon={IconFlipVertical} />
      </Group>
      <Group gap={3}>
        <Do id="surface.left" icon={IconBorderLeft} />
        <Do id="surface.right" icon={IconBorderRight} />
        <Do id="surface.top" icon={IconBorderTop} />
        <Do id="surface.bottom" icon={IconBorderBottom} />
        <Do id="surface.centre" icon={IconFocusCentered} />
      </Group>
      <Group gap={4} wrap="nowrap" align="end">
        {([0, 1] as const).map((i) => (
          <LengthField
            key={i}
            label={i === 0 ? 'Across' : 'Down'}
            tip={`How often Fit repeats the picture ${i === 0 ? 'across' : 'down'}`}
            unit="×"
            value={repeats[i]}
            onChange={(v) => v > 0 && set({ repeats: i === 0 ? [v, repeats[1]] : [repeats[0], v] })}
          />
        ))}
        <Tooltip
          label={`Fit the picture to the face, or to all faces as one piece — ${keysOf(commandById('surface.fit'))}`}
        >
          <Button variant="default" px={10} miw={46} onClick={fitSelected}>
            Fit
          </Button>
        </Tooltip>
      </Group>
      {ranked.length > 0 && (
        <Group gap={4} wrap="nowrap" align="end">
          <Select
            flex={1}
            label="Region"
            placeholder="Lay a region …"
            value={null}
            data={ranked.map(({ region, stretch }, i) => ({
              value: region.name,
              label: `${region.name}${i === 0 ? ' – suits best' : stretch > 1.5 ? ` – stretched ${stretch.toFixed(1)}×` : ''}`,
            }))}
            onChange={(name) => name && alignSelected({ do: 'region', name })}
          />
          <Do id="surface.region" icon={IconFrame} />
        </Group>
      )}
      <Group gap={3} wrap="nowrap" align="end">
        {(
          [
            ['Left', -1, 0, IconArrowLeft],
            ['Right', 1, 0, IconArrowRight],
            ['Up', 0, -1, IconArrowUp],
            ['Down', 0, 1, IconArrowDown],
          ] as const
        ).map(([way, across, down, Icon]) => (
          <Act
            key={way}
            tip={`Move the picture ${way.toLowerCase()} — Shift ${way}`}
            label={`Move the picture ${way.toLowerCase()}`}
            icon={Icon}
            onClick={() => nudgeTexture(across, down)}
          />
        ))}
        <Tooltip label="Move it by the grid's step on the face, or by texels">
          <Switch
            size="xs"
            label="Grid"
            checked={nudgeBy === 'grid'}
            onChange={(e) => set({ nudgeBy: e.currentTarget.checked ? 'grid' : 'texels' })}
          />
        </Tooltip>
      </Group>
      <Group gap={4} wrap="nowrap">
        <LengthField
          label="Step"
          tip="Texels a move of the picture goes"
          unit="tx"
          disabled={nudgeBy === 'grid'}
          value={texelStep}
          onChange={(v) => v > 0 && set({ texelStep: v })}
        />
      </Group>
      <Text size="xs" c="dimmed">
        From the first face to the others
      </Text>
      <Group gap={3}>
        <Do id="surface.flow" icon={IconEaseInOutControlPoints} />
        <Do id="surface.copy" icon={IconCopy} />
        <Do id="surface.mirror" icon={IconArrowsHorizontal} />
        <Do id="surface.both" icon={IconColumns3} />
        <Act
          tip="Start each face’s picture somewhere else, another way every time; with Shift turned too"
          label="Scatter the pictures"
          icon={IconArrowsShuffle}
          onClick={(e) => scatterSelected(e.shiftKey)}
        />
        <Do id="surface.with" icon={IconTexture} />
      </Group>
      {refs.length > 1 && (
        <Group gap={6} wrap="nowrap">
          <Choice
            label="Seam"
            tip="Where a flow round a column or a pipe is cut: opposite the first face, or at its left or right edge"
            value={seam}
            options={[
              ['far', 'Far'],
              ['left', 'Left'],
              ['right', 'Right'],
            ]}
            onChange={(v) => set({ seam: v })}
          />
          <Tooltip label="Lay the picture a little larger or smaller, so that whole repeats close the ring">
            <Switch
              size="xs"
              label="Close"
              checked={closeFlow}
              onChange={(e) => set({ closeFlow: e.currentTarget.checked })}
            />
          </Tooltip>
        </Group>
      )}
    </Section>
  );
}
