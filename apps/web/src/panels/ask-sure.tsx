import { Text } from '@mantine/core';
import { modals } from '@mantine/modals';

/** Asks in a small dialog whether something is meant; `yes` is what its button says. */
export const askSure = (title: string, text: string, yes: string): Promise<boolean> =>
  new Promise((done) => {
    modals.openConfirmModal({
      title,
      children: <Text size="sm">{text}</Text>,
      labels: { confirm: yes, cancel: 'Keep it' },
      onConfirm: () => done(true),
      onClose: () => done(false),
    });
  });
