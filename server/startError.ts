/** Something the person at the command line can mend; printed without a stack. */
export class StartError extends Error {
  constructor(
    message: string,
    readonly mend: string,
  ) {
    super(message);
    this.name = 'StartError';
  }
}
