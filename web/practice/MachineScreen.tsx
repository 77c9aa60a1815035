import { useEffect, useState } from 'react';
import { drawnText, gb, machineStatusText } from '#core/explaining';
import { statusOf } from '#core/practice';
import type { Action, FirmwareScreen, Seen, Status, World } from '#core/practice';
import { drawnFrom } from '../workers/practice.ts';
import { Button } from '../ui/Button.tsx';
import type { Step } from './practiceWalk.ts';

interface MachineScreenProps {
  readonly world: World;
  readonly steps: readonly Step[];
  readonly onAct: (action: Action) => void;
}

/** Pages a machine shows once there is a picture; the last one read stays until it goes dark. */
const PAGES: readonly Seen['type'][] = ['firmware', 'system', 'tables', 'measured', 'test', 'log'];

/** The screen of the simulated machine: what such a machine shows at this moment, and its pages. */
export function MachineScreen({ world, steps, onAct }: MachineScreenProps) {
  const status = statusOf(world);
  const page = status.type === 'up' ? lastPage(steps) : undefined;
  const isUp = status.type === 'up';
  return (
    <section aria-label="Its screen" className="sheet">
      <div
        className={`grid min-h-36 content-center rounded-md border-4 border-edge p-3 ${status.type === 'off' || status.type === 'dark' || status.type === 'training' ? 'bg-[#101716] text-[#e8e4d8]' : 'bg-paper'}`}
        aria-live="polite"
      >
        {page ? <Shown seen={page} world={world} /> : <Dark status={status} />}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        {isUp ? (
          <UpActs world={world} onAct={onAct} />
        ) : (
          world.power === 'on' && (
            <>
              {[1, 5, 10].map((minutes) => (
                <Button
                  key={minutes}
                  className="text-aside"
                  onClick={() => onAct({ type: 'wait', minutes })}
                >
                  Wait {minutes} min
                </Button>
              ))}
              <Button className="text-aside" onClick={() => onAct({ type: 'clear settings' })}>
                Clear its settings
              </Button>
            </>
          )
        )}
        {world.lead === 'out' && (
          <Button className="text-aside" onClick={() => onAct({ type: 'other supply or drive' })}>
            Try another supply and drive
          </Button>
        )}
      </div>
    </section>
  );
}

function lastPage(steps: readonly Step[]): Seen | undefined {
  const on = steps.findLastIndex(({ action }) => action.type === 'switch' || action.type === 'set');
  return steps.slice(on + 1).findLast(({ seen }) => PAGES.includes(seen.type))?.seen;
}

function Dark({ status }: { readonly status: Status }) {
  return <p className="text-center">{machineStatusText(status)}</p>;
}

function UpActs({ world, onAct }: Pick<MachineScreenProps, 'world' | 'onAct'>) {
  const acts: readonly (readonly [string, Action])[] = [
    ['Firmware screen', { type: 'firmware screen' }],
    ['System page', { type: 'system page' }],
    ['Firmware’s table', { type: 'read tables' }],
    ['Measuring page', { type: 'measure' }],
    ['Memory test', { type: 'memory test' }],
    ['Log and warmth', { type: 'read log' }],
    world.setting === 'standard'
      ? ['Profile on', { type: 'set', setting: 'profile' }]
      : ['Standard setting', { type: 'set', setting: 'standard' }],
    ['Clear its settings', { type: 'clear settings' }],
    ['Notes of newer firmware', { type: 'firmware notes' }],
    ['Update firmware', { type: 'update firmware' }],
    ['Lift a start option', { type: 'lift start option' }],
  ];
  return (
    <>
      {acts.map(([text, action]) => (
        <Button key={text} className="px-3 text-aside" onClick={() => onAct(action)}>
          {text}
        </Button>
      ))}
    </>
  );
}

function Shown({ seen, world }: { readonly seen: Seen; readonly world: World }) {
  switch (seen.type) {
    case 'firmware':
      return <Firmware screen={seen.screen} />;
    case 'system':
      return (
        <dl className="grid grid-cols-[auto_1fr] gap-x-4">
          <dt>Installed memory</dt>
          <dd className="font-bold">{gb(seen.installed)}</dd>
          <dt>To use</dt>
          <dd className="font-bold">{gb(seen.usable)}</dd>
          <dt>System</dt>
          <dd>{seen.limitedBy === 'system' ? '32-bit' : '64-bit'}</dd>
          {seen.limitedBy === 'start option' && (
            <>
              <dt>Start options</dt>
              <dd>one limits memory</dd>
            </>
          )}
        </dl>
      );
    case 'tables':
      return (
        <ul className="figure text-aside">
          {seen.rows.map(({ name, capacity, rate }) => (
            <li key={name}>
              {name}: {capacity === undefined ? '–' : `${gb(capacity)}, ${rate ?? '?'}`}
            </li>
          ))}
        </ul>
      );
    case 'measured':
      return <Measured world={world} />;
    case 'test':
      return (
        <p className="text-center font-bold">
          {seen.errors === 'none' ? 'Passed: no errors' : 'Errors found'}
        </p>
      );
    default:
      return <p className="text-center">Its log lies open.</p>;
  }
}

function Measured({ world }: { readonly world: World }) {
  const [drawn, setDrawn] = useState<number | 'no answer'>();
  useEffect(() => {
    let isLatest = true;
    drawnFrom(world).then(
      (bandwidth) => isLatest && setDrawn(bandwidth),
      () => isLatest && setDrawn('no answer'),
    );
    return () => {
      isLatest = false;
    };
  }, [world]);
  return (
    <div className="text-center">
      <p className="text-aside">Measuring page, simulated machine</p>
      {drawn === 'no answer' ? (
        <p>It broke off. Load the page again; the walk is kept.</p>
      ) : (
        <p className="text-answer font-bold">{drawn === undefined ? '…' : drawnText(drawn)}</p>
      )}
    </div>
  );
}

/** The firmware’s page of the simulated machine, in a design of our own. */
function Firmware({ screen }: { readonly screen: FirmwareScreen }) {
  return (
    <div>
      <p className="flex flex-wrap items-baseline justify-between gap-2 border-b border-line pb-1">
        <b>{gb(screen.total)}</b>
        <span className="figure">{screen.rate} MHz</span>
        <span className="text-aside">
          {screen.setting === 'profile' ? 'profile on' : 'standard'}
          {screen.offersProfile && screen.setting === 'standard' && ', a profile is offered'}
        </span>
      </p>
      <ul className="mt-1">
        {screen.rows.map(({ name, capacity }) => (
          <li key={name} className="flex justify-between gap-3">
            <span className="figure">{name}</span>
            <span>{capacity === undefined ? 'empty' : gb(capacity)}</span>
          </li>
        ))}
      </ul>
      {screen.reserved > 0 && <p className="mt-1 text-aside">{gb(screen.reserved)} for graphics</p>}
    </div>
  );
}
