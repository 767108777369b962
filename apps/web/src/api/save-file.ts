/** The name of a file for something that has one: what letters, figures and dashes keep of it. */
export const fileName = (name: string, ending: string): string =>
  `${
    name
      .replace(/[^\p{L}\p{N}_-]+/gu, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 80)
      .toLowerCase() || 'map'
  }${ending}`;

/** Hands a text to the browser as a file to keep. */
export function saveFile(name: string, text: string, type = 'application/json'): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
