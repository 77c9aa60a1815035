import type { Content, TableCell } from 'pdfmake/interfaces.js';
import { channelsWord, gb } from '#core/explaining';
import type { ReportRow } from '#core/explaining';
import type { Placement } from '#core/machine';
import { lanesOf } from '#core/operating-point';
import type { Running } from '#core/operating-point';
import type { SlotChange } from '#core/planning';
import { COPPER, INK, LINE, MUTED, TEAL } from './palette.ts';

/** Slots side by side before another row of them starts. */
const SLOTS_A_ROW = 8;

/** What happens in a slot, as whoever owns the machine would say it. */
const CHANGE_WORDS: Readonly<Record<SlotChange['state'], (size: string) => string>> = {
  kept: (size) => `${size} stays`,
  added: (size) => `${size} new`,
  moved: (size) => `${size} moved here`,
  pulled: () => 'taken out',
  left: () => 'moved on',
  empty: () => 'empty',
};

/** The slots as they are and as they will be, one column a slot, in the board's own order. */
export function slotPicture(fitted: Placement, changes: readonly SlotChange[]): Content {
  const rows = Array.from({ length: Math.ceil(changes.length / SLOTS_A_ROW) }, (_, at) =>
    changes.slice(at * SLOTS_A_ROW, (at + 1) * SLOTS_A_ROW),
  );
  return rows.map((slots): Content => {
    const now = slots.map(({ slotId }) => fitted[slotId]);
    const cells = (head: string, texts: readonly TableCell[]): TableCell[] => [
      { text: head, bold: true },
      ...texts,
    ];
    return {
      table: {
        widths: [34, ...slots.map(() => '*')],
        body: [
          cells(
            '',
            slots.map(({ printedName }) => ({ text: printedName, bold: true })),
          ),
          cells(
            'Now',
            now.map((module) => ({
              text: module ? gb(module.capacity) : 'empty',
              color: module ? INK : MUTED,
            })),
          ),
          cells(
            'Then',
            slots.map(({ state, module }) => ({
              text: CHANGE_WORDS[state](module ? gb(module.capacity) : ''),
              ...(state === 'added' ? { fillColor: TEAL, color: 'white', bold: true } : {}),
              ...(state === 'moved' ? { fillColor: COPPER, color: 'white', bold: true } : {}),
              ...(state === 'pulled' || state === 'empty' || state === 'left'
                ? { color: MUTED }
                : {}),
            })),
          ),
        ],
      },
      margin: [0, 2, 0, 2],
      layout: {
        hLineColor: () => LINE,
        vLineColor: () => LINE,
        hLineWidth: () => 0.6,
        vLineWidth: () => 0.6,
      },
    };
  });
}

/** Colours of the channels, as on the screen; the words beside them say the same. */
const CHANNELS = [TEAL, '#3d3f8f', COPPER, '#35505a'];
const DULL = '#d9cfb8';
const LANE = 190;

/** One bar a channel, as long as it holds; coloured where channels work side by side. */
export function lanePicture(point: Running): Content {
  const longest = Math.max(...point.loads.map(({ capacity }) => capacity), 1);
  return lanesOf(point).map(({ channel, segments }, at): Content => {
    let x = 0;
    const bars = segments.map(({ share, width }) => {
      const bar = {
        ...{ type: 'rect' as const, x, y: 1, w: share * LANE, h: 8 },
        color: width > 1 ? (CHANNELS[at % CHANNELS.length] ?? TEAL) : DULL,
      };
      x += share * LANE;
      return bar;
    });
    const words = segments.map(
      ({ share, width }) => `${gb(share * longest)} ${channelsWord(width)}`,
    );
    return {
      columns: [
        { text: `Channel ${channel}`, width: 66 },
        {
          canvas: [{ type: 'rect', x: 0, y: 1, w: LANE, h: 8, lineColor: LINE }, ...bars],
          width: LANE + 10,
        },
        { text: words.length > 0 ? words.join(', ') : 'empty', width: '*' },
      ],
    };
  });
}

const BAR = 96;

/** Before and after of every test as two bars to one scale, two tests side by side. */
export function barPicture(rows: readonly ReportRow[]): Content {
  const halves = rows.flatMap((_, at) => (at % 2 === 0 ? [rows.slice(at, at + 2)] : []));
  return halves.map((pair): Content => ({
    columns: [...pair.map(bars), ...(pair.length === 1 ? [{ text: '' }] : [])],
    columnGap: 16,
    margin: [0, 1, 0, 3],
  }));
}

function bars({ test, name, before, after, change, means }: ReportRow): Content {
  const longest = Math.max(means.before ?? 0, means.after ?? 0) || 1;
  const bar = (label: string, value: number | undefined, text: string, color: string): Content => ({
    columns: [
      { text: label, width: 34, color: MUTED },
      {
        canvas: [
          {
            type: 'rect',
            x: 0,
            y: 2,
            w: Math.max(0.5, (BAR * (value ?? 0)) / longest),
            h: 7,
            color,
          },
        ],
        width: BAR + 6,
      },
      { text, width: '*' },
    ],
  });
  return {
    stack: [
      {
        text: [
          { text: test, bold: true },
          { text: `  ${name.toLowerCase()}`, color: MUTED },
        ],
      },
      bar('before', means.before, before, '#8d8778'),
      bar('now', means.after, after, COPPER),
      { text: change, bold: true },
    ],
    unbreakable: true,
  };
}
