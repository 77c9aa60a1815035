import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useDeferredValue, useState } from 'react';
import { useNavigate } from 'react-router';
import { Button } from '../ui/Button.tsx';
import { Kbd } from '../ui/Kbd.tsx';
import { api } from './api.ts';
import { activeShortcuts } from './keys.ts';
import { useMe } from '../ui/useMe.ts';
import { BEGINNINGS, PAGE_GROUPS, isFor } from './pages.ts';
import { ScanCode } from './ScanCode.tsx';
import type { Scanned } from './scanned.ts';
import type { Overlay } from './Shell.tsx';

interface OverlaysProps {
  readonly overlay: NonNullable<Overlay>;
  /** What to look for at once. */
  readonly words: string;
  readonly onScanned: (scanned: Scanned) => void;
  readonly onClose: () => void;
}

const TITLES = {
  palette: 'Find anything',
  keys: 'Keys that work here',
  scan: 'Scan a code',
  result: 'Scan a code',
  file: 'Scan a code',
} as const;

/** The command palette and the list of keys. Loaded when first asked for. */
export default function Overlays({ overlay, words, onScanned, onClose }: OverlaysProps) {
  // Taken once, before the dialog mutes the page's own keys.
  const [shortcuts] = useState(activeShortcuts);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[min(5rem,6dvh)] left-1/2 max-h-[calc(100dvh-2*min(5rem,6dvh))] w-[min(40rem,92vw)] -translate-x-1/2 overflow-y-auto rounded-lg border border-edge bg-sheet p-4 text-ink"
        >
          <Dialog.Title className="mb-3 font-bold">{TITLES[overlay]}</Dialog.Title>
          {(overlay === 'scan' || overlay === 'result' || overlay === 'file') && (
            <ScanCode onScanned={onScanned} was={overlay === 'scan' ? undefined : overlay} />
          )}
          {overlay === 'palette' && (
            <Palette words={words} shortcuts={shortcuts} onClose={onClose} />
          )}
          {overlay === 'keys' && (
            <dl className="grid grid-cols-[auto_1fr] items-center gap-x-4 gap-y-2">
              {[...shortcuts, ...BOARD_KEYS].map(({ keys, does }) => (
                <div key={keys + does} className="contents">
                  <dt>
                    <Kbd keys={keys} />
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          )}
          {/* Last, so that the keyboard begins in what the dialog is for. */}
          <Dialog.Close asChild>
            <Button look="quiet" className="absolute top-1.5 right-3">
              Close
            </Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const BOARD_KEYS = [
  { keys: 'Enter', does: 'On the slot board: pick a module up, put it down' },
  { keys: '↑ ↓', does: 'While carrying: choose where; previews at once' },
  { keys: 'Delete', does: 'On the slot board: pull the module to the tray' },
  { keys: 'Esc', does: 'Let go, close the reasons' },
];

function Palette({
  words: begun,
  shortcuts,
  onClose,
}: {
  words: string;
  shortcuts: ReturnType<typeof activeShortcuts>;
  onClose: () => void;
}) {
  const navigate = useNavigate();
  const { role } = useMe();
  const [typed, setTyped] = useState(begun);
  const newest = api.useJobsQuery({ limit: 200 });
  // Beyond those that are here already, jobs are searched where they are.
  const words = useDeferredValue(typed.trim().slice(0, 200));
  const isMore = (newest.data?.total ?? 0) > 200;
  const more = api.useJobsQuery({ limit: 50, search: words }, { skip: !isMore || words === '' });
  const jobs = new Map(
    [...(newest.data?.jobs ?? []), ...(more.data?.jobs ?? [])].map((job) => [job.id, job]),
  );
  const machines = api.useMachinesQuery('');
  const go = (to: string) => {
    onClose();
    void navigate(to);
  };
  const item =
    'flex min-h-10 cursor-pointer items-center gap-3 rounded px-2 data-[selected=true]:bg-teal-wash';
  return (
    <Command label="Find anything" loop>
      <Command.Input
        value={typed}
        onValueChange={setTyped}
        className="input mb-2"
        placeholder="Job number, customer, machine, action"
      />
      <Command.List className="max-h-96 overflow-y-auto [&_[cmdk-group-heading]]:mt-2 [&_[cmdk-group-heading]]:text-aside [&_[cmdk-group-heading]]:text-muted">
        <Command.Empty className="p-2 text-muted">
          Nothing of that name. Try another word.
        </Command.Empty>
        <Command.Group heading="Go to">
          {[...BEGINNINGS, ...PAGE_GROUPS.flatMap(({ pages }) => pages)]
            .filter((page) => isFor(page, role))
            .map(({ to, label }) => (
              <Command.Item key={to} className={item} onSelect={() => go(to)}>
                {label}
              </Command.Item>
            ))}
        </Command.Group>
        <Command.Group heading="Do here">
          {shortcuts
            .filter(({ keys }) => keys !== 'Ctrl K')
            .map(({ keys, does, run }) => (
              <Command.Item
                key={keys + does}
                className={item}
                onSelect={() => {
                  onClose();
                  // After the dialog has given the page back its keys and focus.
                  setTimeout(run);
                }}
              >
                {does} <Kbd keys={keys} />
              </Command.Item>
            ))}
        </Command.Group>
        <Command.Group heading="Open jobs">
          {[...jobs.values()].map(({ id, number, customerName, machineName, next }) => (
            <Command.Item
              key={id}
              value={`${number} ${customerName} ${machineName}`}
              className={item}
              onSelect={() => go(`/jobs/${id}/${next?.step ?? 'hand-over'}`)}
            >
              <span className="figure">{String(number).padStart(4, '0')}</span> {customerName} ·{' '}
              {machineName}
            </Command.Item>
          ))}
        </Command.Group>
        <Command.Group heading="Machines">
          {machines.data?.map(({ id, machine }) => (
            <Command.Item
              key={id}
              value={`machine ${machine.name}`}
              className={item}
              onSelect={() => go(`/machines/${id}`)}
            >
              {machine.name}
            </Command.Item>
          ))}
        </Command.Group>
      </Command.List>
    </Command>
  );
}
