export interface FieldError {
  /** Path of the field in the request, such as `lines.2.quantity`. */
  field: string;
  sentence: string;
}

/** Why something is not done, in words for the person who asked, with the fields it belongs to. */
export class Refusal extends Error {
  constructor(
    readonly status: 400 | 401 | 403 | 404 | 405 | 409 | 413 | 415 | 422 | 429 | 500 | 503,
    readonly type: string,
    sentence: string,
    readonly errors: readonly FieldError[] = [],
    /** What the person may answer to go on all the same, such as `over-receipt`. */
    readonly asks: readonly string[] = [],
  ) {
    super(sentence);
    this.name = 'Refusal';
  }
}

/** A refusal about one field. */
export const refuseField = (status: 409 | 422 | 404, type: string, field: string, sentence: string, asks: string[] = []) =>
  new Refusal(status, type, sentence, [{ field, sentence }], asks);
