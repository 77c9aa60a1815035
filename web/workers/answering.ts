import type { Told } from './asked.ts';

/** Has this worker answer what `Asked` asks it: each question once, with an answer or why there is none. */
export function answering<Request, Answer>(
  answer: (request: Request) => Answer | Promise<Answer>,
): void {
  const tell = (told: Told<Answer>) => self.postMessage(told);
  type Question = MessageEvent<{ readonly ticket: number; readonly request: Request }>;
  self.addEventListener('message', ({ data: { ticket, request } }: Question) => {
    const told = async () => tell({ ticket, answer: await answer(request) });
    told().catch((error: unknown) => tell({ ticket, fault: String(error) }));
  });
}
