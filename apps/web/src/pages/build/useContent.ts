import { useEffect, useState } from 'react';
import { writeMap } from '@yesca/core';
import { useEditor } from '../../state/editor.ts';

/** Quiet time (ms) before a changed map is told from its builds. */
const DELAY = 250;

/** The SHA-256 of the map as it is on screen, by which a build of it is known; null until it is worked out. */
export function useContent(): string | null {
  const doc = useEditor((s) => s.doc);
  const [content, setContent] = useState<string | null>(null);
  useEffect(() => {
    let gone = false;
    const timer = setTimeout(() => {
      void crypto.subtle.digest('SHA-256', new TextEncoder().encode(writeMap(doc))).then((digest) => {
        const hex = [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
        if (!gone) setContent(hex);
      });
    }, DELAY);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [doc]);
  return content;
}
