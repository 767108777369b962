/** @jest-environment jsdom */
import { addBrushes, boxSolid, changeEntity, dressSolid, placeEntity, type Vec3 } from '@yesca/core';
import { selectOnly } from '../state/selection.ts';
import { drag, editor, pointer, resetTools, view } from './testing.ts';
import { pointerTool } from './index.ts';
import { thingHandles } from './thing-handles.ts';
import { edited } from '../state/testing.ts';

const place = (kind: string, at: Vec3, params = {}) => {
  editor().run(edited('Place', (d) => changeEntity(placeEntity(d, kind, at, 0, 'it'), 'it', { params })));
  editor().select(selectOnly([{ type: 'entity', id: 'it' }]));
};
const it = () => editor().doc.entities.get('it')!;

beforeEach(resetTools);

describe('handles of things', () => {
  test('a spawn is turned by its handle, by the angle step; with Alt freely', () => {
    place('spawn', [0, 400, 0]);
    drag([80, 400], [3, 480]);
    expect([it().turn, it().at]).toEqual([90, [0, 400, 0]]);
    drag([0, 480], [-70, 440], { alt: true });
    expect(it().turn).toBeCloseTo((Math.atan2(40, -70) * 180) / Math.PI, 2);
    // One step each, which undo takes back.
    editor().undoOne();
    expect(it().turn).toBe(90);
  });

  test('a spot light is aimed in the Section and opened at its rim, with a preview and Esc', () => {
    place('spotLight', [0, 32, 200], { aim: [0, 0, -160], cone: 60 });
    drag([0, 40], [96, 64], {}, 'section');
    expect(it().params.aim).toEqual([96, 0, -136]);
    const rim = thingHandles(editor().doc, editor().selection).find((h) => h.handle.id === 'cone')!;
    // It lies across the drawing's plane or in it; wherever it is, the pointer on it takes it.
    const p = pointer('section', rim.at[0], rim.at[2]);
    pointerTool().down(p);
    pointerTool().move(pointer('section', rim.at[0] + 60, rim.at[2] + 20));
    expect(editor().draft?.entities.get('it')!.params.cone).not.toBe(60);
    pointerTool().cancel();
    expect([editor().draft, it().params.cone]).toEqual([null, 60]);
  });

  test('one that lies on its thing on a drawing leaves the thing to be moved', () => {
    place('spotLight', [0, 400, 200], { aim: [0, 0, -160] });
    expect(thingHandles(editor().doc, editor().selection, view('plan')).map((h) => h.handle.id)).toEqual(['cone']);
    drag([0, 400], [64, 400]);
    expect([it().at, it().params.aim]).toEqual([
      [64, 400, 200],
      [0, 0, -160],
    ]);
  });

  test('several things at once have none, nor do things of a newer version', () => {
    place('spawn', [0, 400, 0]);
    editor().run(edited('Place', (d) => placeEntity(d, 'spawn', [200, 400, 0], 0, 'other')));
    editor().select(
      selectOnly([
        { type: 'entity', id: 'it' },
        { type: 'entity', id: 'other' },
      ]),
    );
    expect(thingHandles(editor().doc, editor().selection)).toEqual([]);
    const newer = { ...it(), kind: 'zeppelin' };
    const doc = { ...editor().doc, entities: new Map([['it', newer]]) };
    expect(thingHandles(doc, selectOnly([{ type: 'entity', id: 'it' }]))).toEqual([]);
  });

  describe('of a door', () => {
    const travel = () => (it().params.leaves as { travel: Vec3 }[])[0]!.travel;
    const brush = (id: string, min: Vec3, max: Vec3, owner?: { id: string }) => ({
      ...dressSolid(boxSolid({ min, max }), id, 'placeholder'),
      role: 'detail' as const,
      ...(owner ? { owner } : {}),
    });
    const type = (text: string) => [...text].forEach((key) => pointerTool().type!(key));
    beforeEach(() => {
      const door = edited('Door', (d) =>
        addBrushes(placeEntity(d, 'door', [0, 1000, 0], 0, 'it'), [
          brush('leaf', [-4, 960, 0], [4, 1040, 200], { id: 'it' }),
          { ...brush('crate', [-40, 1200, 0], [40, 1280, 80]), name: 'Crate' },
        ]),
      );
      editor().run(door);
      editor().run(
        edited('Leaf', (d) =>
          changeEntity(d, 'it', {
            params: { leaves: [{ moves: 'slides', travel: [0, 80, 0], hinge: [0, 0, 0], axis: [0, 0, 1], angle: 0 }] },
          }),
        ),
      );
      editor().select(selectOnly([{ type: 'entity', id: 'it' }]));
    });
    const take = (dx: number, dy: number) => {
      pointerTool().down(pointer('plan', 0, 1080));
      pointerTool().move(pointer('plan', dx, 1080 + dy));
    };

    test('says how far it goes and what it meets on its way, and takes typed lengths where it is dragged', () => {
      take(0, 32);
      expect(editor().overlay).toMatchObject({ typed: '112 cm', note: '48 cm clear, then Crate.' });
      type('90+30');
      expect(editor().overlay).toMatchObject({ typed: '90+30', note: '40 cm clear, then Crate.' });
      // What was typed holds against the pointer.
      pointerTool().move(pointer('plan', 0, 1300));
      expect(editor().overlay.typed).toBe('90+30');
      type('0');
      expect(editor().overlay.note).toBe('Comes to Crate after 160 cm.');
      pointerTool().up(pointer('plan', 0, 1300));
      expect(travel()).toEqual([0, 390, 0]);
      expect(editor().overlay).toEqual({});
      editor().undoOne();
      expect(travel()).toEqual([0, 80, 0]);
    });

    test('three numbers are the way itself, and Esc leaves everything as it was', () => {
      take(40, 0);
      type('10 20 30');
      pointerTool().cancel();
      expect([editor().draft, editor().overlay, travel()]).toEqual([null, {}, [0, 80, 0]]);
      take(40, 0);
      type('10 20 30');
      pointerTool().up(pointer('plan', 40, 1080));
      expect(travel()).toEqual([10, 20, 30]);
    });

    test('an angle beyond its range is refused with a sentence, and nothing of it stays', () => {
      editor().run(
        edited('Leaf', (d) =>
          changeEntity(d, 'it', {
            params: { leaves: [{ moves: 'turns', travel: [0, 0, 0], hinge: [0, -40, 0], axis: [0, 0, 1], angle: 90 }] },
          }),
        ),
      );
      const rim = thingHandles(editor().doc, editor().selection).find((h) => h.handle.id === 'angle 0')!;
      const angle = () => (it().params.leaves as { angle: number }[])[0]!.angle;
      const turn = (text: string) => {
        pointerTool().down(pointer('plan', rim.at[0], rim.at[1]));
        pointerTool().move(pointer('plan', rim.at[0] + 20, rim.at[1] + 20));
        type(text);
        pointerTool().up(pointer('plan', rim.at[0] + 20, rim.at[1] + 20));
      };
      turn('400');
      expect([editor().draft, angle()]).toEqual([null, 90]);
      turn('-75');
      expect(angle()).toBe(-75);
    });
  });
});
