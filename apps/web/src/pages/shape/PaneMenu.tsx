import { Menu } from '@mantine/core';
import {
  ENTITY_KINDS,
  entityKind,
  ownsBrushes,
  PLAYER,
  type EntityKind,
  type Likeness,
  type OpeningKind,
} from '@yesca/core';
import { commandById } from '../../palette/commands.ts';
import { keysOf } from '../../palette/keys.ts';
import { KindSymbol } from '../../fields/KindSymbol.tsx';
import { pickedPatchable } from '../../commands/decals.ts';
import { doorInOpening, fillWithGate, pickedPieces, thingOfSelection, triable } from '../../commands/doors.ts';
import { openingAt, selectSimilar } from '../../commands/shaping.ts';
import { replaceThroughMap, selectWithMaterial } from '../../commands/surfaces.ts';
import { recallView, sectionThrough } from '../../commands/viewing.ts';
import { useEditor } from '../../state/editor.ts';
import { isEmptySelection, selectOnly, withMembers } from '../../state/selection.ts';
import { materialLabel } from '../../state/library.ts';
import { placeThing } from '../../tools/place.ts';
import { paintAt, pickUp } from '../../tools/paint.ts';
import { lastPainted } from '../../commands/last-painted.ts';
import { surfaceUnder } from '../../geometry/surface-under.ts';
import type { PanePointer } from '../../tools/tool.ts';
import { useCamera } from '../../state/camera.ts';
import { useCurrent } from '../../state/current.ts';
import { useEyeRequest } from '../../state/eye.ts';

export interface MenuAt {
  readonly p: PanePointer;
  readonly x: number;
  readonly y: number;
}

function Do({ id }: { id: string }) {
  const command = commandById(id);
  const keys = keysOf(command);
  return (
    <Menu.Item rightSection={keys === 'no key' ? null : <kbd>{keys}</kbd>} onClick={command.run}>
      {command.label}
    </Menu.Item>
  );
}

const LIKE: readonly (readonly [Likeness, string])[] = [
  ['material', 'of the same material'],
  ['role', 'of the same role'],
  ['kind', 'of the same kind'],
  ['size', 'of the same size'],
];

const SINGLE = { brush: 'brush', entity: 'thing', room: 'room', opening: 'opening', group: 'group' } as const;

/** The kinds that own brushes. */
const OWNERS = ENTITY_KINDS.filter(ownsBrushes);

/** Kinds of things to choose from, in a menu beside. */
function KindMenu({
  label,
  kinds,
  onPick,
  onClose,
}: {
  label: string;
  kinds: readonly EntityKind[];
  onPick: (kind: EntityKind) => void;
  onClose: () => void;
}) {
  return (
    <Menu trigger="hover" position="right-start" classNames={{ item: 'pane-menu-item', label: 'pane-menu-item' }}>
      <Menu.Target>
        <Menu.Item className="pane-menu-item" closeMenuOnClick={false}>
          {label}
        </Menu.Item>
      </Menu.Target>
      <Menu.Dropdown>
        {kinds.map((k) => (
          <Menu.Item
            key={k.kind}
            leftSection={<KindSymbol kind={k.kind} size={16} />}
            onClick={() => {
              onPick(k);
              onClose();
            }}
          >
            {k.label}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}

/** What fits what is under the pointer. */
export function PaneMenu({ at, onClose }: { at: MenuAt | null; onClose: () => void }) {
  const { select, doc, selection } = useEditor.getState();
  if (!at) return null;
  const { p } = at;
  const thing = p.hits[0]?.thing;
  const brushHit = p.hits.find((h) => h.thing.type === 'brush');
  const brush = brushHit && doc.brushes.get(brushHit.thing.id);
  const face = brushHit && brushHit.face >= 0 ? brush?.faces[brushHit.face] : undefined;
  const pieces = pickedPieces();
  const owner = [...selection.entities].some((id) =>
    ownsBrushes(entityKind(doc.entities.get(id)?.kind ?? '') ?? { body: 'point' }),
  );
  const room = brush?.room && !brush.room.released ? doc.rooms.get(brush.room.id) : undefined;
  const openingHit = p.hits.find((h) => h.thing.type === 'opening')?.thing.id;
  const [x, y] = p.snapped;
  const floor = p.pane === 'eye' ? p.raw[2] : surfaceUnder(doc, p.snapped);
  const place = (k: EntityKind) => () => placeThing(k, [Math.round(x), Math.round(y), Math.round(floor + k.standsAt)]);
  const open = (kind: OpeningKind) => () => openingAt(room!.id, [p.raw[0], p.raw[1]], kind);
  return (
    <Menu
      opened
      onClose={onClose}
      position="bottom-start"
      shadow="md"
      middlewares={{ flip: false, shift: { crossAxis: true, padding: 8 } }}
      classNames={{ item: 'pane-menu-item', label: 'pane-menu-item' }}
    >
      <Menu.Target>
        <span style={{ position: 'fixed', left: at.x, top: at.y }} />
      </Menu.Target>
      <Menu.Dropdown mah="calc(100vh - 16px)" style={{ overflow: 'auto' }}>
        {thing && (
          <Menu.Item onClick={() => select(selectOnly(withMembers([thing], doc)))}>
            Select this {SINGLE[thing.type]}
          </Menu.Item>
        )}
        {brushHit && thing?.type !== 'brush' && (
          <Menu.Item onClick={() => select(selectOnly([brushHit.thing]))}>Select only this brush</Menu.Item>
        )}
        {face && (
          <Menu.Item
            onClick={() => select({ ...selectOnly([]), faces: [{ brush: brushHit!.thing.id, face: face.id }] })}
          >
            Select this face
          </Menu.Item>
        )}
        {brushHit && (
          <Menu trigger="hover" position="right-start" classNames={{ item: 'pane-menu-item', label: 'pane-menu-item' }}>
            <Menu.Target>
              <Menu.Item className="pane-menu-item" closeMenuOnClick={false}>
                Select all …
              </Menu.Item>
            </Menu.Target>
            <Menu.Dropdown>
              {LIKE.map(([by, words]) => (
                <Menu.Item
                  key={by}
                  onClick={() => {
                    select(selectOnly([brushHit.thing]));
                    selectSimilar(by);
                    onClose();
                  }}
                >
                  {words}
                </Menu.Item>
              ))}
            </Menu.Dropdown>
          </Menu>
        )}
        {face && (
          <>
            <Menu.Item onClick={() => pickUp(p)}>Pick up its material</Menu.Item>
            <Menu.Item onClick={() => paintAt(p, useCurrent.getState().material, 'face')}>
              Paint it with {materialLabel(useCurrent.getState().material)}
            </Menu.Item>
            {lastPainted() && (
              <Menu.Item onClick={() => paintAt(p, useCurrent.getState().material, 'flow')}>
                Flow here from the face painted last
              </Menu.Item>
            )}
            <Menu.Item onClick={() => selectWithMaterial(face.material)}>
              Select all faces with {materialLabel(face.material)}
            </Menu.Item>
            <Menu.Item
              disabled={face.material === useCurrent.getState().material}
              onClick={() => replaceThroughMap(face.material)}
            >
              Replace {materialLabel(face.material)} through the map
            </Menu.Item>
          </>
        )}
        {room && (
          <>
            <Menu.Divider />
            <Menu.Label>{room.name}</Menu.Label>
            <Menu.Item onClick={open('door')}>Open a doorway here</Menu.Item>
            <Menu.Item onClick={open('window')}>Open a window here</Menu.Item>
            <Menu.Item onClick={open('arch')}>Open an arch here</Menu.Item>
            {openingHit && <Menu.Item onClick={() => doorInOpening(openingHit)}>Make a door in this opening</Menu.Item>}
            {openingHit && (
              <Menu.Item onClick={() => fillWithGate(openingHit)}>Fill this opening with a gate</Menu.Item>
            )}
          </>
        )}
        {!isEmptySelection(selection) && (
          <>
            <Menu.Divider />
            <Menu.Label>Selection</Menu.Label>
            {selection.brushes.size > 0 && <Do id="shape.subtract" />}
            {triable().length > 0 && <Do id="thing.try" />}
            {pieces && <Do id="door.make" />}
            {pieces && owner && <Do id="thing.give" />}
            {pickedPatchable() && <Do id="edit.patch" />}
            {selection.brushes.size > 1 && <Do id="shape.merge" />}
            {(selection.brushes.size > 1 || (pieces?.props.length ?? 0) > 0) && <Do id="shape.wrap" />}
            {selection.brushes.size + selection.entities.size > 1 && <Do id="edit.group" />}
            {selection.brushes.size + selection.entities.size > 0 && <Do id="edit.keepAssembly" />}
            {selection.brushes.size > 0 && pieces?.props.length === 1 && <Do id="prop.collideDrawn" />}
            {[...selection.brushes].some((id) => doc.brushes.get(id)?.group) && <Do id="edit.ungroup" />}
            {[...selection.brushes].some((id) => doc.brushes.get(id)?.room?.released) && <Do id="shape.giveBack" />}
            <Menu.Item onClick={() => useCurrent.setState({ pivot: p.snapped })}>Turn about this point</Menu.Item>
            {useCurrent.getState().pivot && <Do id="view.pivot" />}
            <Do id="edit.duplicate" />
            <Do id="select.hide" />
            <Do id="select.isolate" />
            <Do id="edit.delete" />
          </>
        )}
        <Menu.Divider />
        <KindMenu
          label="Place here …"
          kinds={ENTITY_KINDS.filter((k) => k.stock === 'things')}
          onPick={(k) => place(k)()}
          onClose={onClose}
        />
        {pieces && (
          <KindMenu
            label="Turn the selection into …"
            kinds={OWNERS}
            onPick={(k) => thingOfSelection(k.kind)}
            onClose={onClose}
          />
        )}
        <Do id="play.here" />
        <Do id="play.buildHere" />
        {p.pane !== 'section' && <Do id="surface.sheet" />}
        <Menu.Item onClick={() => useEyeRequest.getState().look([x, y, floor + PLAYER.eyeStanding], true)}>
          Camera here
        </Menu.Item>
        {p.pane !== 'section' && (
          <Menu.Item onClick={() => useCamera.setState({ section: sectionThrough(p.snapped) })}>
            Section through here
          </Menu.Item>
        )}
        {[...doc.views.values()].slice(0, 6).map((v) => (
          <Menu.Item key={v.id} onClick={() => recallView(v)}>
            View: {v.name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
