import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';

/** Argon2id as OWASP’s cheat sheet on storing passwords has it: 19 MiB, two passes, one lane. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

/** A password or a PIN as it is kept. */
export const hashSecret = (secret: string): Promise<string> => hash(secret.normalize('NFKC'), COST);

/** Something nobody’s secret hashes to, so that a name nobody has takes as long as one somebody has. */
const NOBODY = hashSecret(randomBytes(24).toString('base64'));

/** Whether a secret is the one that was kept; `undefined` for somebody who is not there. */
export async function isSecret(kept: string | undefined, secret: string): Promise<boolean> {
  const isRight = await verify(kept ?? (await NOBODY), secret.normalize('NFKC'));
  return isRight && kept !== undefined;
}

/** 256 bits nobody guesses. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** A token as it is kept: whoever reads the database cannot come in with it. */
export const digestOf = (token: string): string =>
  createHash('sha256').update(token).digest('base64url');

/** Why a password is guessed at once, in words; `undefined` where it is not. */
export function weaknessOf(password: string, name: string): string | undefined {
  const plain = password.normalize('NFKC').toLowerCase();
  const letters = new Set(plain);
  if (letters.size < 5) return 'It repeats a few letters.';
  if (isRow(plain)) return 'It is a row of neighbouring letters or figures.';
  const own = name.toLowerCase().replaceAll(/\W/gu, '');
  if (own.length >= 4 && plain.includes(own)) return 'It holds the name it belongs to.';
  if (/passwor[dt]|tembrix|letmein|qwert|asdfg|12345/.test(plain))
    return 'It holds what is tried first.';
  return undefined;
}

/** Whether every letter follows the one before it, up or down. */
function isRow(text: string): boolean {
  const steps = Array.from(text).map((letter, at, all) =>
    at === 0 ? 0 : (letter.codePointAt(0) ?? 0) - (all[at - 1]?.codePointAt(0) ?? 0),
  );
  return steps.slice(1).every((step) => step === steps[1] && Math.abs(step) === 1);
}
