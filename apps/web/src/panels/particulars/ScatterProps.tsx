import { Button, Tooltip } from '@mantine/core';
import { call, params, type FaceRef } from '@yesca/core';
import { options } from '../../state/kept.ts';
import { ParamPanel } from '../params/ParamPanel.tsx';
import { run, Section } from './shared.tsx';

/** How props are strewn over faces. */
const useScatterOptions = options('scatter', {
  prop: params.reference('model', { label: 'Prop', help: 'What is strewn', initial: 'stones' }),
  spacing: params.length(96, { label: 'Spacing', help: 'From one to the next, at least', min: 1, max: 10_000 }),
  spread: params.part(0.2, { label: 'Sizes differ by', help: '0.2 is from 0.8 to 1.2 times as large', max: 0.95 }),
  aligned: params.yesNo(false, { label: 'Lean with the surface', help: 'Their uprights stand square to it' }),
});

const SEEDS = 1_000_000;

/** Strews a prop over the selected faces; each press another way. */
export function ScatterProps({ refs }: { refs: readonly FaceRef[] }) {
  const values = useScatterOptions();
  const scatter = () => {
    const { prop, ...how } = useScatterOptions.getState();
    run(
      call('prop.scatter', {
        faces: refs,
        models: prop ? [prop] : [],
        seed: Math.floor(Math.random() * SEEDS),
        ...how,
      }),
    );
  };
  return (
    <Section title="Strew props">
      <ParamPanel
        specs={useScatterOptions.specs}
        values={[{ ...values }]}
        onChange={(key, value) => useScatterOptions.setState({ [key]: value })}
      />
      <Tooltip label="Puts as many as find room on the faces, none nearer than the spacing, in one group; undo and press again for another draw">
        <Button size="compact-sm" variant="default" onClick={scatter}>
          Strew them here
        </Button>
      </Tooltip>
    </Section>
  );
}
