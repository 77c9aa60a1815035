import { Suspense, lazy, useState, useSyncExternalStore } from 'react';
import {
  Link,
  NavLink,
  Outlet,
  ScrollRestoration,
  useLocation,
  useNavigate,
  useNavigation,
} from 'react-router';
import type { Role } from '#contract/access';
import { Kbd } from '../ui/Kbd.tsx';
import { useMe } from '../ui/useMe.ts';
import { api } from './api.ts';
import { selectOnline } from './connectionSlice.ts';
import { fetched } from './fetched.ts';
import { useShortcuts } from './keys.ts';
import { Gate } from './Gate.tsx';
import { OfflineNotice } from './OfflineNotice.tsx';
import { PAGE_GROUPS, groupOf, isFor } from './pages.ts';
import { useAppSelector } from './store.ts';
import type { Scanned } from './scanned.ts';
import { useScanner } from './useScanner.ts';
import { useIsWholeScreen } from './wholeScreen.ts';
import { currentTheme, onTheme, toggleTheme } from './theme.ts';

const Live = lazy(() => fetched(() => import('./Live.tsx')));
const Overlays = lazy(() => fetched(() => import('./Overlays.tsx')));

/** Which overlay is open. */
export type Overlay = 'palette' | 'keys' | 'scan' | 'result' | 'file' | undefined;

/** The frame of every page: ink bar, offline notice, page, overlays. */
export function Shell() {
  const [overlay, setOverlay] = useState<Overlay>();
  /** What a scanner typed, to be looked for. */
  const [words, setWords] = useState('');
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const isIn = useMe().name !== '';
  const isWhole = useIsWholeScreen();
  const isOnline = useAppSelector(selectOnline);
  // While the bench is away the wait may be long, and the page is worked on meanwhile.
  const isTurning = useNavigation().state === 'loading' && isOnline;
  useShortcuts([
    { keys: 'Ctrl K', does: 'Find anything', run: () => setOverlay('palette') },
    { keys: 'Ctrl B', does: 'Scan a code', run: () => setOverlay('scan') },
    { keys: '?', does: 'List the keys', run: () => setOverlay('keys') },
  ]);
  const open = (scanned: Scanned) => {
    if (scanned.type === 'page') {
      setOverlay(undefined);
      return void navigate(scanned.path);
    }
    if (scanned.type === 'words') setWords(scanned.words);
    // A result or a file is of a job that only its technician knows; the dialog says where to scan it.
    setOverlay(scanned.type === 'words' ? 'palette' : scanned.type);
  };
  useScanner(open, true);
  const close = () => {
    setOverlay(undefined);
    setWords('');
  };
  return (
    <div className="flex min-h-dvh flex-col">
      {!isWhole && <Bar path={pathname} onOpen={setOverlay} />}
      <OfflineNotice />
      <Gate>
        <div className={`flex grow flex-col ${isTurning ? 'opacity-60' : ''}`}>
          <Outlet />
        </div>
      </Gate>
      {isIn && (
        <Suspense>
          <Live />
        </Suspense>
      )}
      <ScrollRestoration />
      <Suspense>
        {overlay && (
          <Overlays key={words} overlay={overlay} words={words} onScanned={open} onClose={close} />
        )}
      </Suspense>
    </div>
  );
}

interface BarProps {
  readonly path: string;
  readonly onOpen: (overlay: Overlay) => void;
}

/** Where one can go, who is here, and what is found, scanned and shown from anywhere. */
function Bar({ path, onOpen }: BarProps) {
  const theme = useSyncExternalStore(onTheme, currentTheme);
  const { name, role } = useMe();
  const isIn = name !== '';
  // Who is here is asked while the page opens: the bar has its place by then, and the page need not move.
  const isAsked = api.useSessionQuery().data === undefined;
  return (
    <>
      <header className="no-print flex min-h-12 items-stretch gap-x-6 bg-bar px-5 text-bar-text max-sm:flex-wrap max-sm:px-3">
        <span className="self-center text-lg font-bold tracking-wide">Tembrix</span>
        {(isIn || isAsked) && <Groups path={path} />}
        <div className="ml-auto flex items-center gap-5 text-aside">
          {isIn && (
            <Link
              to="/me"
              className="flex min-h-10 max-w-36 items-center truncate"
              aria-label={`Your account, ${name}`}
            >
              <span className="truncate">{name}</span>
            </Link>
          )}
          {isIn && (
            <>
              <button
                type="button"
                aria-label="Find anything"
                className="min-h-10 whitespace-nowrap"
                onClick={() => onOpen('palette')}
              >
                Find{' '}
                <span className="max-[1180px]:hidden">
                  anything <Kbd keys="Ctrl K" onBar />
                </span>
              </button>
              <button type="button" className="min-h-10" onClick={() => onOpen('scan')}>
                Scan
              </button>
            </>
          )}
          <button type="button" className="min-h-10 max-sm:hidden" onClick={() => onOpen('keys')}>
            Keys{' '}
            <span className="max-[1180px]:hidden">
              <Kbd keys="?" onBar />
            </span>
          </button>
          <button type="button" className="min-h-10" onClick={toggleTheme}>
            {theme === 'dark' ? 'Light' : 'Dark'}
          </button>
        </div>
      </header>
      {isIn && <PagesOfGroup path={path} role={role} />}
      {isAsked && groupOf(path)?.pages[1] && (
        <div className="no-print box-content min-h-11 border-b border-line bg-sheet" />
      )}
    </>
  );
}

interface GroupsProps {
  readonly path: string;
  readonly role: Role;
}

/** The bar’s entries: a group leads to its first page. */
function Groups({ path }: Pick<GroupsProps, 'path'>) {
  const current = groupOf(path);
  return (
    <nav
      aria-label="Main"
      className="flex min-w-0 gap-1 overflow-x-auto max-sm:order-last max-sm:w-full"
    >
      {PAGE_GROUPS.map((group) => (
        <Link
          key={group.label}
          to={group.pages[0].to}
          aria-current={group === current ? 'page' : undefined}
          className="flex min-h-11 shrink-0 items-center border-b-3 border-transparent px-2 aria-[current=page]:border-[#eba56c] aria-[current=page]:font-bold sm:px-3"
        >
          {group.label}
        </Link>
      ))}
    </nav>
  );
}

/** The pages of a group of several, below the bar. */
function PagesOfGroup({ path, role }: GroupsProps) {
  const group = groupOf(path);
  const pages = group?.pages.filter((page) => isFor(page, role)) ?? [];
  if (!group || pages.length < 2) return null;
  return (
    <nav
      aria-label={group.label}
      className="no-print flex gap-1 overflow-x-auto border-b border-line bg-sheet px-5 max-sm:px-2"
    >
      {pages.map(({ to, label }) => (
        <NavLink
          key={to}
          to={to}
          className="flex min-h-11 shrink-0 items-center border-b-3 border-transparent px-3 aria-[current=page]:border-copper aria-[current=page]:font-bold"
        >
          {label}
        </NavLink>
      ))}
    </nav>
  );
}
