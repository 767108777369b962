import type { PropFacts, PropLookup } from '@yesca/core';
import { LIST } from './list.generated.ts';

/** What the library shows of a prop besides what placing and building it need. */
export interface Prop extends PropFacts {
  readonly tags: readonly string[];
  /** The pack it was imported into; absent for what ships. */
  readonly pack?: string;
  /** Stands for its model: another one when that changed. */
  readonly content?: string;
}

/** The props that ship. */
export const PROPS = LIST as readonly Prop[];

const known = new Map(PROPS.map((p) => [p.name, p]));

/** What is known of the props that ship. */
export const propFacts: PropLookup = (name) => known.get(name);
