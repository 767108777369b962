import { Button, SimpleGrid, Text, Tooltip } from '@mantine/core';
import { changeEntity, entityKind, type Entity, type Vec3 } from '@yesca/core';
import { playFrom } from '../../commands/playing.ts';
import { LengthField } from '../../fields/LengthField.tsx';
import { TextField } from '../../fields/TextField.tsx';
import { Color, run, Section } from './shared.tsx';

export function EntityParticulars({ entity }: { entity: Entity }) {
  const kind = entityKind(entity.kind);
  const change = (what: Parameters<typeof changeEntity>[2]) =>
    run('Change entity', (d) => changeEntity(d, entity.id, what));
  const place = (axis: number, v: number) => {
    const at: [number, number, number] = [...entity.at];
    at[axis] = v;
    change({ at: at as Vec3 });
  };
  return (
    <>
      <Section title={kind?.label ?? entity.kind}>
        <TextField
          label="Name"
          value={entity.name ?? ''}
          placeholder={kind?.label}
          onChange={(name) => change({ name })}
        />
        <SimpleGrid cols={3} spacing={4}>
          {['X', 'Y', 'Z'].map((a, i) => (
            <LengthField
              key={a}
              label={a}
              tip={['East', 'North', 'Up'][i]!}
              value={entity.at[i]!}
              onChange={(v) => place(i, v)}
            />
          ))}
        </SimpleGrid>
        {entity.kind !== 'pointLight' && (
          <LengthField
            label={entity.kind === 'sun' ? 'Stands towards' : 'Looks towards'}
            tip="Degrees counter-clockwise from east, seen from above"
            unit="°"
            value={entity.turn}
            onChange={(turn) => change({ turn: ((turn % 360) + 360) % 360 })}
          />
        )}
        {Object.entries(kind?.params ?? {}).map(([key, spec]) =>
          spec.type === 'color' ? (
            <Color
              key={key}
              label={spec.label}
              value={String(entity.params[key])}
              onChange={(v) => change({ params: { [key]: v } })}
            />
          ) : (
            <LengthField
              key={key}
              label={spec.label}
              tip={spec.tip}
              unit={spec.unit}
              value={Number(entity.params[key])}
              onChange={(v) => change({ params: { [key]: v } })}
            />
          ),
        )}
        {entity.kind === 'spawn' && (
          <Tooltip label="Walks the last build from this spawn; Play then begins here until another is chosen">
            <Button variant="default" size="xs" onClick={() => playFrom(entity.id)}>
              Play from this spawn
            </Button>
          </Tooltip>
        )}
        <Text size="xs" c="dimmed">
          {kind?.tip ?? 'This kind comes from a newer version. It is kept as it is.'}
        </Text>
      </Section>
    </>
  );
}
