/** How a machine's own system is asked for its memory, by the shell it has. */
export interface CollectingWay {
  readonly shell: 'cim' | 'unix' | 'report';
  /** What tells a technician which shell it is. */
  readonly title: string;
  readonly script: 'collect.sh' | 'collect.ps1';
  /** The script run by hand, watching for the peak. */
  readonly run: string;
  /** The script fetched from the door, run, and its file sent back. */
  readonly fetch: (door: string, link: string) => string;
  /** The list of memory alone, in one line, without any script. */
  readonly line: string;
}

/** The three common kinds. */
export const COLLECTING_WAYS: readonly CollectingWay[] = [
  {
    ...{ shell: 'cim', title: 'Get-CimInstance', script: 'collect.ps1' },
    run: 'powershell -ExecutionPolicy Bypass -File collect.ps1 -Watch 10',
    fetch: (door, link) =>
      `Invoke-WebRequest ${door}/collect.ps1 -OutFile collect.ps1; powershell -ExecutionPolicy Bypass -File collect.ps1 -To '${link}'`,
    line: 'Get-CimInstance CIM_PhysicalMemory | ConvertTo-Json | Set-Content -Encoding utf8 memory.json',
  },
  {
    ...{ shell: 'unix', title: 'Unix with /sys', script: 'collect.sh' },
    run: 'sudo sh collect.sh --watch 10',
    fetch: (door, link) => `curl -fsSO ${door}/collect.sh && sudo sh collect.sh --to '${link}'`,
    line: 'sudo cat /sys/firmware/dmi/tables/DMI > smbios.bin',
  },
  {
    ...{ shell: 'report', title: 'system_profiler', script: 'collect.sh' },
    run: 'sh collect.sh --watch 10',
    fetch: (door, link) => `curl -fsSO ${door}/collect.sh && sh collect.sh --to '${link}'`,
    line: 'system_profiler SPMemoryDataType -json > memory.json',
  },
];
