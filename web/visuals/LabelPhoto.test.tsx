import { cleanup, configure, render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { readPhotoText } from '#core/memory';
import * as photos from '../workers/readPhoto.ts';
import type { PhotoReading } from '../workers/readPhoto.ts';
import { LabelPhoto } from './LabelPhoto.tsx';

const readPhoto = vi.spyOn(photos, 'readPhoto');

const CODES = ['0921AB77F300'];
const box = { x0: 10, y0: 10, x1: 300, y1: 40 };
const reading = (...lines: string[]): PhotoReading => ({
  ...{ photo: new Blob(), width: 400, height: 200, codes: CODES },
  labels: readPhotoText(
    lines.map((line) => [...line].map((sign) => ({ sign, confidence: 0.95 }))),
  ).map((one) => ({ ...one, box })),
});
const taken = vi.fn();
const photo = new File(['photo'], 'sticker.jpg', { type: 'image/jpeg' });
const choose = async (file = photo) =>
  userEvent.upload(screen.getByLabelText('Read it off a photo'), file);

configure({ asyncUtilTimeout: 60_000 });
afterEach(cleanup);
beforeEach(() => {
  vi.clearAllMocks();
  vi.stubGlobal('createImageBitmap', () => Promise.resolve({ close: () => undefined }));
  render(<LabelPhoto hints={{}} onLabel={taken} />);
});

describe('a label off a photo', () => {
  test('shows each reading with what was changed, and takes the one pressed', async () => {
    readPhoto.mockResolvedValue(
      reading('16G8 2Rx8 PC4-2400T-SE1-11', 'MADE 4416', '8GB 1Rx8 PC4-2666V-UA1-11'),
    );
    await choose();
    const rows = await screen.findAllByRole('listitem');
    expect(rows.map((row) => row.textContent)).toEqual([
      expect.stringContaining('8 read as B, since nothing else is a label'),
      expect.stringContaining('Every letter was seen as it stands.'),
    ]);
    await userEvent.click(screen.getAllByRole('button', { name: 'Take it' })[0] as HTMLElement);
    expect(taken).toHaveBeenCalledWith('16GB 2RX8 PC4-2400T-SE1-11', photo, CODES);
    expect(screen.queryByRole('list')).toBeNull();
  });

  test('a label by its code says that it is the catalogue’s', async () => {
    const labels = readPhotoText([], {
      ...{ codes: ['NX-8U24'], partNumbers: ['NX-8U24'] },
      labels: { 'NX-8U24': '8GB 1Rx8 PC4-2400T-UA1-11 NX-8U24' },
    });
    readPhoto.mockResolvedValue({ ...reading(), labels: labels.map((one) => ({ ...one, box })) });
    await choose();
    expect(await screen.findByText(/the label of that part in the catalogue/)).toBeDefined();
    expect(screen.queryByText(/Every letter was seen/)).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Take it' }));
    expect(taken).toHaveBeenCalledWith('8GB 1Rx8 PC4-2400T-UA1-11 NX-8U24', photo, CODES);
  });

  test('a photo without a label, and a reader that does not come, say what to do', async () => {
    readPhoto.mockResolvedValue(reading('TOTAL 16.00'));
    await choose();
    expect(await screen.findByText('No label was found in this photo')).toBeDefined();
    readPhoto.mockRejectedValue(new Error('network'));
    await choose();
    expect(await screen.findByText('The reader gave no answer')).toBeDefined();
    expect(taken).not.toHaveBeenCalled();
  });

  test('what is no picture is refused, HEIC by name, and nothing is read', async () => {
    vi.stubGlobal('createImageBitmap', () => Promise.reject(new Error('no picture')));
    await choose(new File(['Dear sirs'], 'letter.jpg', { type: 'image/jpeg' }));
    expect(await screen.findByText('This is not a picture the browser can read')).toBeDefined();
    await choose(new File(['\0\0\0\x18ftypheic'], 'phone.jpg', { type: 'image/jpeg' }));
    expect(await screen.findByText('This browser cannot open HEIC photos')).toBeDefined();
    const poster = new File(['x'], 'poster.jpg', { type: 'image/jpeg' });
    Object.defineProperty(poster, 'size', { value: 60 * 2 ** 20 });
    await choose(poster);
    expect(await screen.findByText('This picture is too large')).toBeDefined();
    expect(readPhoto).not.toHaveBeenCalled();
  });

  test('cancelled, a late answer shows nothing; of two photos the later counts', async () => {
    const answers: ((value: PhotoReading) => void)[] = [];
    readPhoto.mockImplementation(() => new Promise((settle) => answers.push(settle)));
    await choose();
    await userEvent.click(await screen.findByRole('button', { name: 'cancel' }));
    await choose();
    await waitFor(() => expect(answers).toHaveLength(2));
    answers[0]?.(reading('8GB 1Rx8 PC4-2400T-UA1-11'));
    answers[1]?.(reading('16GB 2Rx8 PC4-3200AA-UB1-11'));
    expect(await screen.findByText(/Every letter/)).toBeDefined();
    expect(screen.getByRole('listitem').textContent).toContain('16GB 2Rx8 PC4-3200AA-U');
  });
});
