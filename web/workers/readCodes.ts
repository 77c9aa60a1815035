import type { CodesAnswer, CodesRequest } from './readCodes.worker.ts';

let worker: Worker | undefined;
let tickets = 0;
const waiting = new Map<number, (texts: readonly string[]) => void>();

function codeWorker(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL('./readCodes.worker.ts', import.meta.url), { type: 'module' });
  worker.addEventListener('message', ({ data }: MessageEvent<CodesAnswer>) => {
    waiting.get(data.ticket)?.(data.texts);
    waiting.delete(data.ticket);
  });
  return worker;
}

/** The texts of the codes in a picture (QR, DataMatrix, Code 128), off the page's thread; it is used up. */
export function readCodes(picture: ImageBitmap): Promise<readonly string[]> {
  return new Promise((settle) => {
    const request: CodesRequest = { ticket: ++tickets, picture };
    waiting.set(request.ticket, settle);
    codeWorker().postMessage(request, [picture]);
  });
}
