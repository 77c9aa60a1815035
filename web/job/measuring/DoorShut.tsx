import { Link } from 'react-router';
import { Notice } from '../../ui/Notice.tsx';

/** Said where a link was made that no other machine can follow. */
export function DoorShut({ carry }: { readonly carry: 'page' | 'script' }) {
  return (
    <Notice
      kind="note"
      title="Other machines cannot reach this bench"
      why="The measuring door is shut, as it is until the owner opens it."
    >
      Open it under{' '}
      <Link className="link" to="/shop">
        Shop
      </Link>
      , or carry the {carry} on a USB stick.
    </Notice>
  );
}
