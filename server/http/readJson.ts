import express from 'express';

type Options = NonNullable<Parameters<typeof express.json>[0]>;

/** Deepest nesting of a body; what the contract takes is nested a dozen deep. */
const MOST_DEEP = 64;
/** Most values in a body; ten thousand catalogue rows have about three hundred thousand. */
const MOST_VALUES = 500_000;

/**
 * Reads a JSON body. Text pasted out of a binary file can hold what no database keeps as text: zero
 * characters, and halves of a character. They become the replacement character, which shows where
 * they stood, instead of losing what was typed around them.
 */
export function readJson(options: Options) {
  return express.json({
    ...options,
    verify: (_request, _response, body) => refuseTangle(body),
    reviver: (_key, value: unknown) => asText(value),
  });
}

/** A body the contract would refuse in any case, found out before any of it is built. */
export class TangledBodyError extends Error {
  readonly status = 413;
  readonly type = 'tembrix.tangled';
}

const [QUOTE, BACKSLASH, COMMA] = [0x22, 0x5c, 0x2c];
const OPENING = new Set([0x5b, 0x7b]);
const CLOSING = new Set([0x5d, 0x7d]);

function refuseTangle(body: Buffer): void {
  let depth = 0;
  let values = 1;
  let isText = false;
  for (let at = 0; at < body.length; at++) {
    const sign = body[at] ?? 0;
    if (isText) {
      if (sign === BACKSLASH) at++;
      else if (sign === QUOTE) isText = false;
    } else if (sign === QUOTE) isText = true;
    else if (sign === COMMA) values++;
    else if (OPENING.has(sign)) depth++;
    else if (CLOSING.has(sign)) depth--;
    if (depth > MOST_DEEP || values > MOST_VALUES) throw new TangledBodyError('tangled');
  }
}

const asText = (value: unknown) =>
  typeof value === 'string' ? value.replaceAll('\0', '\ufffd').toWellFormed() : value;
