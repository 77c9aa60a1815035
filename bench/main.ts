import { cpus } from 'node:os';
import { benchBrowser } from './browser.ts';
import { benchCore } from './core.ts';
import { benchDiagnosing } from './diagnosing.ts';
import { benchFrames } from './frames.ts';
import { benchInventory } from './inventory.ts';
import { benchNative } from './native.ts';
import { benchPlanning } from './planning.ts';
import { benchProving } from './proving.ts';
import { benchServer } from './server.ts';
import { printTable } from './table.ts';

// One after the other: the figures would disturb each other.
const rows = [
  ...(await benchCore()),
  ...benchDiagnosing(),
  ...benchFrames(),
  ...benchProving(),
  ...(await benchNative()),
  ...(await benchInventory()),
  ...(await benchPlanning()),
  ...(await benchServer()),
  ...(await benchBrowser()),
];
console.log(`\nNode ${process.version}, ${cpus().length} cores\n`);
printTable(rows);
if (rows.some(({ holds }) => !holds)) process.exitCode = 1;
