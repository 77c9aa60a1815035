/** The row asked for is not there. */
export class NotFoundError extends Error {
  constructor(readonly what: string) {
    super(`${what} not found`);
  }
}

/** A save that started from an older version; carries what stands now. */
export class ConflictError extends Error {
  constructor(
    readonly what: string,
    readonly theirs: unknown,
  ) {
    super(`${what} was changed meanwhile`);
  }
}

/** A request that is well formed but cannot be done as things stand. */
export class StateError extends Error {
  constructor(
    message: string,
    readonly mend: string,
    readonly path?: string,
  ) {
    super(message);
  }
}

/** A link to the measuring page that cannot be used, with the status that says why. */
export class TokenError extends Error {
  constructor(
    readonly status: 404 | 409 | 410,
    message: string,
    readonly mend: string,
  ) {
    super(message);
  }
}
