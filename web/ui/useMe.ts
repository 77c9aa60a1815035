import type { Role } from '#contract/access';
import { api } from '../app/api.ts';

/** Whoever is signed in here. */
export interface Me {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
}

const NOBODY: Me = { id: '', name: '', role: 'counter' };

/** Whoever is signed in here; somebody without a name and with the fewest rights while that is not known. */
export function useMe(): Me {
  const { data } = api.useSessionQuery();
  return data?.person ?? NOBODY;
}
