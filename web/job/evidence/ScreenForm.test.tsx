import { screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { show } from '../../../test/support/screen.tsx';
import * as small from '../../ui/smallPhoto.ts';
import * as photos from '../../workers/readPhoto.ts';
import { ScreenForm } from './ScreenForm.tsx';
import type { EvidenceState } from './useEvidence.ts';

const readLines = vi.spyOn(photos, 'readLines');
vi.spyOn(small, 'smallPhoto').mockResolvedValue({ base64: 'aGk=' });

const addTyped = vi.fn();
const photo = new File(['photo'], 'screen.jpg', { type: 'image/jpeg' });
const choose = () => userEvent.upload(screen.getByLabelText('Read the screen off a photo'), photo);
const field = () => screen.getByLabelText<HTMLTextAreaElement>('Firmware screen, a line each');

beforeEach(() => {
  vi.clearAllMocks();
  vi.stubGlobal('createImageBitmap', () => Promise.resolve({ close: () => undefined }));
  show(<ScreenForm evidence={{ addTyped } as unknown as EvidenceState} />);
});

describe('a firmware screen', () => {
  test('off a photo is offered beside it, corrected, and only then added, with the photo', async () => {
    readLines.mockResolvedValue([
      'Total Memory  16384 MB',
      'DIMM_A1  8I92 MB  1200 MHz',
      'DIMM_B1  Not Installed',
    ]);
    await choose();
    expect(await screen.findByText(/compare each line with the photo/)).toBeDefined();
    expect(field().value).toBe('DIMM_A1 8192 MB 1200 MHz\nDIMM_B1 Not Installed');
    expect(screen.getByAltText('The firmware screen to compare with')).toBeDefined();
    expect(addTyped).not.toHaveBeenCalled();
    await userEvent.type(field(), '{Enter}B2 8 GB 1200');
    await userEvent.click(screen.getByRole('button', { name: 'Add 3 lines' }));
    expect(addTyped.mock.calls).toEqual([
      [
        'screen',
        `DIMM_A1 8192 MB 1200 MHz\nDIMM_B1 Not Installed\nB2 8 GB 1200`,
        [],
        'firmware screen',
        'aGk=',
      ],
    ]);
    expect(field().value).toBe('');
    expect(screen.queryByAltText('The firmware screen to compare with')).toBeNull();
  });

  test('typed, it needs no photo and keeps none', async () => {
    await userEvent.type(field(), 'A1 8 GB 1200');
    await userEvent.click(screen.getByRole('button', { name: 'Add 1 line' }));
    expect(addTyped.mock.calls).toEqual([
      ['screen', 'A1 8 GB 1200', [], 'firmware screen', undefined],
    ]);
  });

  test('another photo says what would mend it, and what was typed stays', async () => {
    await userEvent.type(field(), 'A1 8 GB');
    readLines.mockResolvedValue(['TOTAL 16.00', 'CASH 20.00']);
    await choose();
    expect(await screen.findByText('No slots were found on this photo')).toBeDefined();
    expect(field().value).toBe('A1 8 GB');
  });
});
