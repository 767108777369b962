import { brushFlaw, brushPlanes, type Brush } from '../brush/index.ts';
import { entityParamFlaw, type Entity } from '../entity/index.ts';
import { isUsableFrame } from '../surface/index.ts';
import { MapFileError } from './errors.ts';

/** Throws {@link MapFileError} unless a brush is a valid solid with usable texture frames. */
export function assertBrush(brush: Brush, place: string): void {
  const flaw = brushFlaw(brush);
  if (flaw) throw new MapFileError(flaw.code, place, `Brush ${brush.id}: ${flaw.message}`);
  const planes = brushPlanes(brush);
  brush.faces.forEach((face, k) => {
    if (!isUsableFrame(face.frame, planes[k]!.normal))
      throw new MapFileError(
        'map.badFrame',
        `${place}/faces/${k}/frame`,
        `Brush ${brush.id}: the texture frame squashes the picture to a line. Lay the texture anew.`,
      );
  });
  if (new Set(brush.faces.map((f) => f.id)).size !== brush.faces.length)
    throw new MapFileError('map.sameId', `${place}/faces`, `Brush ${brush.id}: two faces have the same id.`);
}

/** Throws {@link MapFileError} unless the parameters of a thing are what its kind takes. */
export function assertEntity(entity: Entity, place: string): void {
  for (const [key, value] of Object.entries(entity.params)) {
    const flaw = entityParamFlaw(entity.kind, key, value);
    if (flaw) throw new MapFileError('map.badField', `${place}/params/${key}`, `Entity ${entity.id}: ${flaw}`);
  }
}
