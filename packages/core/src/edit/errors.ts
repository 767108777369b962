/** A command that was refused; the document is as it was. `code` is stable; the message says what to do. */
export class EditError extends Error {
  override name = 'EditError';
  readonly code: string;
  constructor(code: string, message: string) {
    super(message);
    this.code = code;
  }
}
