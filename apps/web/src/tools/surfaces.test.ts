import { findFaces, texelAt, type FaceRef, type Vec3, addRoom, facesIntoRoom, wallsOf } from '@yesca/core';
import { dropMaterial } from '../panes/drop.ts';
import {
  alignSelected,
  copySelected,
  flowSelected,
  mirrorSelected,
  nudgeTexture,
  placeSheetHere,
  replaceThroughMap,
  scatterSelected,
  selectWithMaterial,
} from '../commands/surfaces.ts';
import { lastPane } from '../state/last-pane.ts';
import { useLibrary } from '../state/library.ts';
import { NOTHING, selectOnly } from '../state/selection.ts';
import { chooseTool, pointerTool } from './index.ts';
import { paintAt } from './paint.ts';
import { placeSheet } from '../commands/surfaces.ts';
import { editor, resetTools } from './testing.ts';
import { bordersOf, scaleChange, snappedShift, textureBox, textureGripUnder } from './texture-box.ts';
import type { PanePointer } from './tool.ts';
import { edited } from '../state/testing.ts';
import { useCurrent } from '../state/current.ts';
import { useLaying } from '../state/laying.ts';
import { usePlaceOptions } from './place-options.ts';

/** A line of sight in the Eye from a point to another one, on a face of a brush. */
function sight(from: Vec3, at: Vec3, ref?: FaceRef, keys: Partial<PanePointer> = {}): PanePointer {
  const d = at.map((c, i) => c - from[i]!) as unknown as Vec3;
  const k = 1 / Math.hypot(...d);
  const brush = ref && editor().doc.brushes.get(ref.brush)!;
  const face = brush ? brush.faces.findIndex((f) => f.id === ref.face) : -1;
  return {
    pane: 'eye',
    raw: at,
    snapped: at,
    hits: ref ? [{ thing: { type: 'brush', id: ref.brush }, face }] : [],
    ray: { from, towards: [d[0] * k, d[1] * k, d[2] * k] },
    x: 0,
    y: 0,
    shift: false,
    ctrl: false,
    alt: false,
    ...keys,
  };
}
const look = (ref: FaceRef) => findFaces(editor().doc, [ref])[0]!;
/** The face of a brush that looks one way. */
const facing = (brush: string, way: Vec3): FaceRef => {
  const b = editor().doc.brushes.get(brush)!;
  return findFaces(
    editor().doc,
    b.faces.map((f) => ({ brush, face: f.id })),
  ).find((f) => f.plane.normal.every((c, i) => Math.abs(c - way[i]!) < 1e-9))!.ref;
};
const UP: Vec3 = [0, 0, 1];
let top: FaceRef;

beforeEach(() => {
  resetTools();
  useLaying.setState(useLaying.getInitialState());
  chooseTool('paint');
  top = facing('a', UP);
});
/** Where the pointer is over the top of brush a, seen from above its middle. */
const over = (x: number, y: number, keys: Partial<PanePointer> = {}) => sight([32, 32, 400], [x, y, 64], top, keys);
const click = (p: PanePointer) => {
  pointerTool().down(p);
  pointerTool().up(p);
};

describe('Paint in the Eye', () => {
  test('is a stamp: it paints, remembers the material, and leaves the selection as it was', () => {
    const before = editor().selection;
    click(over(30, 30));
    expect(look(top).face.material).toBe('slate');
    expect(editor().selection).toEqual(before);
    expect(useLibrary.getState().recent[0]).toBe('slate');
  });
  test('Ctrl adds faces to the selection and takes them out', () => {
    const east = facing('a', [1, 0, 0]);
    pointerTool().down(over(30, 30, { ctrl: true }));
    expect(editor().selection.faces).toEqual([top]);
    pointerTool().down(sight([400, 32, 32], [64, 32, 32], east, { ctrl: true }));
    expect(editor().selection.faces).toEqual([top, east]);
    pointerTool().down(over(30, 30, { ctrl: true }));
    expect(editor().selection.faces).toEqual([east]);
    expect(editor().undo).toEqual([]);
  });
  test('a drag on a selected face moves its picture with the pointer, a click still paints it', () => {
    editor().select({ ...NOTHING, faces: [top] });
    const before = texelAt(look(top).frame, [30, 30, 64]);
    pointerTool().down(over(30, 30));
    pointerTool().move({ ...over(40, 26), x: 50, alt: true });
    expect(editor().draft).not.toBeNull();
    pointerTool().up({ ...over(40, 26), alt: true });
    texelAt(look(top).frame, [40, 26, 64]).forEach((c, i) => expect(c).toBeCloseTo(before[i]!, 6));
    expect(look(top).face.material).not.toBe('slate');
    click(over(30, 30));
    expect(look(top).face.material).toBe('slate');
  });
  test('Esc drops the drag', () => {
    editor().select({ ...NOTHING, faces: [top] });
    const before = look(top).frame;
    pointerTool().down(over(30, 30));
    pointerTool().move({ ...over(50, 30), x: 50 });
    expect(pointerTool().cancel()).toBe(true);
    expect(editor().draft).toBeNull();
    expect(look(top).frame).toBe(before);
  });
  test('a corner handle scales: the texel at the handle follows the pointer, the opposite one stays', () => {
    editor().select({ ...NOTHING, faces: [top] });
    const box = textureBox(editor().doc, [top])!;
    const corner = box.grips[4]!.at;
    const p = sight([32, 32, 400], corner, top);
    expect(textureGripUnder(p)).toEqual({ kind: 'scale', u: 1, v: 1 });
    const opposite: Vec3 = [box.corners[0]![0], box.corners[0]![1], 64];
    const [stays, follows] = [texelAt(look(top).frame, opposite), texelAt(look(top).frame, [corner[0], corner[1], 64])];
    const to: Vec3 = [corner[0] + 20, corner[1] - 10, 64];
    pointerTool().down(p);
    pointerTool().move({ ...sight([32, 32, 400], to, top), x: 50 });
    pointerTool().up(sight([32, 32, 400], to, top));
    texelAt(look(top).frame, opposite).forEach((c, i) => expect(c).toBeCloseTo(stays[i]!, 6));
    // The line of sight meets the handle a hair above the face.
    texelAt(look(top).frame, to).forEach((c, i) => expect(Math.abs(c - follows[i]!)).toBeLessThan(0.5));
  });
  test('the knob turns by the angle step', () => {
    editor().select({ ...NOTHING, faces: [top] });
    const knob = textureBox(editor().doc, [top])!.grips.at(-1)!;
    expect(knob.grip).toEqual({ kind: 'turn' });
    const middle: Vec3 = [32, 32, 64];
    const before = texelAt(look(top).frame, middle);
    const r = knob.at[1] - 32;
    pointerTool().down(sight([32, 32, 400], knob.at, top));
    const to: Vec3 = [32 - r * Math.sin((31 * Math.PI) / 180), 32 + r * Math.cos((31 * Math.PI) / 180), 64];
    pointerTool().move({ ...sight([32, 32, 400], to, top), x: 90 });
    pointerTool().up(sight([32, 32, 400], to, top));
    texelAt(look(top).frame, middle).forEach((c, i) => expect(c).toBeCloseTo(before[i]!, 6));
    const { u } = look(top).frame;
    expect(Math.atan2(u[1], u[0]) * (180 / Math.PI)).toBeCloseTo(30, 6);
  });
});

describe('what a click covers', () => {
  test('flow goes from the face painted last, over the edge', () => {
    click(over(30, 30));
    const east = facing('a', [1, 0, 0]);
    paintAt(sight([400, 32, 32], [64, 32, 32], east), 'slate', 'flow');
    expect(look(east).face.material).toBe('slate');
    for (const y of [0, 64])
      expect(texelAt(look(east).frame, [64, y, 64])).toEqual(
        texelAt(look(top).frame, [64, y, 64]).map((c) => expect.closeTo(c, 6) as number),
      );
  });
  test('both sides paints the far face with what is seen from behind', () => {
    paintAt(over(30, 30), 'reed', 'both');
    const under = facing('a', [0, 0, -1]);
    expect(look(under).face.material).toBe('reed');
    expect(texelAt(look(under).frame, [10, 20, 0])).toEqual(texelAt(look(top).frame, [10, 20, 64]));
  });
  test('Sky and Unseen change how a face is shown and leave its material', () => {
    const { material } = look(top).face;
    paintAt(over(30, 30), 'unseen', 'face');
    expect(look(top).face).toMatchObject({ material, show: 'unseen' });
    paintAt(over(30, 30), 'slate', 'face');
    expect(look(top).face.show).toBeUndefined();
  });
});

describe('a material dragged from Stock', () => {
  const drop = (name: string, shiftKey = false) =>
    ({ dataTransfer: { getData: () => name }, preventDefault: () => undefined, shiftKey }) as never;
  const materials = (id: string) =>
    new Set(
      editor()
        .doc.brushes.get(id)!
        .faces.map((f) => f.material),
    );
  test('goes on the face, with Shift on the brush, on a selected brush on all that is selected', () => {
    dropMaterial(drop('brass'), over(30, 30));
    expect(look(top).face.material).toBe('brass');
    expect(materials('a').size).toBe(2);
    dropMaterial(drop('brass', true), over(30, 30));
    expect(materials('a')).toEqual(new Set(['brass']));
    editor().select(selectOnly(['a', 'b'].map((id) => ({ type: 'brush', id }) as const)));
    dropMaterial(drop('canvas'), over(30, 30));
    expect([...materials('a'), ...materials('b')]).toEqual(['canvas', 'canvas']);
  });
  test('nothing under it, or something else dropped, changes nothing', () => {
    dropMaterial(drop('brass'), null);
    dropMaterial(drop(''), over(30, 30));
    expect(editor().undo).toEqual([]);
  });
});

describe('snapping', () => {
  test('a border of the picture catches a border of the face, else whole texels', () => {
    // A face from 100 to 400 over a picture of 512: its left comes to the border when moved by −100.
    expect(snappedShift(-97, 100, 400, [0], 512)).toBe(-100);
    expect(snappedShift(109, 100, 400, [0], 512)).toBe(112);
    expect(snappedShift(40.4, 100, 400, [0], 512)).toBe(40);
    expect(snappedShift(-141, 100, 400, [0, 256], 512)).toBe(-144);
  });
  test('regions have borders too', () => {
    expect(bordersOf('mill-trim', 1)).toEqual(expect.arrayContaining([0, 96, 192, 256]));
    expect(bordersOf('nobody', 0)).toEqual([0]);
  });
  test('a side stretches one way only, evenly both; through the anchor it stops', () => {
    const box = { min: [0, 0], max: [100, 50] } as const;
    expect(scaleChange(box, { u: 1, v: 0 }, [200, 9], false)).toEqual({ ku: 0.5, kv: 1, du: 0, dv: 0 });
    expect(scaleChange(box, { u: 1, v: 1 }, [200, 50], true)).toEqual({ ku: 0.5, kv: 0.5, du: 0, dv: 0 });
    expect(scaleChange(box, { u: -1, v: 0 }, [50, 0], false)).toEqual({ ku: 2, kv: 1, du: -100, dv: 0 });
    expect(scaleChange(box, { u: 1, v: 0 }, [-5, 0], false).ku).toBe(50);
  });
});

describe('commands on selected faces', () => {
  test('with none selected they work on the face that was painted last; flow, which needs two, says so', () => {
    click(over(30, 30));
    const painted = look(top).frame;
    alignSelected({ do: 'nudge', across: 8, down: 0, unit: 'texels' });
    expect(look(top).frame).not.toEqual(painted);
    const steps = editor().undo.length;
    flowSelected();
    expect(editor().undo).toHaveLength(steps);
  });
  test('several walls of a room selected, a click on one paints what looks into the room', () => {
    editor().run(
      edited('Room', () =>
        addRoom(
          editor().doc,
          {
            footprint: [
              [2000, 0],
              [2400, 0],
              [2400, 300],
              [2000, 300],
            ],
            floor: 0,
            ceiling: 200,
            wall: 16,
          },
          { floor: 'm', wall: 'm', ceiling: 'm' },
          'r',
        ),
      ),
    );
    const walls = [...wallsOf(editor().doc, 'r')];
    editor().select(selectOnly(walls.map((id) => ({ type: 'brush', id }) as const)));
    const inside = facing(
      walls.find((id) => facesIntoRoom(editor().doc, [id]).some((f) => look(f).plane.normal[0] === -1))!,
      [-1, 0, 0],
    );
    click(sight([2200, 150, 100], [2400, 150, 100], inside));
    const painted = walls.flatMap((id) =>
      editor()
        .doc.brushes.get(id)!
        .faces.filter((f) => f.material === 'slate'),
    );
    expect(painted).toHaveLength(4);
    expect(editor().selection.brushes.size).toBe(4);
  });
  test('nudge goes by the step, scatter differs each time, copy needs two, mirror goes to the far side of one', () => {
    editor().select({ ...NOTHING, faces: [top] });
    const [u] = texelAt(look(top).frame, [0, 0, 64]);
    nudgeTexture(1, 0);
    expect(texelAt(look(top).frame, [0, 0, 64])[0]).toBe(u - 8);
    scatterSelected(false);
    const once = look(top).frame;
    scatterSelected(false);
    expect(look(top).frame).not.toEqual(once);
    const steps = editor().undo.length;
    copySelected();
    expect(editor().undo).toHaveLength(steps);
    const bottom = facing('a', [0, 0, -1]);
    const was = look(bottom).frame;
    mirrorSelected();
    expect(look(bottom).frame).not.toEqual(was);
  });
  test('all faces with a material are selected, and it is replaced through the map', () => {
    paintAt(over(30, 30), 'brass', 'brush');
    selectWithMaterial('brass');
    expect(editor().selection.faces).toHaveLength(6);
    useCurrent.setState({ material: 'canvas' });
    replaceThroughMap('brass');
    expect(
      new Set(
        editor()
          .doc.brushes.get('a')!
          .faces.map((f) => f.material),
      ),
    ).toEqual(new Set(['canvas']));
    const steps = editor().undo.length;
    replaceThroughMap('nobody');
    replaceThroughMap('canvas');
    expect(editor().undo).toHaveLength(steps);
  });
});

describe('thin sheets', () => {
  const sheets = () => [...editor().doc.brushes.values()].filter((b) => b.stops?.length === 0);
  test('stand where Place is clicked, of the active material, and are selected', () => {
    useCurrent.setState({ material: 'reed' });
    usePlaceOptions.setState({ what: 'sheet', crosswise: true, width: 100 });
    chooseTool('place');
    pointerTool().down({ ...over(30, 30), normal: UP });
    expect(sheets()).toHaveLength(2);
    expect(editor().selection.brushes.size).toBe(2);
    expect(Math.max(...sheets().flatMap((b) => b.vertices.map((v) => v[2])))).toBe(64 + 256);
  });
  test('by the command they stand under the pointer; without a surface there is a hint', () => {
    useCurrent.setState({ material: 'fern' });
    Object.assign(lastPane, { kind: 'plan', at: [30, 30, 0], normal: undefined });
    placeSheetHere(usePlaceOptions.getState());
    expect(sheets()).toHaveLength(1);
    Object.assign(lastPane, { kind: 'eye', at: [30, 30, 0], normal: undefined });
    placeSheetHere(usePlaceOptions.getState());
    useCurrent.setState({ material: 'nobody' });
    placeSheet([0, 0, 0], UP, usePlaceOptions.getState());
    expect(sheets()).toHaveLength(1);
    lastPane.kind = 'plan';
  });
});
