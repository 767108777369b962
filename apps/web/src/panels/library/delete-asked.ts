import { api, ApiError } from '../../api/client.ts';
import { askSure } from '../ask-sure.tsx';

/** Deletes something of Stock at an address once that is meant, and what maps use only when it is said twice. Gives whether it is gone. */
export async function deleteAsked(
  label: string,
  address: string,
  text = 'It is taken from Stock. That cannot be undone.',
): Promise<boolean> {
  if (!(await askSure(`Delete ${label}?`, text, 'Delete it'))) return false;
  try {
    await api('DELETE', address);
  } catch (error) {
    if (!(error instanceof ApiError) || !/^(material|prop)\.used$/.test(error.code)) throw error;
    if (!(await askSure(`Delete ${label}?`, error.message, 'Delete all the same'))) return false;
    await api('DELETE', `${address}?force=1`);
  }
  return true;
}
