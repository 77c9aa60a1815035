import type { FirmwareScreen, Seen, Status } from '../practice/index.ts';
import { CANNOT_WORDS } from './practice.ts';
import { figure, gb, list } from './words.ts';
import type { NameOf } from './words.ts';

/** What a machine shows at a moment. */
export function machineStatusText(status: Status): string {
  switch (status.type) {
    case 'off':
      return 'It is off.';
    case 'dark':
      return status.signal === 'memory'
        ? 'No picture. It signals: memory.'
        : 'No picture. It signals nothing of memory.';
    case 'restarting':
      return 'It starts, stops and starts over.';
    case 'training':
      return 'Dark screen, fans on, nothing else.';
    case 'up':
      return 'It starts, with a picture.';
  }
}

const screenSummary = ({ total, rate, setting }: FirmwareScreen): string =>
  `Firmware: ${gb(total)}, ${rate} MHz, ${setting}.`;

/** What an act brought to light, in a line. */
export function seenText(seen: Seen, nameOf: NameOf, pieceName: NameOf): string {
  switch (seen.type) {
    case 'cannot':
      return CANNOT_WORDS[seen.why];
    case 'stopped':
      return 'Stopped before it did harm.';
    case 'done':
      return 'Done.';
    case 'answer':
      return seen.text === undefined ? '“I do not know.”' : `“${seen.text}”`;
    case 'looked': {
      const high = seen.slots.filter(({ pieceId, isHome }) => pieceId && !isHome);
      const said = [
        ...(high.length > 0
          ? [`${list(high.map(({ slotId }) => nameOf(slotId)))}: not level, one side stands up`]
          : ['every module sits level']),
        ...(seen.leadOff ? ['a lead inside is off'] : []),
        ...(seen.dusty ? ['heatsink and fan are full of dust'] : []),
      ];
      return `${list(said)}.`.replace(/^./, (first) => first.toUpperCase());
    }
    case 'sticker':
      return `It says: ${seen.text}`;
    case 'tables':
      return `${list(
        seen.rows.map(
          ({ name, capacity, rate }) =>
            `${name} ${capacity === undefined ? 'empty' : `${gb(capacity)}${rate ? ` at ${rate}` : ''}`}`,
        ),
      )}.`;
    case 'does not go in':
      return seen.because === 'turned'
        ? 'It does not go in: the notch is at the wrong end. Turn it round.'
        : 'It does not go in: the key is at another place. It is of another kind.';
    case 'broke':
      return `It gives way with a crack: ${pieceName(seen.pieceId)} is broken.`;
    case 'status':
      return machineStatusText(seen.status);
    case 'firmware':
      return `${screenSummary(seen.screen)} ${list(
        seen.screen.rows.map(
          ({ name, capacity }) => `${name} ${capacity === undefined ? 'empty' : gb(capacity)}`,
        ),
      )}.`;
    case 'notes':
      return seen.namesMemory
        ? 'A newer firmware is out; its notes name memory.'
        : 'Nothing newer that names memory.';
    case 'system':
      return `${gb(seen.installed)} fitted, ${gb(seen.usable)} to use${
        seen.limitedBy === 'system'
          ? '; a 32-bit system'
          : seen.limitedBy === 'start option'
            ? '; a start option limits it'
            : ''
      }.`;
    case 'log':
      return LOG_WORDS[seen.says];
    case 'measured':
      return 'The measuring page has its figures.';
    case 'test':
      return seen.errors === 'none'
        ? 'The memory test passed.'
        : seen.errors === 'all over'
          ? 'The memory test found errors all over.'
          : `The memory test found errors, all within ${nameOf(seen.errors.slotId)}.`;
    case 'delivered':
      return `It came: ${list(seen.pieces.map((id) => pieceName(id)))}.`;
    case 'handed over':
      return 'It is the customer’s again.';
  }
}

const LOG_WORDS = {
  'memory errors': 'The log names memory errors.',
  'far too warm': 'The log says throttled; the heatsink is too hot to touch.',
  'drive or program': 'The log names the drive.',
  nothing: 'The log is quiet, and nothing is warm.',
} as const;

/** What a measuring page drew, in words. */
export const drawnText = (bandwidth: number): string => `${figure(bandwidth)} GB/s read`;
