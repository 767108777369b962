import { mapFromChecked, type MapDocument } from '@yesca/core';

/**
 * The document in a map file's text from the server, which has checked it before it stored it: checking it here again would take longer
 * than all else.
 */
export const parseMapFromServer = (text: string): MapDocument => mapFromChecked(JSON.parse(text));
