import type { SlotId } from '../machine/index.ts';
import type { Cause } from './causes.ts';

/** What a found cause calls for. */
export type Action =
  /** Open, take out, clean, press home, start again. */
  | { readonly type: 'reseat'; readonly slotIds: readonly SlotId[] }
  /** Open and put the modules where the plan wants them. */
  | { readonly type: 'move' }
  /** Send a module back and plan its replacement. */
  | { readonly type: 'return'; readonly slotId: SlotId }
  /** Plan without a slot. */
  | { readonly type: 'leave slot'; readonly slotId: SlotId }
  /** Back to the standard setting; the promise changes. */
  | { readonly type: 'standard setting' }
  | { readonly type: 'profile on' }
  /** Choose other modules. */
  | { readonly type: 'plan anew' }
  /** Something to be done by hand that changes neither modules nor plan. */
  | { readonly type: 'by hand' }
  /** All is as it should be. */
  | { readonly type: 'nothing' };

/** The action a cause ends in. */
export function actionFor({ kind, slotId }: Cause): Action {
  const slotIds = slotId === undefined ? [] : [slotId];
  switch (kind) {
    case 'not seated':
    case 'dirty contacts':
      return { type: 'reseat', slotIds };
    case 'bad module':
      return slotId === undefined ? { type: 'by hand' } : { type: 'return', slotId };
    case 'dead slot':
      return slotId === undefined ? { type: 'by hand' } : { type: 'leave slot', slotId };
    case 'wrong slot':
    case 'first slot empty':
      return { type: 'move' };
    case 'wrong type':
    case 'density not supported':
    case 'mixed timings':
      return { type: 'plan anew' };
    case 'profile unstable':
      return { type: 'standard setting' };
    case 'profile off':
      return { type: 'profile on' };
    case 'slower by design':
    case 'uneven channels':
    case 'reading mistaken':
      return { type: 'nothing' };
    default:
      return { type: 'by hand' };
  }
}
