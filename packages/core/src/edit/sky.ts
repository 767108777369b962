import { lightOf } from '../entity/index.ts';
import { SKIES, type MapDocument } from '../map/index.ts';
import { changeEntity, changeSettings } from './entities.ts';
import { EditError } from './errors.ts';

/** Gives a map a sky that people know: its colours and light, the even light under it; and suns become as its own is, where they stand. */
export function takeSky(doc: MapDocument, id: string): MapDocument {
  const sky = SKIES.find((s) => s.id === id);
  if (!sky)
    throw new EditError(
      'sky.unknown',
      `There is no sky called ${id}. Choose one of ${SKIES.map((s) => s.id).join(', ')}.`,
    );
  const suns = [...doc.entities.values()].filter((e) => lightOf(e)?.type === 'parallel');
  return suns.reduce((d, { id: sun }) => changeEntity(d, sun, { params: sky.sun }), changeSettings(doc, sky.settings));
}
