import type { BufferAttribute } from 'three';
import { BoxGeometry, SphereGeometry } from 'three';
import { layOutMesh, type PropChart } from '@yesca/core';
import { meshOf } from './prop-meshes.ts';
import { laidOut, layoutPicture, layoutsAcross, writeLayout } from './own-light.ts';

const layout = (geometries: readonly (BoxGeometry | SphereGeometry)[]): PropChart => {
  const { width, height, corners } = layOutMesh(meshOf(geometries.map((geometry) => ({ geometry }))), 4, 20_000)!;
  return { number: 0, width, height, corners };
};

test('each triangle of a model gets the corners that its layout has for it, piece after piece', () => {
  const pieces = [new BoxGeometry(40, 30, 20), new SphereGeometry(25, 8, 6)];
  const chart = layout(pieces);
  const apart = laidOut(pieces, chart)!;
  let corner = 0;
  apart.forEach((geometry, k) => {
    const [place, own] = [geometry.getAttribute('position'), geometry.getAttribute('chart') as BufferAttribute];
    expect(geometry.index).toBeNull();
    expect(own.count).toBe(place.count);
    const index = pieces[k]!.getIndex()!;
    for (let n = 0; n < place.count; n++, corner++) {
      expect(place.getX(n)).toBe(pieces[k]!.getAttribute('position').getX(index.getX(n)));
      expect([own.getX(n), own.getY(n)]).toEqual([chart.corners[corner * 2], chart.corners[corner * 2 + 1]]);
    }
  });
  expect(corner * 2).toBe(chart.corners.length);
  // What has no corners of its own was not touched.
  expect(pieces[0]!.getAttribute('chart')).toBeUndefined();
});

test('of a model that was changed since, the layout is not taken', () => {
  expect(laidOut([new BoxGeometry(40, 30, 20, 2)], layout([new BoxGeometry(40, 30, 20)]))).toBeNull();
});

test('the light of many lies in one picture without one over another', () => {
  const chart: PropChart = { number: 0, width: 900, height: 3, corners: new Float32Array(0) };
  expect(layoutsAcross(chart)).toBe(4);
  const picture = layoutPicture(chart, 6);
  expect([picture.image.width, picture.image.height]).toEqual([3600, 6]);
  for (let k = 0; k < 6; k++) writeLayout(picture, chart, k, new Float32Array(900 * 3 * 3).fill(k + 1));
  const counts = new Map<number, number>();
  (picture.image.data as Float32Array).forEach((v, n) => n % 4 === 0 && counts.set(v, (counts.get(v) ?? 0) + 1));
  for (let k = 1; k <= 6; k++) expect(counts.get(k)).toBe(2700);
  writeLayout(picture, chart, 2, null);
  expect((picture.image.data as Float32Array).filter((v, n) => n % 4 === 1 && v === -1)).toHaveLength(2700);
});
