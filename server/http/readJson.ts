import express from 'express';

type Options = NonNullable<Parameters<typeof express.json>[0]>;

/**
 * Reads a JSON body. Text pasted out of a binary file can hold what no database keeps as text: zero
 * characters, and halves of a character. They become the replacement character, which shows where
 * they stood, instead of losing what was typed around them.
 */
export function readJson(options: Options) {
  return express.json({ ...options, reviver: (_key, value: unknown) => asText(value) });
}

const asText = (value: unknown) =>
  typeof value === 'string'
    ? value.replaceAll('\0', '\ufffd').replace(/\p{Surrogate}/gu, '\ufffd')
    : value;
