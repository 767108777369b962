import { notifications } from '@mantine/notifications';

/** Shows a refusal as a short notice that says what to do. */
export function notifyError(error: unknown): void {
  const message = error instanceof Error ? error.message : 'This could not be done.';
  notifications.show({ id: message, message, color: 'var(--madder)', autoClose: 6000, withBorder: true });
}

export const notify = (message: string, id = message): void =>
  void notifications.show({ id, message, color: 'var(--verdigris)', autoClose: 3000, withBorder: true });
