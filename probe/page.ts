import { PROBE_MARK_WORDS } from '../core/explaining/probes.ts';
import { carryCode } from '../core/proving/carryCode.ts';
import type { ProbeLength, ProbeResult } from '../core/proving/probe.ts';
import { median } from '../core/proving/statistics.ts';
import { deliver, tokenOfLink, unsentOf } from './deliver.ts';
import type { Delivery } from './deliver.ts';
import { measure } from './measure.ts';
import { part } from './part.ts';
import { qrPicture } from './qrPicture.ts';
import { showAsCodes } from './showAsCodes.ts';

/** `?short` tries the page out in seconds; `?plain` measures without the kernels. */
const asked = new URLSearchParams(location.search);
const token = tokenOfLink();

function show(section: 'start' | 'running' | 'result'): void {
  for (const id of ['start', 'running', 'result']) part(id).hidden = id !== section;
}

/** What a browser tells of power and memory; plain HTTP tells neither. */
interface Device {
  readonly deviceMemory?: number;
  readonly getBattery?: () => Promise<{ readonly charging: boolean }>;
}

let running: AbortController | undefined;

async function run(length: ProbeLength): Promise<void> {
  running = new AbortController();
  part('fault').hidden = true;
  part('away').hidden = true;
  show('running');
  part('cancel').focus();
  const device = navigator as Device;
  const battery = await device.getBattery?.().catch(() => undefined);
  const screen = await navigator.wakeLock?.request('screen').catch(() => undefined);
  try {
    const result = await measure({
      ...{ length, threads: Math.max(1, navigator.hardwareConcurrency || 1) },
      deviceMemory: device.deviceMemory,
      isPlain: asked.has('plain'),
      isOnBattery: battery?.charging === false,
      withPattern: (part('pattern') as HTMLInputElement).checked,
      signal: running.signal,
      onProgress: (share, doing) => {
        part('percent').textContent = String(Math.round(share * 100));
        (part('bar') as HTMLProgressElement).value = share;
        part('doing').textContent = doing;
      },
    });
    showResult(result);
  } catch (error) {
    show('start');
    if (running.signal.aborted) return;
    const reason = error instanceof Error ? error.message : String(error);
    part('fault').textContent =
      `It could not be measured: ${reason} Close other tabs and programs and try again, or use another browser.`;
    part('fault').hidden = false;
  } finally {
    void screen?.release();
  }
}

function showResult(result: ProbeResult): void {
  show('result');
  const words = (value: number) => (value < 10 ? value.toFixed(2) : value.toFixed(1));
  const { threads, read, reply, copy, multiplyAdd, random, pattern } = result;
  part('threads').textContent = `${threads} ${threads === 1 ? 'thread' : 'threads'}`;
  part('read').textContent = words(median(read));
  part('reply').textContent = words(median(reply));
  part('marks').replaceChildren(
    ...result.marks.map((mark) => element('li', PROBE_MARK_WORDS[mark])),
    ...(result.engine === 'plain arrays'
      ? [
          element(
            'li',
            'This browser cannot run the fast kernels; plain arrays measured instead. Compare only with a result that says the same.',
          ),
        ]
      : []),
    ...(pattern && pattern.wrong > 0
      ? [
          element(
            'li',
            `${pattern.wrong} words came back wrong in the pattern check. Stop using the machine for work, and test the memory before the system starts.`,
          ),
        ]
      : []),
  );
  const rows: [string, string][] = [
    ['Copy', `${words(median(copy))} GB/s`],
    ['Multiply-add', `${words(median(multiplyAdd))} GB/s`],
    ...random.map(({ chains, rate }): [string, string] => [
      `Random access, ${chains} parallel`,
      `${words(rate)} GB/s`,
    ]),
    ...(pattern
      ? [
          [
            'Pattern check',
            `${pattern.wrong === 0 ? 'no fault' : 'faults'} in ${pattern.mib} MB, ${pattern.rounds === 1 ? '1 round' : `${pattern.rounds} rounds`}, ${pattern.seconds} s`,
          ] as [string, string],
        ]
      : []),
  ];
  part('more').replaceChildren(
    ...rows.flatMap(([name, value]) => [element('dt', name), element('dd', value)]),
  );
  const slowest = Math.max(...result.steps.map(({ ns }) => ns));
  part('steps').replaceChildren(
    ...result.steps.map(({ kib, ns }) => {
      const row = document.createElement('tr');
      const bar = document.createElement('i');
      bar.style.width = `${(ns / slowest) * 100}%`;
      const cell = document.createElement('td');
      cell.append(bar);
      const size = kib < 1024 ? `${kib} KB` : `${Math.round(kib / 1024)} MB`;
      row.append(element('td', size), element('td', `${words(ns)} ns`), cell);
      return row;
    }),
  );
  const code = carryCode(result);
  part('code').replaceChildren(...code.split('-').map((group) => element('span', group)));
  part('code').setAttribute('aria-label', code);
  part('qr').innerHTML = qrPicture(code);
  part('save').onclick = () => saveFile(result);
  if (token === undefined) tell({ type: 'no bench' });
  else void deliver({ token, result }, tell);
}

function tell(now: Delivery): void {
  const sent = part('sent');
  sent.className = `notice ${{ 'no bench': '', sending: 'wait', waiting: 'wait', sent: 'ok', refused: 'bad' }[now.type]}`;
  sent.textContent = {
    'no bench': () => 'Done. Carry the code to the bench.',
    sending: () => 'Sending to the bench …',
    sent: () => '✓ The bench has it. This page can be closed.',
    waiting: () =>
      `The bench cannot be reached. Kept here; trying again in ${now.type === 'waiting' ? now.seconds : 0} s. Or carry the code.`,
    refused: () =>
      now.type === 'refused' ? `✕ The bench did not take it: ${now.reason} ${now.mend}` : '',
  }[now.type]();
}

function saveFile(result: ProbeResult): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(
    new Blob([JSON.stringify(result, null, 1)], { type: 'application/json' }),
  );
  link.download = `memory-${result.id.slice(0, 8)}.json`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}

function element(tag: string, text: string): HTMLElement {
  const made = document.createElement(tag);
  made.textContent = text;
  return made;
}

part('quick').onclick = () => void run(asked.has('short') ? 'short' : 'quick');
part('thorough').onclick = () => void run('thorough');
part('again').onclick = () => show('start');
showAsCodes();
part('cancel').onclick = () => running?.abort(new Error('cancelled'));
document.addEventListener('visibilitychange', () => {
  if (document.hidden) part('away').hidden = false;
});

const unsent = token === undefined ? undefined : unsentOf(token);
if (unsent) showResult(unsent);
else show('start');
