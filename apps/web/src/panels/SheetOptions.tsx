import { Group, Switch, Tooltip } from '@mantine/core';
import { LengthField } from '../fields/LengthField.tsx';
import { useLibrary } from '../state/library.ts';
import { useView } from '../state/view.ts';
import { MaterialSwatch } from './MaterialSwatch.tsx';

/** Size and number of thin sheets: leaves, netting and the like. */
export function SheetOptions() {
  const material = useView((s) => s.material);
  const [width, height] = useView((s) => s.sheetSize);
  const crosswise = useView((s) => s.crosswise);
  const set = useView((s) => s.set);
  const facts = useLibrary((s) => s.materials.get(material));
  const natural = (texels: number | undefined) => (facts && texels ? texels / facts.texelsPerCm : 128);
  return (
    <Group gap={8} wrap="nowrap" align="end">
      <MaterialSwatch name={material} size={30} />
      <LengthField
        label="Width"
        tip="Width of the sheet; 0 is the picture's natural size"
        value={width || natural(facts?.width)}
        onChange={(v) => set({ sheetSize: [Math.max(0, v), height] })}
      />
      <LengthField
        label="Height"
        tip="Height of the sheet; 0 is the picture's natural size"
        value={height || natural(facts?.height)}
        onChange={(v) => set({ sheetSize: [width, Math.max(0, v)] })}
      />
      <Tooltip label="Two sheets through one another, so that it looks full from all sides">
        <Switch
          size="xs"
          label="Crosswise"
          checked={crosswise}
          onChange={(e) => set({ crosswise: e.currentTarget.checked })}
        />
      </Tooltip>
    </Group>
  );
}
