/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import { addBrushes, boxSolid, dressSolid, emptyMap, facesFacing, modelOf } from '@yesca/core';
import { PROPS } from '@yesca/stock';
import { useEditor } from '../../state/editor.ts';
import { useLibrary } from '../../state/library.ts';
import { show } from '../testing.tsx';
import { ScatterProps } from './ScatterProps.tsx';

const things = () => [...useEditor.getState().doc.entities.values()].filter((e) => modelOf(e));

test('strews the chosen prop over the faces in one step; what cannot be is told and changes nothing', async () => {
  useLibrary.getState().setProps(PROPS);
  const slab = dressSolid(boxSolid({ min: [0, 0, 0], max: [800, 800, 16] }), 'slab', 'oak-plank', { role: 'detail' });
  const doc = addBrushes(emptyMap('t'), [slab]);
  useEditor.getState().load('m', 1, doc);
  const { user } = show(<ScatterProps refs={facesFacing(doc, ['slab'], [0, 0, 1])} />);
  await user.click(screen.getByText('Strew them here'));
  const first = things();
  expect(first.length).toBeGreaterThan(25);
  expect(new Set(first.map((e) => modelOf(e)!.name))).toEqual(new Set(['stones']));
  expect(useEditor.getState().doc.groups.size).toBe(1);
  useEditor.getState().undoOne();
  expect(things()).toEqual([]);
  // Pressed again they lie another way.
  await user.click(screen.getByText('Strew them here'));
  expect(things()[0]!.at).not.toEqual(first[0]!.at);
  useEditor.getState().undoOne();
  const spacing = screen.getByLabelText('Spacing');
  await user.clear(spacing);
  await user.type(spacing, '9000{Enter}');
  await user.click(screen.getByText('Strew them here'));
  expect(things()).toEqual([]);
});
