import { findingsOf, parseMap, type MaterialFacts, type PropFacts } from '@yesca/core';
import type { ErrorBody, MapFindings } from '@yesca/contract';
import { errorBody } from '../errors.ts';

export interface FindingsTask {
  readonly text: string;
  readonly materials: readonly MaterialFacts[];
  readonly props: readonly PropFacts[];
}

export type FoundInMap =
  | ({ readonly ok: true } & Pick<MapFindings, 'sealing' | 'findings'>)
  | { readonly ok: false; readonly status: number; readonly body: ErrorBody };

/** Checks a map as it lies on the disk, as the page does while it is edited. */
export default function findings({ text, materials, props }: FindingsTask): FoundInMap {
  try {
    const known = new Map(materials.map((m) => [m.name, m]));
    const models = new Map(props.map((p) => [p.name, p]));
    const { sealing, findings: found } = findingsOf(
      parseMap(text),
      (name) => known.get(name),
      undefined,
      (name) => models.get(name),
    );
    return { ok: true, sealing, findings: found };
  } catch (error) {
    return { ok: false, ...errorBody(error) };
  }
}
