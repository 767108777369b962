import { ActionIcon, Button, ColorInput, Group, Select, SimpleGrid, Stack, Switch, Text, Tooltip } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import {
  changeEntity, changeOpening, changeRoom, changeSettings, entityKind, movePicked, pickedBounds, readFrame, releaseRoom, removeOpenings, renameMap,
  resizePicked, setFrames, setRole, setShow, worldFrame, faceFrame, writeFrame, brushPlanes, turnFrame, sharedWalls,
  type Box, type Entity, type FaceRef, type FrameNumbers, type MapDocument, type Role, type Room, type TextureFrame, type Plane, type Vec3,
} from '@yesca/core'; // prettier-ignore
import { doorwayBetween } from '../commands/commands.ts';
import { LengthField } from '../fields/LengthField.tsx';
import { TextField } from '../fields/TextField.tsx';
import { shownDocument, useEditor } from '../state/editor.ts';
import { asPicked, thingsOf, type Selection } from '../state/selection.ts';
import { useView } from '../state/view.ts';
import { MaterialSwatch } from './MaterialSwatch.tsx';

const run = (label: string, command: (doc: MapDocument) => MapDocument) =>
  void useEditor.getState().run(label, command);

/** The selection's values. With nothing selected, the map's own. */
export function Particulars() {
  const doc = useEditor(shownDocument);
  const selection = useEditor((s) => s.selection);
  const things = thingsOf(selection);
  if (selection.faces.length) return <FaceParticulars doc={doc} refs={selection.faces} />;
  if (things.length === 0) return <MapParticulars doc={doc} />;
  if (things.length === 1) {
    const { type, id } = things[0]!;
    const room = type === 'room' ? doc.rooms.get(id) : undefined;
    if (room) return <RoomParticulars doc={doc} room={room} />;
    const entity = type === 'entity' ? doc.entities.get(id) : undefined;
    if (entity) return <EntityParticulars entity={entity} />;
  }
  return <BrushParticulars doc={doc} selection={selection} />;
}

function Section({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="particulars-section">
      <h3 className="panel-title">{title}</h3>
      <Stack gap={6}>{children}</Stack>
    </section>
  );
}

function MapParticulars({ doc }: { doc: MapDocument }) {
  const { settings } = doc;
  return (
    <>
      <Section title="Map">
        <TextField label="Name" value={doc.name} onChange={(name) => run('Rename map', (d) => renameMap(d, name))} />
        <Text size="xs" c="dimmed">
          {doc.rooms.size} rooms, {doc.brushes.size} brushes, {doc.entities.size} entities
        </Text>
      </Section>
      <Section title="Light and sky">
        <Color
          label="Ambient colour"
          value={settings.ambientColor}
          onChange={(ambientColor) => run('Ambient', (d) => changeSettings(d, { ambientColor }))}
        />
        <LengthField
          label="Ambient light"
          tip="Even light everywhere, in lux"
          unit="lx"
          value={settings.ambientLux}
          onChange={(ambientLux) => run('Ambient', (d) => changeSettings(d, { ambientLux }))}
        />
        <Color
          label="Sky colour"
          value={settings.skyColor}
          onChange={(skyColor) => run('Sky', (d) => changeSettings(d, { skyColor }))}
        />
      </Section>
      <Text size="xs" c="dimmed" px={10}>
        Select something to see its values here. Alt-click picks a single face.
      </Text>
    </>
  );
}

function Color({ label, value, onChange }: { label: string; value: string; onChange: (hex: string) => void }) {
  return (
    <ColorInput
      size="xs"
      label={label}
      value={value}
      onChangeEnd={onChange}
      format="hex"
      withEyeDropper={false}
      onKeyDown={(e) => e.stopPropagation()}
    />
  );
}

/** Where the selection's low corner is, and how large it is. */
function PlaceAndSize({ box, selection, rooms }: { box: Box; selection: Selection; rooms: boolean }) {
  const carry = useView((s) => s.carry);
  const axes = ['X', 'Y', 'Z'] as const;
  const tips = ['east', 'north', 'up'] as const;
  const move = (axis: number, to: number) => {
    const by: [number, number, number] = [0, 0, 0];
    by[axis] = to - box.min[axis]!;
    run('Move', (d) => movePicked(d, asPicked(selection), by, carry));
  };
  const resize = (axis: number, size: number) => {
    const max: [number, number, number] = [...box.max];
    max[axis] = box.min[axis]! + size;
    run('Resize', (d) => resizePicked(d, asPicked(selection), { min: box.min, max }, carry));
  };
  return (
    <>
      <SimpleGrid cols={3} spacing={4}>
        {axes.map((a, i) => (
          <LengthField
            key={a}
            label={a}
            tip={`Low corner, towards ${tips[i]}`}
            value={box.min[i]!}
            onChange={(v) => move(i, v)}
          />
        ))}
        {(['Width', 'Depth', 'Height'] as const).map((name, i) => (
          <LengthField
            key={name}
            label={name}
            tip={rooms ? `Clear ${name.toLowerCase()} inside the walls` : `Size along ${axes[i]}`}
            value={box.max[i]! - box.min[i]!}
            onChange={(v) => resize(i, v)}
          />
        ))}
      </SimpleGrid>
    </>
  );
}

function RoomParticulars({ doc, room }: { doc: MapDocument; room: Room }) {
  const selection = useEditor((s) => s.selection);
  const box = pickedBounds(doc, { rooms: new Set([room.id]) })!;
  const change = (what: Partial<Room>, label = 'Change room') => run(label, (d) => changeRoom(d, room.id, what));
  const neighbours = [
    ...new Set(room.footprint.flatMap((_, i) => sharedWalls(room, i, doc.rooms.values()).map((s) => s.room))),
  ];
  const openings = [...doc.openings.values()].filter((o) => o.rooms.includes(room.id));
  return (
    <>
      <Section title="Room">
        <TextField label="Name" value={room.name} onChange={(name) => change({ name }, 'Rename room')} />
        <PlaceAndSize box={box} selection={selection} rooms />
        <SimpleGrid cols={3} spacing={4}>
          <LengthField
            label="Floor"
            tip="Height of the floor"
            value={room.floor}
            onChange={(floor) => change({ floor })}
          />
          <LengthField
            label="Ceiling"
            tip="Height of the ceiling"
            value={room.ceiling}
            onChange={(ceiling) => change({ ceiling })}
          />
          <LengthField
            label="Walls"
            tip="Thickness of walls, floor and ceiling"
            value={room.wall}
            onChange={(wall) => change({ wall })}
          />
        </SimpleGrid>
        <Switch
          size="xs"
          label="Open to the sky"
          checked={room.open}
          onChange={(e) => change({ open: e.currentTarget.checked })}
        />
      </Section>
      <Section title="Openings">
        {openings.map((o) => (
          <div key={o.id} className="opening-row">
            <Group justify="space-between" wrap="nowrap" mb={2}>
              <Text size="xs">Doorway to {doc.rooms.get(o.rooms[0] === room.id ? o.rooms[1] : o.rooms[0])?.name}</Text>
              <Tooltip label="Close this doorway">
                <ActionIcon
                  size="sm"
                  aria-label="Close this doorway"
                  onClick={() => run('Close doorway', (d) => removeOpenings(d, new Set([o.id])))}
                >
                  <IconTrash size={14} />
                </ActionIcon>
              </Tooltip>
            </Group>
            <SimpleGrid cols={2} spacing={4}>
              {(
                [
                  ['width', 'Width'],
                  ['height', 'Height'],
                  ['sill', 'Sill'],
                  ['at', 'Middle at'],
                ] as const
              ).map(([key, label]) => (
                <LengthField
                  key={key}
                  label={label}
                  tip={
                    key === 'at'
                      ? 'Distance of its middle from the corner where the wall starts'
                      : `${label} of the opening`
                  }
                  value={o[key]}
                  onChange={(v) => run('Change doorway', (d) => changeOpening(d, o.id, { [key]: v }))}
                />
              ))}
            </SimpleGrid>
          </div>
        ))}
        {neighbours.map((id) => (
          <Button key={id} variant="default" onClick={() => doorwayBetween(room.id, id)}>
            Open a doorway to {doc.rooms.get(id)?.name}
          </Button>
        ))}
        {neighbours.length === 0 && (
          <Text size="xs" c="dimmed">
            Draw another room against one of these walls; then a doorway can be opened between them.
          </Text>
        )}
      </Section>
      <Section title="Brushes">
        <Text size="xs" c="dimmed">
          The room keeps its {[...doc.brushes.values()].filter((b) => b.room?.id === room.id).length} brushes up to
          date. Release it to shape them by hand.
        </Text>
        <Button variant="default" onClick={() => run('Release room', (d) => releaseRoom(d, room.id))}>
          Release the room
        </Button>
      </Section>
    </>
  );
}

/** The roles a build knows what to do with. */
const ROLES_OFFERED: { value: Role; label: string }[] = [
  { value: 'structure', label: 'Structure – seals and hides' },
  { value: 'detail', label: 'Detail – drawn, does not seal' },
  { value: 'clip', label: 'Clip – unseen, holds players back' },
  { value: 'hint', label: 'Hint – cuts cells for visibility' },
];

function BrushParticulars({ doc, selection }: { doc: MapDocument; selection: Selection }) {
  const box = pickedBounds(doc, asPicked(selection));
  const brushes = [...selection.brushes].flatMap((id) => doc.brushes.get(id) ?? []);
  const role = new Set(brushes.map((b) => b.role)).size === 1 ? brushes[0]!.role : null;
  const materials = [...new Set(brushes.flatMap((b) => b.faces.map((f) => f.material)))];
  const count = thingsOf(selection).length;
  const inRoom = brushes.length === 1 && brushes[0]!.room ? doc.rooms.get(brushes[0]!.room.id) : undefined;
  return (
    <>
      <Section title={count === 1 ? 'Brush' : `${count} selected`}>
        {box && <PlaceAndSize box={box} selection={selection} rooms={false} />}
        {brushes.length > 0 && (
          <Select
            label="Role"
            data={ROLES_OFFERED}
            value={role}
            placeholder="mixed"
            allowDeselect={false}
            onChange={(v) => v && run('Role', (d) => setRole(d, new Set(brushes.map((b) => b.id)), v as Role))}
          />
        )}
        {inRoom && (
          <Text size="xs" c="dimmed">
            Part of {inRoom.name}. Shaping it by hand releases the whole room.
          </Text>
        )}
      </Section>
      {materials.length > 0 && (
        <Section title="Materials">
          <Group gap={4}>
            {materials.slice(0, 8).map((m) => (
              <MaterialSwatch key={m} name={m} size={40} />
            ))}
          </Group>
        </Section>
      )}
    </>
  );
}

function EntityParticulars({ entity }: { entity: Entity }) {
  const kind = entityKind(entity.kind);
  const change = (what: Parameters<typeof changeEntity>[2]) =>
    run('Change entity', (d) => changeEntity(d, entity.id, what));
  const place = (axis: number, v: number) => {
    const at: [number, number, number] = [...entity.at];
    at[axis] = v;
    change({ at: at as Vec3 });
  };
  return (
    <>
      <Section title={kind?.label ?? entity.kind}>
        <TextField
          label="Name"
          value={entity.name ?? ''}
          placeholder={kind?.label}
          onChange={(name) => change({ name })}
        />
        <SimpleGrid cols={3} spacing={4}>
          {['X', 'Y', 'Z'].map((a, i) => (
            <LengthField
              key={a}
              label={a}
              tip={['East', 'North', 'Up'][i]!}
              value={entity.at[i]!}
              onChange={(v) => place(i, v)}
            />
          ))}
        </SimpleGrid>
        {entity.kind !== 'pointLight' && (
          <LengthField
            label={entity.kind === 'sun' ? 'Stands towards' : 'Looks towards'}
            tip="Degrees counter-clockwise from east, seen from above"
            unit="°"
            value={entity.turn}
            onChange={(turn) => change({ turn: ((turn % 360) + 360) % 360 })}
          />
        )}
        {Object.entries(kind?.params ?? {}).map(([key, spec]) =>
          spec.type === 'color' ? (
            <Color
              key={key}
              label={spec.label}
              value={String(entity.params[key])}
              onChange={(v) => change({ params: { [key]: v } })}
            />
          ) : (
            <LengthField
              key={key}
              label={spec.label}
              tip={spec.tip}
              unit={spec.unit}
              value={Number(entity.params[key])}
              onChange={(v) => change({ params: { [key]: v } })}
            />
          ),
        )}
        <Text size="xs" c="dimmed">
          {kind?.tip ?? 'This kind comes from a newer version. It is kept as it is.'}
        </Text>
      </Section>
    </>
  );
}

/** One value when all agree, otherwise null. */
const shared = <T,>(values: readonly T[], same: (a: T, b: T) => boolean = Object.is): T | null =>
  values.every((v) => same(v, values[0]!)) ? (values[0] ?? null) : null;
const close = (a: number, b: number) => Math.abs(a - b) < 1e-6;

function FaceParticulars({ doc, refs }: { doc: MapDocument; refs: readonly FaceRef[] }) {
  const faces = refs.flatMap((ref) => {
    const brush = doc.brushes.get(ref.brush);
    const i = brush?.faces.findIndex((f) => f.id === ref.face) ?? -1;
    return brush && i >= 0
      ? [{ face: brush.faces[i]!, plane: brushPlanes(brush)[i]!, middle: brush.vertices[brush.faces[i]!.loop[0]!]! }]
      : [];
  });
  const numbers = faces.map(({ face, plane }) => readFrame(face.frame, plane));
  const lay = (label: string, frame: (old: TextureFrame, plane: Plane) => TextureFrame) =>
    run(label, (d) => setFrames(d, refs, (f, plane) => frame(f.frame, plane)));
  const set = (change: (n: FrameNumbers) => FrameNumbers) =>
    lay('Texture', (old, plane) => writeFrame(change(readFrame(old, plane)), plane));
  const material = shared(faces.map((f) => f.face.material));
  const show = shared(faces.map((f) => f.face.show ?? 'drawn'));
  return (
    <>
      <Section title={refs.length === 1 ? 'Face' : `${refs.length} faces`}>
        {material ? <MaterialSwatch name={material} size={72} withName /> : <Text size="xs">Several materials</Text>}
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
            v && run('Shown as', (d) => setShow(d, refs, v === 'drawn' ? null : (v as 'sky' | 'unseen')))
          }
        />
      </Section>
      <Section title="Texture">
        <SimpleGrid cols={2} spacing={4}>
          {([0, 1] as const).map((i) => (
            <LengthField
              key={`o${i}`}
              label={i === 0 ? 'Offset across' : 'Offset down'}
              tip="How far the picture is moved, in texels"
              unit="tx"
              value={shared(
                numbers.map((n) => n.offset[i]),
                close,
              )}
              onChange={(v) => set((n) => ({ ...n, offset: i === 0 ? [v, n.offset[1]] : [n.offset[0], v] }))}
            />
          ))}
          {([0, 1] as const).map((i) => (
            <LengthField
              key={`s${i}`}
              label={i === 0 ? 'Scale across' : 'Scale down'}
              tip="Centimetres a texel covers; 0.5 is natural, negative mirrors"
              value={shared(
                numbers.map((n) => n.scale[i]),
                close,
              )}
              onChange={(v) => set((n) => ({ ...n, scale: i === 0 ? [v, n.scale[1]] : [n.scale[0], v] }))}
            />
          ))}
          <LengthField
            label="Turn"
            tip="Degrees, counter-clockwise seen from in front"
            unit="°"
            value={shared(
              numbers.map((n) => n.turn),
              close,
            )}
            onChange={(v) => set((n) => ({ ...n, turn: v }))}
          />
        </SimpleGrid>
        <Group gap={4}>
          <Tooltip label="Lay the picture straight along the world, as on flush neighbours">
            <Button variant="default" onClick={() => lay('World projection', (_, plane) => worldFrame(plane.normal))}>
              World
            </Button>
          </Tooltip>
          <Tooltip label="Lay the picture in the face's own plane, unstretched">
            <Button variant="default" onClick={() => lay('Face projection', (_, plane) => faceFrame(plane))}>
              Face
            </Button>
          </Tooltip>
          <Tooltip label="Turn the picture a quarter about the face's first corner">
            <Button
              variant="default"
              onClick={() =>
                run('Turn texture', (d) =>
                  setFrames(d, refs, (f, plane) =>
                    turnFrame(f.frame, plane, 90, faces.find((x) => x.face.id === f.id)?.middle ?? [0, 0, 0]),
                  ),
                )
              }
            >
              +90°
            </Button>
          </Tooltip>
        </Group>
      </Section>
    </>
  );
}
