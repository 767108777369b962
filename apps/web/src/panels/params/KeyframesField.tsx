import { ActionIcon, Button, Select, Text, Tooltip } from '@mantine/core';
import { IconPlus, IconTrash } from '@tabler/icons-react';
import { EASES, type Ease, type Keyframe, type KeyframesParam, type Vec3 } from '@yesca/core';
import { LengthField } from '../../fields/LengthField.tsx';

const AXES = ['X', 'Y', 'Z'] as const;
const EASE_WORDS: Readonly<Record<Ease, string>> = {
  gentle: 'gently',
  even: 'evenly',
  start: 'gently at first',
  end: 'gently at last',
};
/** A new keyframe comes so long after the last, seconds. */
const NEXT = 1;

const changed = (v: Vec3, axis: number, to: number): Vec3 => v.map((c, i) => (i === axis ? to : c)) as unknown as Vec3;

/** Places on a way: when, where from where it was drawn, and how turned. Null where several things differ. */
export function KeyframesField({
  spec,
  value,
  onChange,
}: {
  spec: KeyframesParam;
  value: readonly Keyframe[] | null;
  onChange: (value: readonly Keyframe[]) => void;
}) {
  const all = value ?? [];
  // In the order of time, whatever was typed: a keyframe that comes earlier now moves up.
  const set = (next: readonly Keyframe[]) => onChange([...next].sort((a, b) => a.at - b.at));
  const put = (place: number, change: Partial<Keyframe>) =>
    set(all.map((key, i) => (i === place ? { ...key, ...change } : key)));
  const add = () => {
    const last = all.at(-1);
    set([...all, last ? { ...last, at: last.at + NEXT } : { at: 0, move: [0, 0, 0], turn: [0, 0, 0] }]);
  };
  return (
    <div role="group" aria-label={spec.label}>
      <Tooltip label={spec.help}>
        <span className="field-title">{spec.label}</span>
      </Tooltip>
      {value === null && (
        <Text size="xs" c="dimmed">
          mixed
        </Text>
      )}
      {all.map((key, i) => (
        <fieldset key={i} className="keyframe" aria-label={`${spec.label} ${i + 1}`}>
          <div className="keyframe-time">
            <LengthField
              label="At"
              tip="When it is there"
              unit="s"
              value={key.at}
              onChange={(at) => put(i, { at: Math.max(0, at) })}
            />
            <Tooltip label="Remove this keyframe">
              <ActionIcon
                size="sm"
                aria-label={`Remove keyframe ${i + 1}`}
                onClick={() => set(all.filter((_, k) => k !== i))}
              >
                <IconTrash size={14} stroke={1.5} />
              </ActionIcon>
            </Tooltip>
          </div>
          <div className="three-fields">
            <Select
              label="Comes"
              className="keyframe-ease"
              allowDeselect={false}
              data={EASES.map((value) => ({ value, label: EASE_WORDS[value] }))}
              value={key.ease ?? 'gentle'}
              onChange={(ease) => ease && put(i, { ease: ease as Ease })}
            />
            <LengthField
              label="Rests"
              tip="How long it stays there; what comes later comes so much later"
              unit="s"
              value={key.hold ?? 0}
              onChange={(hold) => put(i, { hold: Math.max(0, hold) })}
            />
          </div>
          <div className="three-fields">
            {AXES.map((axis, k) => (
              <LengthField
                key={axis}
                label={`Move ${axis}`}
                tip="From where it was drawn"
                value={key.move[k]!}
                onChange={(to) => put(i, { move: changed(key.move, k, to) })}
              />
            ))}
            {AXES.map((axis, k) => (
              <LengthField
                key={axis}
                label={`Turn ${axis}`}
                tip={`How far it is turned about ${axis}`}
                unit="°"
                value={key.turn[k]!}
                onChange={(to) => put(i, { turn: changed(key.turn, k, to) })}
              />
            ))}
          </div>
        </fieldset>
      ))}
      <Button variant="subtle" size="compact-xs" leftSection={<IconPlus size={13} stroke={1.6} />} onClick={add}>
        Add a keyframe
      </Button>
    </div>
  );
}
