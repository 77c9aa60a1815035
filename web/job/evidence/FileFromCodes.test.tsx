import { act, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { codesOfFile, readInventory } from '#core/inventory';
import { show } from '../../../test/support/screen.tsx';
import * as codeReader from '../../ui/CodeReader.tsx';
import { FileFromCodes } from './FileFromCodes.tsx';

/** What the camera shows, told by the test. */
const camera = { see: (_text: string): void => undefined };
vi.spyOn(codeReader, 'CodeReader').mockImplementation(({ onText }) => {
  camera.see = onText;
  return <p>the camera</p>;
});

const { codes } = codesOfFile({
  ...{ shell: 'unix', notRead: [] },
  parts: [
    {
      ...{ kind: 'hardware-report', from: 'report' },
      bytes: new TextEncoder().encode(
        Array.from({ length: 900 }, (_, at) => (at * 7919 * at).toString(36)).join(' '),
      ),
    },
  ],
  facts: [{ name: 'memory-visible', value: '8388608', from: '/proc/meminfo' }],
});
const see = (text: string | undefined) => act(() => camera.see(text ?? ''));

describe('a file scanned code by code', () => {
  const files: File[] = [];
  beforeEach(async () => {
    files.length = 0;
    show(<FileFromCodes onFile={(file) => files.push(file)} />, {});
    await userEvent.click(await screen.findByText(/Scan them/));
    await screen.findByText('the camera');
  });

  test('says what is still to come, and takes the file once, when the last code is seen', async () => {
    expect(codes.length).toBeGreaterThan(2);
    for (const code of codes.slice(1).reverse()) see(code);
    see(codes[1]);
    screen.getByText(`${codes.length - 1} of ${codes.length} codes; still to come: 1.`);
    expect(files).toEqual([]);
    see(codes[0]);
    expect(files.map(({ name }) => name)).toEqual(['collected.json']);
    const reading = readInventory(new Uint8Array(await files[0]!.arrayBuffer()));
    expect(reading.collected?.facts).toHaveLength(1);
    screen.getByText(`✓ The file came in ${codes.length} codes.`);
    expect(screen.queryByText('the camera')).toBeNull();
  });

  test('another code is told and loses nothing; a wrong digit makes no file and is told', () => {
    see(codes[0]);
    see('http://127.0.0.1/jobs/abcdefgh1234');
    screen.getByText('This is no code of a file');
    screen.getByText(new RegExp(`^1 of ${codes.length}`));
    see('tembrix-file:2:0123abcd:1:2:AAAA');
    screen.getByText(/newer measuring page/);
    for (const code of codes.slice(1, -1)) see(code);
    const last = codes.at(-1) ?? '';
    see(last.slice(0, -6) + (last.at(-6) === 'A' ? 'B' : 'A') + last.slice(-5));
    screen.getByText(/do not make the file they name/);
    expect(files).toEqual([]);
    for (const code of codes) see(code);
    expect(files).toHaveLength(1);
  });
});
