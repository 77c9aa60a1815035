import { useState } from 'react';
import type { ReactNode } from 'react';
import { actionText, seenText, slotNames } from '#core/explaining';
import type { NameOf } from '#core/explaining';
import type { SlotId } from '#core/machine';
import { hasPack } from '#core/practice';
import type { Action, PieceId, World } from '#core/practice';
import { BenchSlot } from './BenchSlot.tsx';
import { Do } from './Do.tsx';
import type { Step } from './practiceWalk.ts';

interface MachineProps {
  readonly world: World;
  readonly inHand: PieceId | undefined;
  /** Slots whose module was seen to stand up, when they were looked along last. */
  readonly high: ReadonlySet<SlotId>;
  /** What was done last, said where the hands are; the log has it all. */
  readonly last: Step | undefined;
  readonly names: NameOf;
  readonly onAct: (action: Action) => void;
}

/** The machine itself: lead, switch, pack and cover are things on it; under the cover lie its slots. */
export function Machine(props: MachineProps) {
  const { world, last, names, onAct } = props;
  const { machine } = world.exercise;
  const { access } = machine;
  const nameOf = slotNames(machine);
  return (
    <section aria-label="The machine" className="rounded-lg bg-board p-3 text-board-text">
      <div className="mb-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 className="grow font-bold">{machine.name}</h2>
        <span className="text-aside">
          {machine.kind}, takes {machine.generations.join(', ')} {machine.formFactor}
        </span>
      </div>
      <p className="mb-2 min-h-5 text-aside" aria-hidden>
        {last && `${actionText(last.action, nameOf, names)}: ${seenText(last.seen, nameOf, names)}`}
      </p>
      <div className="mb-3 flex flex-wrap gap-2">
        <Thing name="Lead" state={world.lead === 'in' ? 'in the wall' : 'pulled'}>
          <Do
            text={world.lead === 'in' ? 'Pull the lead' : 'Put the lead in'}
            onDo={() => onAct({ type: 'lead', to: world.lead === 'in' ? 'out' : 'in' })}
          />
        </Thing>
        <Thing name="Power" state={world.power === 'on' ? 'on' : 'off'}>
          <Do
            text={world.power === 'on' ? 'Shut down' : 'Switch on'}
            onDo={() => onAct({ type: 'switch', to: world.power === 'on' ? 'off' : 'on' })}
          />
          <Do text="Hold 5 s" onDo={() => onAct({ type: 'hold power' })} />
        </Thing>
        {hasPack(world.exercise) && (
          <Thing name="Battery" state={world.battery === 'on' ? 'connected' : 'disconnected'}>
            <Do
              text={world.battery === 'on' ? 'Disconnect' : 'Connect'}
              onDo={() => onAct({ type: 'battery', to: world.battery === 'on' ? 'off' : 'on' })}
            />
          </Thing>
        )}
        <Thing name="Wrist strap" state={world.hasStrap ? 'worn' : 'off'}>
          <Do
            text={world.hasStrap ? 'Take it off' : 'Wear it'}
            onDo={() => onAct({ type: 'strap', to: world.hasStrap ? 'off' : 'on' })}
          />
        </Thing>
        <Thing name="Cover" state={world.cover === 'on' ? `on, ${access.cover}` : 'off'}>
          {world.cover === 'on' ? (
            <>
              <Do text="Open, plastic tool" onDo={() => onAct({ type: 'open', tool: 'plastic' })} />
              <Do text="Metal tool" onDo={() => onAct({ type: 'open', tool: 'metal' })} />
            </>
          ) : (
            <Do text="Close it" onDo={() => onAct({ type: 'close' })} />
          )}
        </Thing>
      </div>
      {world.cover === 'on' ? (
        <p className="rounded-md border border-board-line p-6 text-center text-aside">
          Closed. The slots lie under the cover{' '}
          {access.memoryAt === 'unknown' ? '' : `– ${access.memoryAt}`}.
        </p>
      ) : (
        <OpenBoard {...props} />
      )}
    </section>
  );
}

function OpenBoard({ world, inHand, high, names, onAct }: MachineProps) {
  const { machine } = world.exercise;
  const [here, setHere] = useState<SlotId>();
  return (
    <>
      <div className="grid gap-2">
        {machine.soldered.map(({ channel, part }, at) => (
          <p key={at} className="text-aside">
            On board, channel {channel}: {part.capacity} GB soldered
          </p>
        ))}
        {machine.slots.map((slot) => (
          <BenchSlot
            key={slot.id}
            world={world}
            slot={slot}
            inHand={inHand}
            names={names}
            isHigh={high.has(slot.id)}
            isHere={here === slot.id}
            onHere={setHere}
            onAct={onAct}
          />
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        <Do text="Look along the slots" onDo={() => onAct({ type: 'look' })} />
        <Do text="Put every lead inside on" onDo={() => onAct({ type: 'put leads on' })} />
        <Do text="Clear the dust" onDo={() => onAct({ type: 'clear dust' })} />
      </div>
    </>
  );
}

interface ThingProps {
  readonly name: string;
  readonly state: string;
  readonly children: ReactNode;
}

/** A thing on the machine: what it is, how it is, and what can be done with it. */
function Thing({ name, state, children }: ThingProps) {
  return (
    <div
      role="group"
      aria-label={name}
      className="flex grow flex-wrap items-center gap-2 rounded border border-board-line px-2.5 py-1.5"
    >
      <span className="grow whitespace-nowrap">
        <b>{name}</b> <span className="text-aside">{state}</span>
      </span>
      {children}
    </div>
  );
}
