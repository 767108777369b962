import type { PropFacts, PropLookup } from '@yesca/core';
import props from '../../assets/props/props.json' with { type: 'json' };

/** What the library shows of a prop besides what placing and building it need. */
export interface Prop extends PropFacts {
  readonly tags: readonly string[];
}

/** The props that ship. */
export const PROPS = props as unknown as readonly Prop[];

const known = new Map(PROPS.map((p) => [p.name, p]));

/** What is known of the props that ship. */
export const propFacts: PropLookup = (name) => known.get(name);
