/**
 * Reads a typed length: a number or a sum with + − * / and parentheses, in cm; `1.5m` is metres, `40cm` centimetres.
 * Null when it is not a number.
 */
export function readLength(text: string): number | null {
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
      value *= 100;
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
