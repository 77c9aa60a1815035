import { useMe } from '../../ui/useMe.ts';

/** Whose name stands under what is ticked here. */
export function Signed() {
  const { name } = useMe();
  return <p className="ml-auto text-aside text-muted">signed {name}</p>;
}
