import { mayCall } from '#contract/access';
import type { Access } from '#contract/access';
import { useMe } from './useMe.ts';

/** Whether whoever is signed in may do what is open to `access`. The server judges by itself. */
export function useMay(access: Access): boolean {
  return mayCall(useMe().role, access);
}
