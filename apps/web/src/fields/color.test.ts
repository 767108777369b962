import { readColor } from './color.ts';

test.each([
  ['#ffcc88', '#ffcc88'],
  [' FFCC88 ', '#ffcc88'],
  ['#fc8', '#ffcc88'],
  ['rgb(255, 204, 136)', '#ffcc88'],
  ['rgb(0 7 255)', '#0007ff'],
  ['rgb(256, 0, 0)', null],
  ['#ffcc8', null],
  ['ember', null],
  ['', null],
])('the colour %j reads as %j', (text, color) => expect(readColor(text)).toBe(color));
