import { useState } from 'react';
import { list } from '#core/explaining';
import { writeCim, writeSmbios, writeSpd } from '#core/inventory';
import type { Machine } from '#core/machine';
import { Button } from '../../ui/Button.tsx';
import { download } from '../../ui/download.ts';
import type { PlacementBoard } from '../../visuals/usePlacementBoard.ts';

interface ExportFilesProps {
  readonly machine: Machine;
  readonly board: PlacementBoard;
  /** Job number, for the names of the files. */
  readonly number: number;
}

/** What the board shows, in the forms other programs read. */
export function ExportFiles({ machine, board, number }: ExportFilesProps) {
  const [missing, setMissing] = useState<readonly string[]>([]);
  const { placement } = board.present;
  const stem = String(number).padStart(4, '0');
  const rate = board.point.type === 'runs' ? board.point.rate : undefined;
  const images = () => {
    const failed: string[] = [];
    for (const { id, printedName } of machine.slots) {
      const module = placement[id];
      if (!module) continue;
      const spd = writeSpd(module);
      if (spd.ok) download(`${printedName}.spd`, 'application/octet-stream', spd.value);
      else failed.push(printedName);
    }
    setMissing(failed);
  };
  return (
    <div className="mt-3 grid gap-1 text-aside">
      <p className="text-muted">As files, from the board:</p>
      <p className="flex flex-wrap gap-x-3">
        <Button
          look="quiet"
          onClick={() =>
            download(
              `${stem}.dmp`,
              'application/octet-stream',
              writeSmbios(machine, placement, { configuredRate: rate }),
            )
          }
        >
          SMBIOS dump
        </Button>
        <Button
          look="quiet"
          onClick={() =>
            download(`${stem}-memory.json`, 'application/json', writeCim(machine, placement, rate))
          }
        >
          memory list
        </Button>
        <Button look="quiet" onClick={images}>
          SPD images
        </Button>
      </p>
      {missing.length > 0 && (
        <p role="status">
          <b className="text-stop">✕ No image of {list(missing)}:</b> ranks and chip width must be
          known. Type the full label, or read its SPD.
        </p>
      )}
    </div>
  );
}
