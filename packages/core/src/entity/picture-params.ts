import { params } from '../params/index.ts';
import type { ThingFlaw } from './kind.ts';

/** What it shows is set by a field of its own. */
const own = () => false;

/** Which picture a thing shows. */
export const pictureParams = {
  material: params.reference('material', { label: 'Material', help: 'Whose picture it shows', shownWhen: own }),
  region: params.text('', {
    label: 'Region',
    help: 'Which region of the picture; none for all of it',
    longest: 100,
    shownWhen: own,
  }),
};

/** What is wrong with a thing that shows no picture; `what` says how it gets one. */
export const lacksPicture = (material: string, what: string): ThingFlaw[] =>
  material === ''
    ? [{ code: 'noPicture', severity: 'warning', text: (name) => `${name} shows no picture. ${what}` }]
    : [];
