import { TextDecoder, TextEncoder } from 'node:util';

// Every browser has these; jsdom does not pass Node's on.
globalThis.TextEncoder ??= TextEncoder;
globalThis.TextDecoder ??= TextDecoder;

// Where nothing is kept between visits, stores that keep something there need not say so at every change.
if (!('localStorage' in globalThis)) {
  const kept = new Map();
  globalThis.localStorage = {
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => void kept.set(key, value),
    removeItem: (key) => void kept.delete(key),
  };
}
