import { cpus } from 'node:os';
import { benchBrowser } from './browser.ts';
import { benchCodes } from './codes.ts';
import { benchCore } from './core.ts';
import { benchDiagnosing } from './diagnosing.ts';
import { benchFrames } from './frames.ts';
import { benchGrowth } from './growth.ts';
import { benchInventory } from './inventory.ts';
import { benchLoad } from './load.ts';
import { benchNative } from './native.ts';
import { benchPhotos } from './photos.ts';
import { benchPlanning } from './planning.ts';
import { benchPractice } from './practice.ts';
import { benchProving } from './proving.ts';
import { benchServer } from './server.ts';
import { benchSimulation } from './simulation.ts';
import { benchVerdicts } from './verdicts.ts';
import { printTable } from './table.ts';
import type { Row } from './table.ts';

const BENCHES: Readonly<Record<string, () => Row[] | Promise<Row[]>>> = {
  ...{ core: benchCore, diagnosing: benchDiagnosing, frames: benchFrames, proving: benchProving },
  ...{ native: benchNative, inventory: benchInventory, planning: benchPlanning },
  ...{ verdicts: benchVerdicts, server: benchServer, load: benchLoad, browser: benchBrowser },
  ...{ growth: benchGrowth },
  ...{
    photos: benchPhotos,
    codes: benchCodes,
    simulation: benchSimulation,
    practice: benchPractice,
  },
};

// `npm run bench` measures everything, `npm run bench native server` only what is named.
const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !(name in BENCHES));
if (unknown.length > 0) {
  console.error(`No bench is called ${unknown.join(', ')}: ${Object.keys(BENCHES).join(', ')}.`);
  process.exit(1);
}
console.log(`Node ${process.version}, ${cpus().length} cores`);
// One after the other: the figures would disturb each other. One that breaks keeps none from being told.
for (const [name, bench] of Object.entries(BENCHES)) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  console.log(`\n── ${name}, ${new Date().toTimeString().slice(0, 5)}\n`);
  try {
    const rows = await bench();
    printTable(rows);
    if (rows.some(({ holds }) => !holds)) process.exitCode = 1;
  } catch (error) {
    console.error(error);
    process.exitCode = 1;
  }
}
