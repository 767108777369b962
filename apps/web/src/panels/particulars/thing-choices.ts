import { entityKind, type Entity } from '@yesca/core';
import type { Choices } from '../params/ParamField.tsx';

/** Things to choose from: by their names, or by what they are and a number. */
export const thingChoices = (things: readonly Entity[]): Choices =>
  things.map((e, i) => ({ value: e.id, label: e.name || `${entityKind(e.kind)?.label ?? e.kind} ${i + 1}` }));
