import { useId, useState } from 'react';
import type { MachineRecord } from '#contract/records';
import { count, explainGuess, gb, inventoryKindName, list } from '#core/explaining';
import { machineFromInventory } from '#core/reconciling';
import type { MachinePicture, ReadDocument } from '#core/reconciling';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';
import { readDocumentAside } from '../workers/readDocuments.ts';

interface MachineFromFilesProps {
  readonly machines: readonly MachineRecord[];
  /** Files that go into the job as evidence once it is open. */
  readonly onFiles: (files: readonly File[]) => void;
  readonly onMachine: (id: string) => void;
}

interface Found {
  readonly names: string;
  readonly reads: readonly ReadDocument[];
  readonly picture: MachinePicture | undefined;
}

/** A machine from the files of the customer's machine, without typing; they stay with the job. */
export function MachineFromFiles({ machines, onFiles, onMachine }: MachineFromFilesProps) {
  const inputId = useId();
  const [found, setFound] = useState<Found>();
  const [create] = api.useCreateMachineMutation();
  const creating = useSave(create, ({ id }) => onMachine(id));
  const read = async (files: readonly File[]) => {
    onFiles(files);
    const reads = await Promise.all(
      files.map(async (file, at) =>
        readDocumentAside({
          ...{ id: `new-${at}`, kind: 'file', name: file.name },
          bytes: new Uint8Array(await file.arrayBuffer()),
        }),
      ),
    );
    const [fullest] = reads
      .filter(({ kind }) => kind !== 'spd')
      .sort((a, b) => b.evidence.devices.length - a.evidence.devices.length);
    const picture =
      fullest && machineFromInventory({ devices: fullest.evidence.devices, board: fullest.board });
    setFound({ names: list(files.map(({ name }) => name)), reads, picture });
  };
  const twin = machines.find(({ machine }) => machine.name === found?.picture?.machine.name);
  return (
    <div
      className="rounded-md border-2 border-dashed border-edge p-3"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void read([...event.dataTransfer.files]);
      }}
    >
      <div className="flex flex-wrap items-center gap-3">
        <label htmlFor={inputId} className="min-w-56 grow">
          <b>Or from its own files</b>
          <span className="block text-aside text-muted">
            An SMBIOS dump or listing, or the system’s memory list, makes the machine; all files
            stay with the job.
          </span>
        </label>
        <input
          id={inputId}
          type="file"
          multiple
          className="max-w-60 text-aside file:mr-3 file:min-h-10 file:rounded-md file:border file:border-solid file:border-edge file:bg-sheet file:px-4 file:font-bold file:text-ink"
          onChange={({ target }) => void read([...(target.files ?? [])])}
        />
      </div>
      {found && (
        <div className="mt-3" aria-live="polite">
          {found.picture ? (
            <Notice
              kind="note"
              title={`${found.picture.machine.name}: ${outline(found.picture)}`}
              why={
                found.picture.guesses.map((guess) => explainGuess(guess).title).join('. ') ||
                undefined
              }
            >
              <div className="flex flex-wrap gap-2">
                {twin && (
                  <Button onClick={() => onMachine(twin.id)}>
                    Take {twin.machine.name} from the library
                  </Button>
                )}
                <Button
                  onClick={() => {
                    const { machine } = found.picture ?? {};
                    if (machine) void creating.save({ machine });
                  }}
                >
                  {twin ? 'Add it as another machine' : 'Add this machine'}
                </Button>
              </div>
            </Notice>
          ) : (
            <Notice
              kind="caution"
              title={`${found.names}: no list of places`}
              why={`Read as ${list(found.reads.map(({ kind }) => (kind === 'sticker' || kind === 'screen' || kind === 'eyes' ? kind : inventoryKindName(kind))))}. The files stay with the job.`}
              mend="Choose or describe the machine; its slots come from there."
            />
          )}
          <SaveNotice state={creating.state} />
          {creating.state.type === 'done' && (
            <p className="mt-1 text-aside text-ok">✓ Added and chosen</p>
          )}
        </div>
      )}
    </div>
  );
}

function outline({ machine, placement }: MachinePicture): string {
  const fitted = Object.values(placement).reduce((sum, module) => sum + (module?.capacity ?? 0), 0);
  const onBoard = machine.soldered.reduce((sum, { part }) => sum + part.capacity, 0);
  return [
    count(machine.slots.length, 'slot'),
    count(machine.channels.length, 'channel'),
    `${gb(fitted + onBoard)} ${machine.generations.join(', ')}`,
  ].join(', ');
}
