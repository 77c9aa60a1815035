/** What of an unexpected error goes into the log: enough to find it, and nothing a customer said. */
export interface Loggable {
  readonly name: string;
  readonly message: string;
  readonly stack: string;
  /** SQLSTATE, or the system's code. */
  readonly code?: string | undefined;
  readonly table?: string | undefined;
  readonly constraint?: string | undefined;
  readonly cause?: Loggable | undefined;
}

/**
 * An error without the words it carries. A failed query repeats its statement and every value, and the
 * database's own detail names rows; schema issues repeat what was received.
 */
export function loggable(error: unknown): Loggable {
  const {
    name = 'Error',
    message = '',
    stack = '',
    ...rest
  } = (error ?? {}) as Partial<Error> & Partial<Record<'code' | 'table' | 'constraint', unknown>>;
  const word = (value: unknown) => (typeof value === 'string' ? value.slice(0, 80) : undefined);
  const frames = stack.split('\n').filter((line) => /^\s+at /.test(line));
  return {
    name,
    // What a database says of an error of its own names rows and values; its code says enough.
    message: SQLSTATE.test(String(rest.code))
      ? 'the database refused'
      : plainMessage(name, message),
    stack: frames.join('\n'),
    ...{ code: word(rest.code), table: word(rest.table), constraint: word(rest.constraint) },
    ...(rest.cause === undefined ? {} : { cause: loggable(rest.cause) }),
  };
}

const SQLSTATE = /^[0-9A-Z]{5}$/;

function plainMessage(name: string, message: string): string {
  // The statement has places for values; the values follow it.
  const [statement = ''] = message.split(/\n?params: /);
  if (statement !== message) return statement;
  if (name === 'ZodError' || name === '$ZodError') return 'an answer off the contract';
  return message.replaceAll(/(["“'‘])(?:(?!["”'’]).)*(["”'’])/g, '$1…$2').slice(0, 300);
}
