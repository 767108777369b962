import { checks } from './checks.ts';
import { serveMirror, type AnyService } from './mirror.ts';

// The page's helper: all that is asked about the map while it is worked on.
serveMirror([checks() as unknown as AnyService], {
  send: (message, memory = []) => postMessage(message, { transfer: memory as Transferable[] }),
  hear: (listener) => addEventListener('message', (event) => listener(event.data)),
});
