import { execFileSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { ServerProcess } from '../e2e/support/server.ts';
import { Rounds, Writers } from './writers.ts';
import type { NightRow } from './writers.ts';

/** FS_IOC_SHUTDOWN with "do not flush the log": the disk as it would be after the mains were cut. */
const CUT =
  'open(F,"<",$ARGV[0]) or die; my $how=pack("L",2); ioctl(F,0x8004587d,$how) or die "$!"';

/**
 * Cuts the power of a disk while people save: a file system in a file, mounted, shut down without
 * flushing, mounted again. Needs root, a loop device, mkfs.ext4 and perl; elsewhere it says so.
 */
export async function cutPower(count: number): Promise<NightRow> {
  const what = `power cuts, ${count} rounds`;
  if (process.getuid?.() !== 0 || !existsSync('/dev/loop-control'))
    return { what, found: 'not run: needs root and loop devices', holds: true };
  const home = mkdtempSync(join(tmpdir(), 'tembrix-power-'));
  const [image, mount] = [join(home, 'disk'), join(home, 'mount')];
  const sh = (command: string, ...args: string[]) => execFileSync(command, args, { stdio: 'pipe' });
  writeFileSync(image, '');
  truncateSync(image, 1_500_000_000);
  sh('mkfs.ext4', '-q', image);
  mkdirSync(mount);
  const plug = () => sh('mount', '-o', 'loop', image, mount);
  plug();
  const data = join(mount, 'data');
  const rounds = new Rounds();
  let failed = 0;
  let kept = '';
  try {
    const server = await ServerProcess.start(data);
    for (let round = 0; round < count; round++) {
      const writers = new Writers(server, round, 8);
      await wait(1000 + Math.random() * 5000);
      sh('perl', '-e', CUT, mount);
      await server.kill();
      await writers.stop();
      sh('umount', mount);
      plug();
      try {
        await server.up();
      } catch {
        failed += 1;
        // Whoever looks for the reason needs what was found, what the engine says of it, and whether it stays.
        const copy = mkdtempSync(join(tmpdir(), 'tembrix-not-started-'));
        cpSync(data, copy, { recursive: true });
        process.env['TEMBRIX_LOG'] = 'debug';
        const isUp = await server.up().then(
          () => true,
          () => false,
        );
        kept = `${copy}; a second start ${isUp ? 'worked' : 'failed too'}`;
        break;
      }
      await rounds.look(server, writers.acknowledged);
    }
    if (failed === 0) await rounds.lookAtAll(server);
    await server.kill();
  } finally {
    sh('umount', '-l', mount);
    rmSync(home, { recursive: true, force: true });
  }
  return {
    what,
    found: `${rounds.found}, ${failed} starts failed${kept && ` (kept in ${kept})`}`,
    holds: rounds.holds && failed === 0,
  };
}
