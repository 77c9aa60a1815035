import { codesOfFile } from '../core/inventory/collected/fileCodes.ts';
import { COLLECTED_LIMIT } from '../core/inventory/limits.ts';
import { isCollected, readCollected } from '../core/inventory/collected/readCollected.ts';
import { part } from './part.ts';
import { qrPicture } from './qrPicture.ts';

/** How long a code stands, ms: a camera needs a look or two. */
const STANDS_MS = 1500;

/** What is shown of a file: its codes, and what to say of it. */
export type AsCodes =
  | { readonly ok: true; readonly codes: readonly string[]; readonly said: string }
  | { readonly ok: false; readonly said: string };

/** A chosen file as codes, or why it cannot be shown. */
export function asCodes(text: string): AsCodes {
  if (!isCollected(text))
    return {
      ok: false,
      said: 'This is no collected file. Choose the collected.json the collecting script wrote.',
    };
  const { collected, findings } = readCollected(text);
  if (findings.some(({ type }) => type === 'newer-version'))
    return {
      ok: false,
      said: 'A newer script wrote this file. Take this page from the bench anew.',
    };
  if (!collected || collected.parts.length + collected.facts.length === 0)
    return { ok: false, said: 'The file is cut short or empty. Run the collecting script again.' };
  const { codes, leftOut } = codesOfFile(collected);
  const edited = findings.flatMap((one) => (one.type === 'part-edited' ? one.what : []));
  return {
    ok: true,
    codes,
    said: [
      ...edited.map((what) => `Changed after collecting and left out: ${what}.`),
      ...leftOut.map((what) => `Left out, it would take too many codes: ${what}.`),
    ].join(' '),
  };
}

/** The file a person chooses, shown as codes one after the other until they hold or leave it. */
export function showAsCodes(): void {
  let codes: readonly string[] = [];
  let at = 0;
  let name = '';
  let timer: ReturnType<typeof setInterval> | undefined;
  const draw = () => {
    part('filecode').innerHTML = qrPicture(codes[at] ?? '');
    part('filecount').textContent = `${name}: code ${at + 1} of ${codes.length}`;
  };
  const step = (by: number) => {
    at = (at + by + codes.length) % codes.length;
    draw();
  };
  const run = (isRunning: boolean) => {
    clearInterval(timer);
    timer = isRunning && codes.length > 1 ? setInterval(() => step(1), STANDS_MS) : undefined;
    part('hold').textContent = timer ? 'Hold' : 'Go on';
  };
  const pick = part('collected') as HTMLInputElement;
  pick.onchange = async () => {
    const [file] = pick.files ?? [];
    pick.value = '';
    if (!file) return;
    const made = asCodes(file.size > COLLECTED_LIMIT ? '' : await file.text());
    part('filesaid').textContent = made.said;
    part('filesaid').hidden = made.said === '';
    part('filecodes').hidden = !made.ok;
    codes = made.ok ? made.codes : [];
    ({ name } = file);
    at = 0;
    run(made.ok);
    if (!made.ok) return;
    draw();
    part('filecodes').scrollIntoView({ block: 'end' });
  };
  part('hold').onclick = () => run(timer === undefined);
  for (const [id, by] of [
    ['before', -1],
    ['after', 1],
  ] as const)
    part(id).onclick = () => {
      run(false);
      step(by);
    };
}
