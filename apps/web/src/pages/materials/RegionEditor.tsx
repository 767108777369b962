import { ActionIcon, Group, Stack, Text, Tooltip } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useRef, useState, type PointerEvent } from 'react';
import type { Region } from '@yesca/core';
import type { Material } from '@yesca/stock';
import { pictureUrl } from '../../state/remote.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';

/** The named rectangles of a material: drawn on its picture, named and sized in numbers. */
export function RegionEditor({
  material,
  onChange,
}: {
  material: Material;
  /** Absent for what ships: regions are only looked at. */
  onChange?: (regions: readonly Region[]) => void;
}) {
  const regions = material.regions ?? [];
  const box = useRef<HTMLDivElement>(null);
  const [drawn, setDrawn] = useState<{ from: [number, number]; to: [number, number] } | null>(null);
  const at = (event: PointerEvent): [number, number] => {
    const b = box.current!.getBoundingClientRect();
    const clamp = (x: number, most: number) => Math.round(Math.max(0, Math.min(most, x)));
    return [
      clamp(((event.clientX - b.left) / b.width) * material.width, material.width),
      clamp(((event.clientY - b.top) / b.height) * material.height, material.height),
    ];
  };
  const rectangle = ({ from, to }: NonNullable<typeof drawn>): Omit<Region, 'name'> => ({
    x: Math.min(from[0], to[0]),
    y: Math.min(from[1], to[1]),
    width: Math.abs(to[0] - from[0]),
    height: Math.abs(to[1] - from[1]),
  });
  const place = (r: Omit<Region, 'name'>) => ({
    left: `${(r.x / material.width) * 100}%`,
    top: `${(r.y / material.height) * 100}%`,
    width: `${(r.width / material.width) * 100}%`,
    height: `${(r.height / material.height) * 100}%`,
  });
  const freeName = () => {
    for (let k = regions.length + 1; ; k++) if (!regions.some((r) => r.name === `region ${k}`)) return `region ${k}`;
  };
  const change = (i: number, part: Partial<Region>) =>
    onChange?.(regions.map((r, k) => (k === i ? { ...r, ...part } : r)));
  return (
    <Stack gap={6}>
      <div
        ref={box}
        className="region-picture"
        style={{
          aspectRatio: `${material.width} / ${material.height}`,
          backgroundImage: `url(${pictureUrl(material.name, 'albedo')})`,
          cursor: onChange ? 'crosshair' : 'default',
        }}
        onPointerDown={(e) => {
          if (!onChange) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          setDrawn({ from: at(e), to: at(e) });
        }}
        onPointerMove={(e) => drawn && setDrawn({ ...drawn, to: at(e) })}
        onPointerUp={(e) => {
          // Where it is let go is told by the event: what was drawn last may not have been put down yet.
          const r = drawn && rectangle({ ...drawn, to: at(e) });
          setDrawn(null);
          if (r && r.width >= 4 && r.height >= 4) onChange?.([...regions, { name: freeName(), ...r }]);
        }}
      >
        {regions.map((r) => (
          <span key={r.name} className="region-box" style={place(r)}>
            {r.name}
          </span>
        ))}
        {drawn && <span className="region-box" data-drawn style={place(rectangle(drawn))} />}
      </div>
      <Text size="xs" c="dimmed">
        {onChange
          ? 'Drag on the picture to name a part of it: a band, a panel, a sign. Faces can then take it exactly.'
          : regions.length
            ? 'Faces take these parts exactly: Surface, Region.'
            : 'This material holds one picture.'}
      </Text>
      {onChange &&
        regions.map((r, i) => (
          <Group key={r.name} gap={4} wrap="nowrap" align="end">
            <TextField
              label="Name"
              value={r.name}
              onChange={(name) => name.trim() && change(i, { name: name.trim() })}
            />
            {(['x', 'y', 'width', 'height'] as const).map((k) => (
              <LengthField
                key={k}
                label={k === 'width' ? 'w' : k === 'height' ? 'h' : k}
                tip={`${k} of ${r.name}, texels`}
                unit=""
                value={r[k]}
                onChange={(v) => change(i, { [k]: Math.round(v) })}
              />
            ))}
            <Tooltip label={`Forget the region ${r.name}`}>
              <ActionIcon
                aria-label={`Forget the region ${r.name}`}
                onClick={() => onChange(regions.filter((_, k) => k !== i))}
              >
                <IconTrash size={15} stroke={1.5} />
              </ActionIcon>
            </Tooltip>
          </Group>
        ))}
    </Stack>
  );
}
