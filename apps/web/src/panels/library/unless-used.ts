import { ApiError } from '../../api/client.ts';
import { askSure } from '../ask-sure.tsx';

/** Removes something; where maps use it, asks once more and then does it all the same. Gives whether it is gone. */
export async function unlessUsed(what: string, remove: (force: boolean) => Promise<unknown>): Promise<boolean> {
  try {
    await remove(false);
    return true;
  } catch (error) {
    if (!(error instanceof ApiError) || !/^(material|prop)\.used$/.test(error.code)) throw error;
    if (!(await askSure(`Delete ${what}?`, error.message, 'Delete all the same'))) return false;
    await remove(true);
    return true;
  }
}
