import { call, entityKind, joinNeighbours, propOnSurface, type EntityKind, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { kindUsed } from '../state/kinds.ts';
import { surfaceUnder } from '../geometry/surface-under.ts';
import type { PanePointer, Tool } from './tool.ts';
import { materialInHand, placeSheet } from '../commands/surfaces.ts';
import { propFacts, useLibrary } from '../state/library.ts';
import { IconMapPinPlus } from '@tabler/icons-react';
import { optionsIn } from './tool.ts';
import { activeMaterial } from './paint.ts';
import { placeDecal } from './decals.ts';
import { placeOn } from './place-on.ts';
import { strewGesture } from './strew.ts';
import {
  ASSEMBLY,
  PLACED_BILLBOARD,
  PLACED_DECAL,
  PLACED_PROP,
  SHEET,
  STREWN,
  usePlaceOptions,
} from './place-options.ts';
import { useAssembly } from '../state/assembly.ts';
import { notify } from '../state/notify.ts';
import { useCurrent } from '../state/current.ts';

/** Where a new entity goes: standing on the surface under the pointer, at its kind's height; lights off walls and ceilings. */
function placeFor(p: PanePointer, standsAt: number): Vec3 | null {
  const { doc } = useEditor.getState();
  if (p.pane === 'plan') {
    const [x, y] = p.snapped;
    return [x, y, surfaceUnder(doc, [x, y, 0]) + standsAt];
  }
  // The Section's points lie on the section line.
  if (p.pane === 'section') return p.snapped;
  if (!p.normal) return null;
  const away = p.normal[2] > 0.7 ? standsAt : 24;
  return [p.raw[0] + p.normal[0] * away, p.raw[1] + p.normal[1] * away, p.raw[2] + p.normal[2] * away].map((c) =>
    Math.round(c),
  ) as unknown as Vec3;
}

/** What the first brush of a thing that owns brushes is made of: the active material. */
const madeOf = ({ firstBody }: EntityKind): { material?: string } =>
  firstBody ? { material: useCurrent.getState().material } : {};

/** Puts a thing of a kind at a place. */
export function placeThing(kind: EntityKind, at: Vec3): void {
  if (useEditor.getState().run(call('thing.place', { kind: kind.kind, at, ...madeOf(kind) }))) kindUsed(kind.kind);
}

/** Puts a thing of a kind where the pointer is. */
export function placeKind(kind: EntityKind, p: PanePointer): void {
  if (kind.kind === PLACED_BILLBOARD) return placeBillboard(p);
  const at = placeFor(p, kind.standsAt);
  if (at) placeThing(kind, at);
}

/** The nearest place on the module's grid, at its own height. */
const onModule = ([x, y, z]: Vec3, module: number): Vec3 => [
  Math.round(x / module) * module,
  Math.round(y / module) * module,
  z,
];

/** Props join others that are no farther than this, cm. */
const JOIN_WITHIN = 24;

/** Puts a prop where the pointer is, clear of what it stands on; one that hangs on walls with its back to the wall. */
export function placeProp(name: string, p: PanePointer): void {
  const facts = useLibrary.getState().props.get(name);
  const on = placeOn(p);
  if (!facts || !on) return;
  const { turn: asked, scale, aligned, joins, stepped } = usePlaceOptions.getState();
  const faces = facts.tags.includes('wall') && Math.abs(on.normal[2]) < 0.7;
  const turn = faces ? (Math.atan2(on.normal[1], on.normal[0]) * 180) / Math.PI : asked;
  const { at: there, up } = propOnSurface(facts.bounds, on.at, on.normal, { turn, scale, aligned: aligned && !faces });
  const { doc, run } = useEditor.getState();
  const { module = 0 } = doc.settings;
  const own = { ...facts, at: stepped && module > 0 ? onModule(there, module) : there, turn, up, scale };
  const joined = joins && !stepped ? joinNeighbours(doc, own, propFacts, JOIN_WITHIN) : own;
  run(call('prop.place', { props: [{ model: name, at: joined.at, turn: joined.turn, up, scale }] }));
}

/** Stands the picture of the active material where the pointer is. */
function placeBillboard(p: PanePointer): void {
  const on = placeOn(p);
  const material = materialInHand();
  if (!on || !material) return;
  const { width, height, faces, turn } = usePlaceOptions.getState();
  const size = { ...(width > 0 ? { width } : {}), ...(height > 0 ? { height } : {}) };
  const wish = { material, ...on, faces, ...(faces === 'crossed' ? { turn } : {}), ...size };
  if (useEditor.getState().run(call('billboard.place', wish))) kindUsed(PLACED_BILLBOARD);
}

/** Puts the assembly in hand where the pointer is. */
function putAssembly(p: PanePointer): void {
  const { inHand } = useAssembly.getState();
  const on = placeOn(p);
  if (!inHand) return notify('Choose an assembly in Stock, Props. Keep a selection there to make one.', 'assembly');
  if (!on) return;
  const { turn } = usePlaceOptions.getState();
  useEditor.getState().run(call('assembly.place', { text: inHand.text, name: inHand.label, at: on.at, turn }));
}

/** Degrees that a notch of the wheel turns. */
const NOTCH = 15;

/** With Shift the wheel turns the prop or decal that is placed next; false where it is for something else. */
export function turnsPlaced({ shiftKey, deltaX, deltaY }: Pick<WheelEvent, 'shiftKey' | 'deltaX' | 'deltaY'>): boolean {
  const { what, turn } = usePlaceOptions.getState();
  if (!shiftKey || useCurrent.getState().tool !== 'place' || ![PLACED_PROP, PLACED_DECAL, ASSEMBLY].includes(what))
    return false;
  // With Shift some browsers turn the wheel's way aside.
  const way = Math.sign(deltaY || deltaX);
  usePlaceOptions.setState({ turn: (turn - way * NOTCH + 360) % 360 });
  return true;
}

/** Click puts what is chosen on the surface under the pointer. */
export function placeTool(): Tool {
  const strew = strewGesture();
  const strews = (): boolean => usePlaceOptions.getState().what === STREWN;
  return {
    name: 'place',
    label: 'Place',
    hint: 'Click where the thing is to stand. Shift and the wheel turn a prop or a decal.',
    key: 'l',
    icon: IconMapPinPlus,
    options: [
      optionsIn(usePlaceOptions, usePlaceOptions.specs),
      {
        ...activeMaterial(() => [SHEET, PLACED_BILLBOARD].includes(usePlaceOptions.getState().what)),
        watch: [useCurrent, usePlaceOptions],
      },
    ],
    down: (p) => {
      if (strews()) return strew.down(p);
      const { what, prop, picture, region, width, height, crosswise } = usePlaceOptions.getState();
      if (what === SHEET) {
        const on = placeOn(p);
        if (on) placeSheet(on.at, on.normal, { width, height, crosswise });
        return;
      }
      if (what === ASSEMBLY) return putAssembly(p);
      if (what === PLACED_BILLBOARD) return placeBillboard(p);
      if (what === PLACED_PROP) return placeProp(prop, p);
      if (what === PLACED_DECAL) return placeDecal({ material: picture, region }, p);
      const kind = entityKind(what);
      if (kind) placeKind(kind, p);
    },
    move: (p) => (strews() ? strew.move(p) : undefined),
    up: (p) => (strews() ? strew.up(p) : undefined),
    cancel: strew.cancel,
    commit: () => false,
    cursor: () => 'crosshair',
  };
}
