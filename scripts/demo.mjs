// Serves the built app with the demo world. A fresh throwaway directory each time; --keep keeps one.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const keep = process.argv.includes('--keep');
const data = keep ? join(root, 'data/demo') : mkdtempSync(join(tmpdir(), 'tembrix-demo-'));
const child = spawn(process.execPath, ['--import', 'tsx', 'demo/main.ts'], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, TEMBRIX_DATA: data },
});
const stop = (signal) => child.kill(signal);
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
child.on('exit', (code) => {
  if (!keep) rmSync(data, { recursive: true, force: true });
  process.exit(code ?? 1);
});
