import { BILLBOARD_KIND, modelOf, rounded, type BillboardFacing } from '../entity/index.ts';
import { addScaled, type Vec3 } from '../math/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import type { MaterialLookup } from '../surface/index.ts';
import { facingOf, naturalDecal, pictureLabel } from './decals.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { propOnSurface } from './props.ts';

/** A billboard to be placed. */
export interface BillboardWish {
  readonly material: string;
  readonly region?: string;
  /** A point of a surface, and which way that looks. */
  readonly at: Vec3;
  readonly normal: Vec3;
  readonly faces?: BillboardFacing;
  /** Degrees about its upright. */
  readonly turn?: number;
  /** Of the picture, cm. Absent: as large as it naturally is, or as the other side asks for. */
  readonly width?: number;
  readonly height?: number;
}

/** Puts the picture of a material on a surface, clear of it. Throws {@link EditError} for a material or a region that nobody has. */
export function placeBillboard(
  doc: MapDocument,
  { material, region = '', at, normal, faces = 'upright', turn = 0, ...size }: BillboardWish,
  lookup: MaterialLookup,
): { doc: MapDocument; made: { entities: string[] } } {
  const facts = lookup(material);
  if (!facts)
    throw new EditError('material.unknown', `No material called ${material} is known here. Choose one from Stock.`);
  const natural = naturalDecal(facts, region);
  const width = size.width ?? (natural.width * (size.height ?? natural.height)) / natural.height;
  const height = size.height ?? (natural.height * width) / natural.width;
  const id = newId();
  const placed = changeEntity(placeEntity(doc, BILLBOARD_KIND, at, turn, id), id, {
    name: pictureLabel(facts, region),
    params: { material, region, faces, width, height },
  });
  const way = facingOf(normal);
  // One that always faces turns about its middle; the others stand on their foot.
  const there =
    faces === 'always'
      ? rounded(addScaled(at, way, height / 2))
      : propOnSurface(modelOf(placed.entities.get(id)!)!.own!.bounds, at, way, { turn }).at;
  return { doc: changeEntity(placed, id, { at: there }), made: { entities: [id] } };
}
