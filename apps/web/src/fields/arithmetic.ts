/**
 * Reads a typed length: a number or a sum with + − * / and parentheses, in cm; `40cm` is centimetres, and `4m` four modules
 * where the map has a module, else metres. Null when it is not a number.
 */
export function readLength(text: string, module = 100): number | null {
  const tokens = text.replace(/,/g, '.').match(/\d+\.?\d*|\.\d+|[-+*/()]|cm|m|°/g);
  if (!tokens || tokens.join('') !== text.replace(/,/g, '.').replace(/\s+/g, '')) return null;
  let at = 0;
  const factor = (): number => {
    const t = tokens[at++];
    if (t === '-') return -factor();
    if (t === '+') return factor();
    if (t === '(') {
      const value = sum();
      if (tokens[at++] !== ')') return NaN;
      return value;
    }
    let value = t === undefined ? NaN : Number(t);
    if (tokens[at] === 'm') {
      value *= module;
      at++;
    } else if (tokens[at] === 'cm' || tokens[at] === '°') at++;
    return value;
  };
  const product = (): number => {
    let value = factor();
    while (tokens[at] === '*' || tokens[at] === '/') value = tokens[at++] === '*' ? value * factor() : value / factor();
    return value;
  };
  const sum = (): number => {
    let value = product();
    while (tokens[at] === '+' || tokens[at] === '-')
      value = tokens[at++] === '+' ? value + product() : value - product();
    return value;
  };
  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}

/** A number as shown: at most two decimals, no trailing zeros. */
export const showLength = (value: number): string => String(Math.round(value * 100) / 100);

/** A size as the map's people read it: in cm, and in modules too where it is a whole or half number of them. */
export function showSize(cm: number, module?: number): string {
  const plain = showLength(cm);
  if (!module) return plain;
  const modules = Math.round((cm / module) * 4) / 4;
  return modules !== 0 && Math.abs(modules * module - cm) < 0.01 ? `${plain} · ${showLength(modules)}m` : plain;
}
