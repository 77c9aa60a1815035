import type { Machine, Placement } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { CIM_FORM_FACTORS, MEMORY_TYPES } from './smbios/codes.ts';

const codeOf = <T>(codes: Readonly<Record<number, T>>, value: T): number =>
  Number(Object.entries(codes).find(([, one]) => one === value)?.[0] ?? 0);

/**
 * Physical-memory instances of the CIM schema as JSON, as an operating system's shell exports them:
 * filled slots and soldered parts only.
 *
 * @param configuredRate - MT/s the modules run at
 */
export function writeCim(machine: Machine, placement: Placement, configuredRate?: number): string {
  const instance = (module: MemoryModule, locator: string, bank: string) => ({
    BankLabel: bank,
    Capacity: module.capacity * 2 ** 30,
    ConfiguredClockSpeed: configuredRate ?? null,
    ConfiguredVoltage: Math.min(...module.voltagesMv),
    DataWidth: 64,
    DeviceLocator: locator,
    FormFactor: codeOf(CIM_FORM_FACTORS, module.formFactor),
    Manufacturer: module.maker ?? 'Unknown',
    MemoryType: 0,
    PartNumber: (module.partNumber ?? '').padEnd(20),
    SMBIOSMemoryType: codeOf(MEMORY_TYPES, module.generation),
    SerialNumber: '00000000',
    Speed: module.rate,
    TotalWidth: module.ecc ? 72 : 64,
  });
  const soldered = machine.soldered.map(({ channel, part }, at) =>
    instance(part, `Onboard ${at}`, `Channel ${channel}`),
  );
  const fitted = machine.slots.flatMap(({ id, printedName, channels }) => {
    const module = placement[id];
    return module ? [instance(module, printedName, `Channel ${channels.join('')}`)] : [];
  });
  return JSON.stringify([...soldered, ...fitted], null, 2);
}
