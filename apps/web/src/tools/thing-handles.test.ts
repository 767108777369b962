/** @jest-environment jsdom */
import { changeEntity, placeEntity, type Vec3 } from '@yesca/core';
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
});
