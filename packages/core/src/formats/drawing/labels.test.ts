import { Labels, placesAround, spreadDown } from './labels.ts';

test('words keep clear of what is taken and of each other, and are left out where there is no room', () => {
  const labels = new Labels();
  labels.take({ x: 90, y: 90, width: 20, height: 20 });
  const first = labels.place(placesAround(100, 100, 60, 60), 40, 12)!;
  const second = labels.place(placesAround(100, 100, 60, 60), 40, 12)!;
  expect(Math.abs(first[1] - 100)).toBeGreaterThanOrEqual(14);
  expect(first).not.toEqual(second);
  expect(Math.abs(first[1] - second[1]) >= 12 || Math.abs(first[0] - second[0]) >= 40).toBe(true);
  labels.take({ x: -1000, y: -1000, width: 4000, height: 4000 });
  expect(labels.place(placesAround(100, 100, 60, 60), 40, 12)).toBeNull();
});

test('lines of words over one another are spread, those side by side stay', () => {
  expect(
    spreadDown(
      [
        { x: 0, y: 100, width: 40 },
        { x: 5, y: 96, width: 40 },
        { x: 10, y: 99, width: 40 },
      ],
      12,
    ),
  ).toEqual([100, 76, 88]);
  expect(
    spreadDown(
      [
        { x: 0, y: 100, width: 40 },
        { x: 80, y: 100, width: 40 },
      ],
      12,
    ),
  ).toEqual([100, 100]);
});

test('words may touch and never overlap: each takes its width and height round its middle', () => {
  for (const [dx, dy, fits] of [
    [40, 0, true],
    [39, 0, false],
    [-40, 0, true],
    [-39, 0, false],
    [0, 14, true],
    [0, 13, false],
    [0, -14, true],
    [0, -13, false],
  ] as const) {
    const labels = new Labels();
    expect(labels.place([[100, 50]], 40, 14)).toEqual([100, 50]);
    const at = [100 + dx, 50 + dy] as const;
    expect([dx, dy, labels.place([at], 40, 14)]).toEqual([dx, dy, fits ? at : null]);
  }
});
