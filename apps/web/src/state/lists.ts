/** A list with a name put in, or taken out when it was there. */
export const toggled = (list: readonly string[], name: string): readonly string[] =>
  list.includes(name) ? list.filter((x) => x !== name) : [...list, name];

/** What was used, newest first, as many as are kept. */
export const usedNow = (list: readonly string[], name: string, most: number): readonly string[] =>
  [name, ...list.filter((x) => x !== name)].slice(0, most);
