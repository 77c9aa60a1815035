import { serverSeen } from '#web/app/connectionSlice.ts';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { EvidenceInput, EvidenceRecord } from '#contract/evidence';
import { writeSmbios } from '#core/inventory';
import { readDocument } from '#core/reconciling';
import { aJob } from '../../../test/support/aJob.ts';
import { desktop, labelled } from '../../../test/support/builders.ts';
import { FakeServer, freshStore } from '../../../test/support/screen.tsx';
import { base64FromBytes } from '../../ui/base64.ts';
import * as reading from '../../workers/readDocuments.ts';
import { documentsFromFiles } from './documentsFromFiles.ts';
import { useEvidence } from './useEvidence.ts';

// What a worker does, done here: there are no workers in a made-up page.
vi.spyOn(reading, 'readDocumentAside').mockImplementation((document) =>
  Promise.resolve(readDocument(document)),
);

const job = aJob();
const machine = desktop();
const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24');
const table = writeSmbios(machine, { a1: eight, b1: eight }, { configuredRate: 2400 });
const NOON = '2026-05-04T12:00:00.000Z';
type Stored = EvidenceRecord & Pick<EvidenceInput, 'base64'>;
let stored: Stored[];
let server: FakeServer;
let store: ReturnType<typeof freshStore>;

const record = (id: string, document: EvidenceInput): Stored => ({
  ...{ ...document, id, by: 'O', addedAt: NOON, hasPhoto: document.photo !== undefined },
  size: Buffer.from(document.base64, 'base64').length,
});
const listed = () => ({
  documents: stored.map(({ base64: _base64, ...one }) => one),
  decisions: [],
});

beforeEach(() => {
  stored = [];
  server = new FakeServer({
    readEvidence: listed,
    readEvidenceContent: ({ path }: { path: string }) => ({
      base64: stored.find(({ id }) => path.endsWith(`/${id}`))?.base64,
    }),
    addEvidence: ({ body }: { body: unknown }) => {
      for (const document of (body as { documents: EvidenceInput[] }).documents)
        stored = [...stored, record(`e${stored.length}`, document)];
      return listed();
    },
  });
  vi.stubGlobal('fetch', server.fetch);
  store = freshStore();
});
afterEach(() => vi.unstubAllGlobals());

function evidence() {
  const wrapper = ({ children }: { readonly children: ReactNode }) => (
    <Provider store={store}>{children}</Provider>
  );
  return renderHook(() => useEvidence(job), { wrapper });
}
const file = (name: string, bytes: Uint8Array) =>
  new File([bytes as Uint8Array<ArrayBuffer>], name);

describe('evidence of a job', () => {
  test('a table dropped is stored as it is, read, and says what sits where', async () => {
    const { result } = evidence();
    await waitFor(() => expect(result.current.isEmpty).toBe(true));
    await act(() => result.current.addFiles([file('dump.bin', table)]));
    await waitFor(() => expect(result.current.documents[0]?.read?.kind).toBe('smbios'));
    const placement = result.current.reconciled.placement;
    expect(Object.keys(placement).sort()).toEqual(['a1', 'b1']);
    expect(stored[0]).toMatchObject({ name: 'dump.bin', base64: base64FromBytes(table) });
    expect(result.current.isReading).toBe(false);
  });

  test('contents are asked for once each, and again where the server went away between', async () => {
    stored = [
      record('e0', {
        kind: 'file',
        name: 'a',
        base64: base64FromBytes(table),
        slotIds: [],
      }),
    ];
    const { result } = evidence();
    server.answers = { ...server.answers, readEvidenceContent: { status: 503 } };
    await waitFor(() => expect(result.current.failure).toEqual({ type: 'offline' }));
    expect(result.current.documents[0]?.read).toBeUndefined();
    server.answers = { ...server.answers, readEvidenceContent: { base64: stored[0]?.base64 } };
    act(() => result.current.refetch());
    act(() => void store.dispatch(serverSeen({ online: true })));
    await waitFor(() => expect(result.current.documents[0]?.read?.kind).toBe('smbios'));
    expect(result.current.failure).toBeUndefined();
    const tries = server.sent('readEvidenceContent').length;
    await act(() => result.current.addFiles([file('b.bin', table)]));
    await waitFor(() => expect(result.current.documents[1]?.read?.kind).toBe('smbios'));
    expect(server.sent('readEvidenceContent')).toHaveLength(tries + 1);
    expect(await result.current.contentOf('e0')).toEqual(new Uint8Array(table));
  });

  test('files dropped while the server is away are all kept, and stored when it is back', async () => {
    const { result } = evidence();
    await waitFor(() => expect(result.current.isEmpty).toBe(true));
    server.isAway = true;
    const many = Array.from({ length: 120 }, (_, at) =>
      file(`${at}.txt`, new Uint8Array([65, 49])),
    );
    let dropped: Promise<void> = Promise.resolve();
    act(() => {
      dropped = result.current.addFiles(many);
    });
    await waitFor(() => expect(result.current.saveStates[0]).toEqual({ type: 'waiting', left: 3 }));
    server.isAway = false;
    act(() => void store.dispatch(serverSeen({ online: true })));
    await act(() => dropped);
    expect(stored).toHaveLength(120);
    expect(stored.map(({ name }) => name)).toEqual(many.map(({ name }) => name));
    expect(result.current.saveStates[0]?.type).toBe('done');
  });

  test('a label typed has its place at once: nothing moves under a press when the answer comes', async () => {
    const { result } = evidence();
    await waitFor(() => expect(result.current.isEmpty).toBe(true));
    expect(result.current.isAny).toBe(false);
    server.isAway = true;
    act(() => result.current.addTyped('sticker', '8GB 1Rx8 PC4-2400T-UA1-11', ['a1'], 'sticker'));
    expect(result.current).toMatchObject({ isEmpty: false, isAny: true, documents: [] });
    server.isAway = false;
    act(() => void store.dispatch(serverSeen({ online: true })));
    await waitFor(() => expect(result.current.documents).toHaveLength(1));
    expect(result.current).toMatchObject({ isEmpty: false, isAny: true });
  });

  test('a label that is refused gives its place back', async () => {
    const { result } = evidence();
    await waitFor(() => expect(result.current.isEmpty).toBe(true));
    const problem = {
      ...{ type: 'about:blank#state', title: 'The job is closed', status: 409 },
      ...{ detail: 'It was closed on the other screen.', mend: 'Open it again.' },
    };
    server.answers = { ...server.answers, addEvidence: problem };
    act(() => result.current.addTyped('sticker', '8GB', ['a1'], 'sticker'));
    await waitFor(() => expect(result.current.saveStates[0]?.type).toBe('failed'));
    expect(result.current).toMatchObject({ isEmpty: true, isAny: false });
  });

  test('a file too large to be an inventory stays behind, by name', async () => {
    const large = file('film.bin', new Uint8Array(5 * 2 ** 20));
    const { portions, refused } = await documentsFromFiles([large, file('a', new Uint8Array(3))]);
    expect(refused).toEqual(['film.bin']);
    expect(portions.flat().map(({ name }) => name)).toEqual(['a']);
  });
});
