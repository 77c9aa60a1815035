import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { findingText, gb, slotNames } from '#core/explaining';
import type { Machine, SlotId } from '#core/machine';
import { moduleSummary } from '#core/memory';
import type { HiddenFault } from '#core/practice';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { SelectField } from '../ui/Field.tsx';
import { Page } from '../ui/Page.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { WhyPanel, WhyProvider } from '../ui/Why.tsx';
import { BenchView } from './BenchView.tsx';
import { usePracticeWalk } from './practiceWalk.ts';
import { faultsFor, fromAddress, sandboxOf, toAddress } from './sandbox.ts';
import type { Sandbox } from './sandbox.ts';

/** Any machine of the library, any modules of the catalogue, any fault by hand; the address carries it. */
export function SandboxPage() {
  const machines = api.useMachinesQuery('');
  const modules = api.useModulesQuery('');
  const [search, setSearch] = useSearchParams();
  const sandbox = useMemo(() => fromAddress(search), [search]);
  const change = (next: Sandbox) => setSearch(toAddress(next), { replace: true });
  const failed = machines.error ?? modules.error;
  if (!machines.data || !modules.data)
    return (
      <Page title="Sandbox">
        {failed ? (
          <Failed
            failure={failed}
            what="library and catalogue"
            onRetry={() => {
              void machines.refetch();
              void modules.refetch();
            }}
          />
        ) : (
          <Loading what="library and catalogue" />
        )}
      </Page>
    );
  const catalogue = modules.data;
  const record = machines.data.find(({ id }) => id === sandbox.machineId);
  return (
    <Page title="Sandbox">
      <p className="mb-3 max-w-[70ch] text-muted">
        Choose a machine, fill its slots, hide a fault. The address of this page carries it all:
        send it on, and others see the same.
      </p>
      <section aria-label="What is on the bench" className="sheet mb-3.5 grid gap-3">
        <div className="grid gap-3 sm:grid-cols-2">
          <Combobox
            label="Machine"
            value={sandbox.machineId}
            choices={machines.data.map(({ id, machine }) => ({ value: id, label: machine.name }))}
            onChange={(machineId) => change({ machineId, slots: {}, faults: [] })}
          />
          {record && <FaultField machine={record.machine} sandbox={sandbox} onChange={change} />}
        </div>
        {record && record.machine.slots.length > 0 && (
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            {record.machine.slots.map(({ id, printedName }) => (
              <Combobox
                key={id}
                label={printedName}
                placeholder="empty"
                value={sandbox.slots[id] ?? ''}
                choices={catalogue.map((one) => ({
                  value: one.id,
                  label: `${gb(one.module.capacity)} ${moduleSummary(one.module)}`,
                  aside: one.label,
                }))}
                onChange={(moduleId) =>
                  change({ ...sandbox, slots: { ...sandbox.slots, [id]: moduleId } })
                }
              />
            ))}
          </div>
        )}
      </section>
      {record ? (
        <Bench
          key={search.toString()}
          machine={record.machine}
          sandbox={sandbox}
          modules={catalogue}
        />
      ) : (
        <Empty title="No machine on the bench yet.">Choose one above.</Empty>
      )}
    </Page>
  );
}

interface FaultFieldProps {
  readonly machine: Machine;
  readonly sandbox: Sandbox;
  readonly onChange: (sandbox: Sandbox) => void;
}

/** Faults that are hidden, and one more to hide. */
function FaultField({ machine, sandbox, onChange }: FaultFieldProps) {
  const nameOf = slotNames(machine);
  const filled = Object.keys(sandbox.slots).filter((id) => sandbox.slots[id]);
  const all = faultsFor(filled);
  const text = (fault: HiddenFault) =>
    findingText(fault.kind) + placeOf(fault, (id) => ` · ${nameOf(id)}`);
  const [chosen, setChosen] = useState('');
  return (
    <div className="grid gap-2">
      <SelectField
        label="Hide a fault"
        value={chosen}
        onChange={({ target }) => {
          const fault = all[Number(target.value)];
          setChosen('');
          if (fault) onChange({ ...sandbox, faults: [...sandbox.faults, fault] });
        }}
        options={[['', 'choose'], ...all.map((one, at) => [String(at), text(one)] as const)]}
      />
      <ul className="flex flex-wrap gap-2">
        {sandbox.faults.map((fault, at) => (
          <li key={at}>
            <Button
              className="text-aside"
              aria-label={`Take away: ${text(fault)}`}
              onClick={() =>
                onChange({ ...sandbox, faults: sandbox.faults.filter((_, one) => one !== at) })
              }
            >
              {text(fault)} ✕
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

const placeOf = (fault: HiddenFault, words: (slotId: SlotId) => string): string =>
  'slotId' in fault ? words(fault.slotId) : 'pieceId' in fault ? words(fault.pieceId) : '';

interface BenchProps {
  readonly machine: Machine;
  readonly sandbox: Sandbox;
  readonly modules: Parameters<typeof sandboxOf>[2];
}

function Bench({ machine, sandbox, modules }: BenchProps) {
  const exercise = useMemo(() => sandboxOf(machine, sandbox, modules), [machine, sandbox, modules]);
  const walk = usePracticeWalk(exercise);
  return (
    <WhyProvider>
      <BenchView walk={walk} isSandbox />
      <WhyPanel />
    </WhyProvider>
  );
}
