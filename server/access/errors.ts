import type { Problem } from '#contract/problem';

/** Somebody is not let in, or not let do something. */
export class AccessError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const refusal = (
  status: number,
  type: string,
  title: string,
  detail: string,
  mend: string,
): AccessError => new AccessError({ type: `about:blank#${type}`, title, status, detail, mend });

export const signedOut = (): AccessError =>
  refusal(
    401,
    'signed-out',
    'Not signed in',
    'Nobody is signed in here.',
    'Sign in, then do it again.',
  );

export const benchHeld = (name: string): AccessError =>
  refusal(
    401,
    'held',
    'The bench is held',
    `${name} left it a while ago.`,
    'Take it over with a PIN or sign in; what was typed is still there.',
  );

export const noOwnerYet = (): AccessError =>
  refusal(
    401,
    'no-owner',
    'Nobody owns this bench yet',
    'It was started for the first time.',
    'Open it on the machine it runs on and enter who the owner is.',
  );

export const notAllowed = (who: string, needed: string): AccessError =>
  refusal(
    403,
    'not-allowed',
    'Not for this account',
    `${who} may not do this.`,
    `Ask ${needed} to do it, or to change the role under Shop › People.`,
  );

export const notOnTablet = (): AccessError =>
  refusal(
    403,
    'not-on-tablet',
    'Not on this tablet',
    'It was let in for one job, and this lies outside of that job.',
    'Do it on the bench screen, or sign in here with a password.',
  );

export const wrongPassword = (): AccessError =>
  refusal(
    403,
    'wrong-password',
    'Not let in',
    'Name and password do not belong together.',
    'Check both; capitals count in the password. The owner can set a new one.',
  );

export const tooManyTries = (minutes: number): AccessError =>
  refusal(
    429,
    'too-many-tries',
    'Too many wrong passwords',
    `This name is locked for ${minutes} min.`,
    'Wait, or have the owner set a new password: that unlocks it at once.',
  );

export const wrongPin = (left: number): AccessError =>
  refusal(
    403,
    'wrong-pin',
    'Not this PIN',
    left > 0
      ? `${left} more ${left === 1 ? 'try' : 'tries'}, then the password is asked for.`
      : 'It was wrong five times, and is forgotten.',
    left > 0 ? 'Enter the PIN set on this device.' : 'Sign in with the password.',
  );

export const stalePin = (): AccessError =>
  refusal(
    403,
    'stale-pin',
    'No PIN here',
    'This device knows no PIN of theirs: none was set, it was signed out, or the password is new.',
    'Sign in with the password.',
  );
