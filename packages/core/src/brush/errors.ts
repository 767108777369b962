/** A geometry operation that would leave no valid brush. `code` is stable; the message says what to do. */
export class BrushError extends Error {
  override name = 'BrushError';
  readonly code: string;
  constructor(code: string, message: string) {
    super(message);
    this.code = code;
  }
}
