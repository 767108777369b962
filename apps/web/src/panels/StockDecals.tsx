import { Text, Tooltip, UnstyledButton } from '@mantine/core';
import { useState } from 'react';
import { wholePicture, type Region } from '@yesca/core';
import { DECAL_TAG, type Material } from '@yesca/stock';
import { DECAL_DRAG } from '../state/drag.ts';
import { useCurrent } from '../state/current.ts';
import { useLibrary } from '../state/library.ts';
import { pictureUrl } from '../state/remote.ts';
import { hasWords, StockSearch } from './StockSearch.tsx';
import { chooseTool } from '../tools/index.ts';
import { PLACED_DECAL, usePlaceOptions } from '../tools/place-options.ts';

interface Entry {
  readonly material: Material;
  readonly region: Region;
}

const labelOf = ({ material, region }: Entry): string => region.name || material.label;

/** The decals of a library: the regions of what is tagged so, or all of its picture where it has none. */
const entriesOf = (materials: Iterable<Material>): Entry[] =>
  [...materials]
    .filter((m) => m.tags.includes(DECAL_TAG))
    .flatMap((material) => {
      const regions = material.regions?.length ? material.regions : [wholePicture(material)];
      return regions.map((region) => ({ material, region }));
    });

/** Pictures that are thrown on surfaces: pressed one is placed next, dragged it is dropped on a pane. */
export function StockDecals() {
  const materials = useLibrary((s) => s.materials);
  const [search, setSearch] = useState('');
  const [sheet, setSheet] = useState<string | null>(null);
  const all = entriesOf(materials.values());
  const sheets = [...new Set(all.map((e) => e.material))];
  const fits = hasWords(search);
  const found = all.filter(
    (e) =>
      (sheet === null || e.material.name === sheet) &&
      fits(`${labelOf(e)} ${e.material.label} ${e.material.tags.join(' ')}`),
  );
  return (
    <section className="stock-props">
      <StockSearch
        what="decals"
        search={search}
        onSearch={setSearch}
        heads="Sheets"
        names={sheets.map((m) => ({ id: m.name, label: m.label }))}
        head={sheet}
        onHead={setSheet}
      />
      {all.length === 0 && (
        <Text size="xs" c="dimmed">
          No material has the tag decal. Give it to one under Materials, Manage: each of its regions is then a decal.
        </Text>
      )}
      {found.length === 0 && all.length > 0 && (
        <Text size="xs" c="dimmed">
          No decal is called that. Clear the search or the sheet.
        </Text>
      )}
      <div className="stock-prop-tiles">
        {found.map((e) => (
          <DecalTile key={`${e.material.name} ${e.region.name}`} entry={e} />
        ))}
      </div>
    </section>
  );
}

/** Edge of a tile's picture, pixels. */
const TILE = 64;

function DecalTile({ entry }: { entry: Entry }) {
  const { material, region } = entry;
  const active = useCurrent((s) => s.tool === 'place');
  const chosen = usePlaceOptions(
    (s) => s.what === PLACED_DECAL && s.picture === material.name && s.region === region.name,
  );
  const [width, height] = [region.width, region.height].map((n) => Math.round(n / material.texelsPerCm));
  const zoom = TILE / Math.max(region.width, region.height);
  return (
    <Tooltip label={`${labelOf(entry)}: ${width} × ${height} cm, ${material.label}`} position="right">
      <UnstyledButton
        className="stock-prop"
        draggable
        data-active={(active && chosen) || undefined}
        onDragStart={(e) => {
          e.dataTransfer.setData(DECAL_DRAG, `${material.name}\n${region.name}`);
          e.dataTransfer.effectAllowed = 'copy';
        }}
        onClick={() => {
          usePlaceOptions.setState({ what: PLACED_DECAL, picture: material.name, region: region.name });
          chooseTool('place');
        }}
      >
        <span className="stock-decal">
          <span
            style={{
              width: region.width * zoom,
              height: region.height * zoom,
              backgroundImage: `url(${pictureUrl(material.name, 'albedo')})`,
              backgroundSize: `${material.width * zoom}px ${material.height * zoom}px`,
              backgroundPosition: `${-region.x * zoom}px ${-region.y * zoom}px`,
            }}
          />
        </span>
        <span>{labelOf(entry)}</span>
      </UnstyledButton>
    </Tooltip>
  );
}
