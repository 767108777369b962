import type { PropImportReport } from '@yesca/contract';
import type { Prop } from '@yesca/stock';
import { api, ApiError } from '../../api/client.ts';
import { notify, notifyError } from '../../state/notify.ts';
import { askSure } from '../ask-sure.tsx';

/** What became of models in a sentence or two. */
export function reportWords({ added, same, refused }: PropImportReport): string {
  const [first] = refused;
  const notes = added.flatMap((a) => a.notes.map((note) => (added.length > 1 ? `${a.name}: ${note}` : note)));
  return [
    added.length === 1
      ? `${added[0]!.name} is in Stock now.`
      : added.length
        ? `${added.length} models are in Stock now.`
        : '',
    same.length ? `${same.map((s) => s.name).join(', ')} ${same.length === 1 ? 'was' : 'were'} there already.` : '',
    first ? `${refused.length} refused. ${first.file}: ${first.message}` : '',
    ...notes.slice(0, 3),
  ]
    .filter(Boolean)
    .join(' ');
}

/** The tag of props that did not come with Yesca. */
export const IMPORTED = 'imported';

/** Whether a prop did not come with Yesca. */
export const isImported = ({ tags }: Pick<Prop, 'tags'>): boolean => tags.includes(IMPORTED);

/** Removes an imported prop, once it was asked whether that is meant; one that stands in maps is asked for twice. */
export async function removeProp(
  { name, label }: Pick<Prop, 'name' | 'label'>,
  reload: () => Promise<unknown>,
): Promise<void> {
  const gone = async (force: boolean) => {
    await api('DELETE', `/api/props/${name}${force ? '?force=1' : ''}`);
    await reload();
    notify(`${label} is no longer in Stock.`, 'import');
  };
  try {
    if (await askSure(`Remove ${label}?`, 'It is taken from Stock. That cannot be undone.', 'Remove it'))
      await gone(false);
  } catch (error) {
    if (!(error instanceof ApiError) || error.code !== 'prop.used') return notifyError(error);
    if (await askSure(`Remove ${label}?`, error.message, 'Remove it all the same')) await gone(true).catch(notifyError);
  }
}
