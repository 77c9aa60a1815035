import { execFileSync } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';

const SCRIPT = join(import.meta.dirname, '../../collect/collect.sh');

/** A system made of files: what would lie under /sys and /proc, by path. */
export type SystemFiles = Readonly<Record<string, string | Uint8Array>>;

/** Figures every running system has. */
export const RUNNING: SystemFiles = {
  'proc/meminfo':
    'MemTotal:       16252928 kB\nMemFree:         1024000 kB\nMemAvailable:    9961472 kB\nSwapTotal:       4194304 kB\nSwapFree:        4190208 kB\n',
  'proc/vmstat': 'pgpgin 1\npswpin 100\npswpout 3\n',
  'proc/mounts': 'proc /proc proc rw 0 0\n/dev/vda2 / ext4 rw 0 0\n',
  'sys/class/block/vda2/queue/rotational': '0\n',
  'sys/class/power_supply/AC/type': 'Mains\n',
  'sys/class/power_supply/AC/online': '1\n',
  'sys/firmware/acpi/platform_profile': 'balanced\n',
};

/** Lays the files of a system down in a directory of its own. */
export function layDown(files: SystemFiles): string {
  const root = mkdtempSync(join(tmpdir(), 'tembrix-system-'));
  for (const [path, content] of Object.entries(files)) {
    mkdirSync(dirname(join(root, path)), { recursive: true });
    writeFileSync(join(root, path), content);
  }
  return root;
}

/** Programs that print what was recorded, to stand first on the PATH. */
export function programs(printed: Readonly<Record<string, string>>): string {
  const folder = mkdtempSync(join(tmpdir(), 'tembrix-programs-'));
  for (const [name, script] of Object.entries(printed)) {
    writeFileSync(join(folder, name), `#!/bin/sh\n${script}\n`);
    chmodSync(join(folder, name), 0o755);
  }
  return folder;
}

/** What the script wrote and said. */
export interface Run {
  readonly bytes: Uint8Array;
  readonly said: string;
}

/**
 * Runs the collecting script with what a Unix system ships.
 *
 * @param root - where /sys and /proc of the made-up system lie; empty for this machine's own
 * @throws when the script ends with an error
 */
export function collect(root: string, args: readonly string[] = [], path = ''): Run {
  const folder = mkdtempSync(join(tmpdir(), 'tembrix-collected-'));
  const out = join(folder, 'collected.json');
  const log = join(folder, 'said');
  execFileSync(
    '/bin/sh',
    ['-c', 'exec sh "$0" "$@" 2>"$SAID"', SCRIPT, '--yes', '--out', out, ...args],
    {
      env: {
        ...process.env,
        ...{ COLLECT_ROOT: root, COLLECT_STEP: '0', SAID: log },
        PATH: path === '' ? process.env.PATH : `${path}:${process.env.PATH ?? ''}`,
      },
    },
  );
  return { bytes: Uint8Array.from(readFileSync(out)), said: readFileSync(log, 'utf8') };
}
