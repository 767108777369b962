/** @jest-environment jsdom */
import { fireEvent, screen } from '@testing-library/react';
import { show } from '../panels/testing.tsx';
import { SkyDome, type InSky } from './SkyDome.tsx';

const told: { on: 'move' | 'end'; at: InSky }[] = [];
function dome(at: InSky): HTMLElement {
  told.length = 0;
  show(
    <SkyDome
      label="Sun"
      at={at}
      least={1}
      onMove={(to) => told.push({ on: 'move', at: to })}
      onChange={(to) => told.push({ on: 'end', at: to })}
    />,
  );
  const element = screen.getByRole('slider');
  // 112 pixels: as large as its drawing, so the horizon is 46 from the middle.
  element.setPointerCapture = () => undefined;
  element.getBoundingClientRect = () => new DOMRect(0, 0, 112, 112);
  return element;
}

test('it is dragged over the sky: north is up, the rim is the horizon, and what lies beyond is no lower than it may be', () => {
  const element = dome({ turn: 0, height: 45 });
  // The page of tests knows no pointers: they come as what they are made of.
  const point = (type: string, clientX: number, clientY: number) =>
    fireEvent(element, new MouseEvent(type, { bubbles: true, buttons: 1, clientX, clientY }));
  const drag = (clientX: number, clientY: number) => point('pointermove', clientX, clientY);
  point('pointerdown', 56, 56 - 23);
  expect(told.at(-1)).toEqual({ on: 'move', at: { turn: 90, height: 45 } });
  drag(56 - 46 * (2 / 3), 56);
  expect(told.at(-1)).toEqual({ on: 'move', at: { turn: 180, height: 30 } });
  drag(112, 112);
  expect(told.at(-1)).toEqual({ on: 'move', at: { turn: 315, height: 1 } });
  point('pointerup', 112, 112);
  expect(told.at(-1)).toEqual({ on: 'end', at: { turn: 315, height: 1 } });
});

test('arrow keys turn and raise it, in its bounds', () => {
  const element = dome({ turn: 0, height: 88 });
  const press = (key: string, shiftKey = false) => {
    fireEvent.keyDown(element, { key, shiftKey });
    return told.at(-1)!.at;
  };
  expect(press('ArrowRight')).toEqual({ turn: 359, height: 88 });
  expect(press('ArrowLeft', true)).toEqual({ turn: 15, height: 88 });
  expect(press('ArrowUp', true)).toEqual({ turn: 0, height: 90 });
  expect(press('ArrowDown')).toEqual({ turn: 0, height: 87 });
  const count = told.length;
  fireEvent.keyDown(element, { key: 'a' });
  expect(told).toHaveLength(count);
});
