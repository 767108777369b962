import type { PropImportReport } from '@yesca/contract';
import type { Prop } from '@yesca/stock';
import { isImported } from '../../state/library.ts';
import { notify, notifyError } from '../../state/notify.ts';
import { deleteAsked } from './delete-asked.ts';

/** What became of models in a sentence or two. */
export function reportWords({ added, same, refused }: Omit<PropImportReport, 'pack'>): string {
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

/** What imported props are found by. */
export const IMPORTED = 'imported';

/** Tags of a prop, and that it did not come with Yesca. */
export const searchTags = (p: Pick<Prop, 'tags' | 'pack'>): readonly string[] =>
  isImported(p) ? [...p.tags, IMPORTED] : p.tags;

/** Removes an imported prop, once it was asked whether that is meant; one that stands in maps is asked for twice. */
export async function removeProp(
  { name, label }: Pick<Prop, 'name' | 'label'>,
  reload: () => Promise<unknown>,
): Promise<void> {
  try {
    if (!(await deleteAsked(label, `/api/props/${name}`))) return;
    await reload();
    notify(`${label} is no longer in Stock.`, 'import');
  } catch (error) {
    notifyError(error);
  }
}
