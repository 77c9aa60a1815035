import type { InventoryReading } from '../inventory/index.ts';
import { machineFromInventory } from './machineFromInventory.ts';
import type { MachinePicture } from './machineFromInventory.ts';
import { evidenceOfReading } from './readDocument.ts';
import { reconcile } from './reconcile.ts';
import type { Reconciled } from './reconcile.ts';

/** A machine and all that files say of it, put together. */
export interface FilesPicture extends MachinePicture {
  readonly reconciled: Reconciled;
}

/**
 * One picture of a machine from its files alone: slots from the fullest table, modules from all.
 *
 * @returns `undefined` when no file names the places for memory
 */
export function pictureOfFiles(
  files: readonly { readonly name: string; readonly reading: InventoryReading }[],
): FilesPicture | undefined {
  // An operating system lists filled places only; a table lists the empty ones too.
  const tables = files
    .filter(({ reading }) => reading.kind !== 'spd')
    .sort((a, b) => b.reading.devices.length - a.reading.devices.length);
  for (const { reading } of tables) {
    const picture = machineFromInventory(reading);
    if (!picture) continue;
    const evidence = files.map(({ name, reading: one }, at) =>
      evidenceOfReading({ id: `file-${at}`, name }, one),
    );
    const reconciled = reconcile({ machine: picture.machine, evidence });
    return { ...picture, placement: reconciled.placement, reconciled };
  }
  return undefined;
}
