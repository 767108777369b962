import { mapFromData, type MapDocument } from '@yesca/core';

/** The document in a map file's text from the server, which has checked it before it stored it. */
export const parseMapFromServer = (text: string): MapDocument => mapFromData(JSON.parse(text));
