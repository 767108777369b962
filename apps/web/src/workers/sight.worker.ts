import { serveMirror, type AnyService } from './mirror.ts';
import { hintSaving, sight, suggestions } from './sight.ts';

// Apart from the page's other helpers, as full visibility may take seconds.
serveMirror([sight(), suggestions(), hintSaving()] as unknown as AnyService[], {
  send: (message, memory = []) => postMessage(message, { transfer: memory as Transferable[] }),
  hear: (listener) => addEventListener('message', (event) => listener(event.data)),
});
