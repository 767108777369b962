import { boxSolid } from '../brush/index.ts';
import { addBrushes, changeEntity, placeProps } from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { dressSolid } from '../surface/index.ts';
import { crateAlone as props } from '../testing/props.ts';
import { buriedProp, missingProp } from './props.ts';

const two = (): { doc: MapDocument; ids: string[] } => {
  const { doc, made } = placeProps(
    emptyMap('m'),
    [
      { model: 'crate', at: [0, 0, 0] },
      { model: 'crate', at: [200, 0, 0], turn: 30 },
    ],
    props,
  );
  return { doc, ids: made.entities };
};
const block = (id: string, reach: number) =>
  dressSolid(boxSolid({ min: [200 - reach, -reach, -8], max: [200 + reach, reach, 80] }), id, 'm', { role: 'detail' });

test('props that nobody has are told by name, all of one name together; nothing is said where none are known', () => {
  const { doc, ids } = two();
  expect(missingProp.find(doc, { props })).toEqual([]);
  expect(missingProp.find(doc, {})).toEqual([]);
  const gone = missingProp.find(doc, { props: () => undefined });
  expect(gone.map((f) => [f.entities, f.severity])).toEqual([[ids, 'warning']]);
  expect(gone[0]!.text).toMatch(/2 props are called crate, which is not in Stock: a box stands for them/);
  const one = changeEntity(doc, ids[0]!, { params: { model: 'vase' } });
  expect(missingProp.find(one, { props })[0]!.text).toMatch(/A prop is called vase/);
  const bare = missingProp.fixes![0]!.apply(one, missingProp.find(one, { props })[0]!, { props });
  expect([...bare.entities.keys()]).toEqual([ids[1]]);
});

test('a prop that lies wholly in one solid is buried, one whose corner looks out is not', () => {
  const { doc, ids } = two();
  // Turned by 30 degrees its corners reach 32 (cos 30 + sin 30) = 43.7 from its middle.
  expect(buriedProp.find(addBrushes(doc, [block('b', 43)]), {})).toEqual([]);
  const found = buriedProp.find(addBrushes(doc, [block('b', 45)]), {});
  expect(found.map((f) => f.entities)).toEqual([[ids[1]]]);
  expect(found[0]!.text).toMatch(/^Crate stands inside a solid/);
  // Clip hides nothing.
  const clip = { ...block('b', 45), role: 'clip' as const };
  expect(buriedProp.find(addBrushes(doc, [clip]), {})).toEqual([]);
  const fixed = buriedProp.fixes![0]!.apply(doc, found[0]!, {});
  expect([...fixed.entities.keys()]).toEqual([ids[0]]);
});
