import { render, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import * as codes from '../workers/readCodes.ts';
import { CodeReader } from './CodeReader.tsx';

const readCodes = vi.spyOn(codes, 'readCodes');
const seen = vi.fn();

/** A track that can be taken away, as a camera that is unplugged. */
class Track extends EventTarget {
  readonly stop = vi.fn();
}
let track: Track;
/** What the browser does when the page asks for a camera. */
const getUserMedia = vi.fn();
const refusal = (name: string) => Object.assign(new Error(name), { name });

beforeEach(() => {
  vi.clearAllMocks();
  track = new Track();
  getUserMedia.mockImplementation(() =>
    Promise.resolve(
      Object.assign(new MediaStream(), {
        getTracks: () => [track],
        getVideoTracks: () => [track],
      }),
    ),
  );
  vi.stubGlobal('createImageBitmap', () => Promise.resolve({ close: () => undefined }));
  vi.stubGlobal('isSecureContext', true);
  Object.defineProperty(navigator, 'mediaDevices', {
    value: { getUserMedia },
    configurable: true,
  });
  // A film that runs, as a window without one cannot show.
  const media = [
    vi.spyOn(HTMLMediaElement.prototype, 'play').mockResolvedValue(),
    vi.spyOn(HTMLMediaElement.prototype, 'readyState', 'get').mockReturnValue(4),
  ];
  Object.assign(HTMLMediaElement, { HAVE_CURRENT_DATA: 2 });
  return () => {
    Reflect.deleteProperty(HTMLMediaElement, 'HAVE_CURRENT_DATA');
    Reflect.deleteProperty(navigator, 'mediaDevices');
    for (const one of media) one.mockRestore();
  };
});

describe('a camera', () => {
  test('gives one text and is let go of', async () => {
    readCodes.mockResolvedValueOnce([]).mockResolvedValueOnce(['tag-7']);
    const { unmount } = render(<CodeReader onText={seen} />);
    await waitFor(() => expect(seen).toHaveBeenCalledWith('tag-7'));
    expect(readCodes).toHaveBeenCalledTimes(2);
    unmount();
    expect(track.stop).toHaveBeenCalled();
  });

  test('whose reader gives no answer says so, asks again, and goes on', async () => {
    readCodes.mockRejectedValueOnce(new Error('away')).mockResolvedValue(['tag-8']);
    render(<CodeReader onText={seen} />);
    expect(await screen.findByText(/gives no answer: the bench may be away/)).toBeDefined();
    await waitFor(() => expect(seen).toHaveBeenCalledWith('tag-8'), { timeout: 60_000 });
    expect(screen.queryByText(/gives no answer/)).toBeNull();
  });

  test.each([
    ['NotAllowedError', /was refused\. Allow it in the browser/],
    ['NotFoundError', /no camera on this device/],
    ['NotReadableError', /in use by another program/],
    ['AbortError', /could not be started/],
  ])('that is not to be had (%s) says why, and leaves the photo', async (name, words) => {
    getUserMedia.mockRejectedValue(refusal(name));
    render(<CodeReader onText={seen} />);
    expect((await screen.findByText(words)).textContent).toMatch(/photo/);
    expect(screen.getByLabelText('Take or choose a photo')).toBeDefined();
    expect(screen.queryByLabelText('What the camera sees')).toBeNull();
  });

  test('that is unplugged is said to be gone, and can be tried again', async () => {
    readCodes.mockResolvedValue([]);
    render(<CodeReader onText={seen} goesOn />);
    await waitFor(() => expect(readCodes).toHaveBeenCalled());
    track.dispatchEvent(new Event('ended'));
    expect(await screen.findByText(/camera is gone/)).toBeDefined();
    track = new Track();
    readCodes.mockResolvedValue(['tag-10']);
    await userEvent.click(screen.getByRole('button', { name: 'Try the camera again' }));
    await waitFor(() => expect(seen).toHaveBeenCalledWith('tag-10'));
    expect(screen.queryByText(/camera is gone/)).toBeNull();
  });

  test('is lent by no browser to a page that came unencrypted', () => {
    Reflect.deleteProperty(navigator, 'mediaDevices');
    vi.stubGlobal('isSecureContext', false);
    render(<CodeReader onText={seen} />);
    expect(screen.getByText(/no camera to pages without https/)).toBeDefined();
  });
});

test('a photo without a code, and one nobody could read, say what would help', async () => {
  Reflect.deleteProperty(navigator, 'mediaDevices');
  render(<CodeReader onText={seen} />);
  const take = async (name: string) =>
    userEvent.upload(
      screen.getByLabelText('Take or choose a photo'),
      new File(['photo'], name, { type: 'image/jpeg' }),
    );
  readCodes.mockResolvedValueOnce([]);
  await take('blurred.jpg');
  expect(await screen.findByText('No code was found in this photo')).toBeDefined();
  readCodes.mockRejectedValueOnce(new Error('away'));
  await take('away.jpg');
  expect(await screen.findByText('The code reader gave no answer')).toBeDefined();
  readCodes.mockResolvedValueOnce(['tag-9']);
  await take('sharp.jpg');
  await waitFor(() => expect(seen).toHaveBeenCalledWith('tag-9'));
  expect(screen.queryByText('The code reader gave no answer')).toBeNull();
});
