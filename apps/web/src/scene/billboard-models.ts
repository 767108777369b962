import { BufferAttribute, BufferGeometry, Color, SRGBColorSpace, TextureLoader } from 'three';
import { pictureRegion, type Billboard } from '@yesca/core';
import { materialFacts } from '../state/library.ts';
import { pictureUrl } from '../state/remote.ts';
import { anisotropy } from './anisotropy.ts';
import type { PropPiece } from './prop-models.ts';

/** The planes of a billboard about its pivot, and where on its picture their corners lie. */
function planes({ faces, width, height }: Billboard, [u0, v0, u1, v1]: readonly [number, number, number, number]) {
  const [r, low] = [width / 2, faces === 'always' ? -height / 2 : 0];
  const ways =
    faces === 'crossed'
      ? [
          [1, 0],
          [0, 1],
        ]
      : [[1, 0]];
  const corners = [
    [-1, low, u0, v0],
    [1, low, u1, v0],
    [1, low + height, u1, v1],
    [-1, low + height, u0, v1],
  ] as const;
  const of = <T>(give: (way: readonly number[], corner: (typeof corners)[number]) => T[]) =>
    Float32Array.from(ways.flatMap((way) => corners.flatMap((corner) => give(way, corner) as never)));
  const geometry = new BufferGeometry();
  geometry.setAttribute(
    'position',
    new BufferAttribute(
      of(([x, y], [s, z]) => [x! * s * r, y! * s * r, z]),
      3,
    ),
  );
  geometry.setAttribute(
    'normal',
    new BufferAttribute(
      of(([x, y]) => [y!, -x!, 0]),
      3,
    ),
  );
  geometry.setAttribute(
    'uv',
    new BufferAttribute(
      of((_, [, , u, v]) => [u, v]),
      2,
    ),
  );
  geometry.setIndex(ways.flatMap((_, k) => [0, 1, 2, 0, 2, 3].map((i) => 4 * k + i)));
  return geometry;
}

/** A billboard as it is drawn. Rejects where its picture cannot be read, or nobody has it. */
export async function billboardModel(billboard: Billboard): Promise<readonly PropPiece[]> {
  const facts = materialFacts(billboard.material);
  if (!facts) throw new Error(`no material ${billboard.material}`);
  const { width, height } = facts;
  const part = pictureRegion(billboard, facts);
  const picture = await new TextureLoader().loadAsync(pictureUrl(billboard.material, 'albedo'));
  picture.colorSpace = SRGBColorSpace;
  picture.anisotropy = anisotropy();
  // The first row of a picture is its top.
  const place = [
    part.x / width,
    1 - (part.y + part.height) / height,
    (part.x + part.width) / width,
    1 - part.y / height,
  ] as const;
  return [
    {
      geometry: planes(billboard, place),
      picture,
      color: new Color(billboard.tint),
      glow: new Color(facts.glow ? billboard.tint : '#000000'),
      cut: facts.solidity === 'seeThrough' ? 0 : 0.5,
      doubleSided: true,
      stands: billboard.faces,
      seeThrough: facts.solidity === 'seeThrough',
    },
  ];
}
