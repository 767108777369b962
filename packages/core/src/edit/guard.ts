import { assertValid, BrushError, type Solid } from '../brush/index.ts';
import { EditError } from './errors.ts';

/** Runs a geometry operation; its refusal becomes one of the editor, with the same code and sentence. */
export function guarded<T>(operation: () => T): T {
  try {
    return operation();
  } catch (error) {
    if (error instanceof BrushError) throw new EditError(error.code, error.message);
    throw error;
  }
}

/** The solids an operation makes, every one of them a valid brush. */
export const guardShape = (make: () => Solid[]): Solid[] =>
  guarded(() => {
    const solids = make();
    solids.forEach(assertValid);
    return solids;
  });
