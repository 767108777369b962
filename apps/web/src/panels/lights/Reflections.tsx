import { Button, Text, Tooltip, UnstyledButton } from '@mantine/core';
import { call, entityName, reflects } from '@yesca/core';
import { reflectBeforeSelected } from '../../commands/surfaces.ts';
import { KindSymbol } from '../../fields/KindSymbol.tsx';
import { useEditor } from '../../state/editor.ts';
import type { Lit } from '../../state/lit.ts';
import { selectOnly } from '../../state/selection.ts';
import { run } from '../particulars/shared.tsx';

/** The places from which what shines sees its surroundings. */
export function Reflections({ lit }: { lit: Lit | null }) {
  const entities = useEditor((s) => s.doc.entities);
  const select = useEditor((s) => s.select);
  const probes = [...entities.values()].filter(reflects);
  const kilobytes = (lit?.level.reflectionTexels.byteLength ?? 0) / 1000;
  return (
    <div className="lights-state" role="group" aria-label="Reflections">
      <Text size="xs">
        {probes.length === 0
          ? 'Nothing shiny reflects its surroundings yet: that takes reflection probes.'
          : `${probes.length} reflection ${probes.length === 1 ? 'probe' : 'probes'}${kilobytes > 0 ? `, ${kilobytes.toFixed(0)} kB` : ''}`}
      </Text>
      {probes.map((probe) => (
        <Tooltip
          key={probe.id}
          label="Selects it; what shines takes the nearest in its cell, or the one chosen for the face"
        >
          <UnstyledButton className="light-name" onClick={() => select(selectOnly([{ type: 'entity', id: probe.id }]))}>
            <KindSymbol kind={probe.kind} size={16} />
            <span className="row-label">{entityName(probe)}</span>
          </UnstyledButton>
        </Tooltip>
      ))}
      <Tooltip label="Puts a reflection probe in each room that has none, at the height of eyes">
        <Button variant="default" size="compact-xs" onClick={() => run(call('reflection.rooms', {}))}>
          One in each room
        </Button>
      </Tooltip>
      <Tooltip label="Puts a reflection probe 40 cm before each selected face: for windows and water">
        <Button variant="default" size="compact-xs" onClick={reflectBeforeSelected}>
          Before the faces
        </Button>
      </Tooltip>
    </div>
  );
}
