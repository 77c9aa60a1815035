import { describe, expect, test } from 'vitest';
import { readLabel } from './index.ts';

// What each piece of a label is taken for, and what is said of the rest: all that a reader shows, held
// word for word. A piece that merely contains one of the known forms is not that form.

const said = (text: string) => {
  const { understood, findings } = readLabel(text);
  return {
    understood: understood.map((one) => `${one.text} = ${one.meaning}`).join(' · '),
    findings: findings
      .map(({ type, severity, ...rest }) =>
        [
          `${severity}:`,
          type,
          ...Object.values(rest).map((value) => [value].flat().join('/')),
        ].join(' '),
      )
      .join(' · '),
  };
};

/** A label a block; after `=` what its pieces are taken for, after `!` what is said of it. */
const READINGS = `
2x8GB 16GB 1Rx8 PC4-2400T-UA1-11 TV-8U24
  = 2X8GB = 2 modules of 8 GB · 16GB = the pack's 16 GB · 1RX8 = 1 rank of x8 chips · PC4-2400T-UA1-11 = DDR4-2400 CL17, unbuffered DIMM · TV-8U24 = part number
16GB (1x16GB) DDR4-2400
  = 16GB = capacity 16 GB · 1X16GB = 1 module of 16 GB · DDR4-2400 = DDR4 at 2400 MT/s
  ! note: assumed timings CL 17 · note: assumed form factor DIMM
4x8GB 16GB DDR4-2400
  = 4X8GB = 4 modules of 8 GB · 16GB = capacity 16 GB · DDR4-2400 = DDR4 at 2400 MT/s
  ! error: conflict capacity 8 16 · note: assumed timings CL 17 · note: assumed form factor DIMM
8GB 2Rx16 PC3L-12800S-11-13-F3
  = 8GB = capacity 8 GB · 2RX16 = 2 ranks of x16 chips · PC3L-12800S-11-13-F3 = DDR3L-1600 CL11, unbuffered SODIMM (12800 MB/s)
2GB PC2-6400E-666-12
  = 2GB = capacity 2 GB · PC2-6400E-666-12 = DDR2-800 CL6, unbuffered ECC DIMM (6400 MB/s)
8GB x16 PC4-25600 CL22
  = 8GB = capacity 8 GB · X16 = x16 chips · PC4-25600 = DDR4-3200 (25600 MB/s) · CL22 = CL 22
  ! note: assumed form factor DIMM
16GB 2S4Rx4 PC4-2666V-RB2-12
  = 16GB = capacity 16 GB · 2S4RX4 = 2 ranks of x4 chips · PC4-2666V-RB2-12 = DDR4-2666 CL19, registered ECC DIMM
64GB 4DRx4 PC4-2666V-LB0-12
  = 64GB = capacity 64 GB · 4DRX4 = 4 ranks of x4 chips · PC4-2666V-LB0-12 = DDR4-2666 CL19, load-reduced ECC DIMM
8GB DDR4-3200MHz CL16-18-18-38 1.35V
  = 8GB = capacity 8 GB · DDR4-3200MHZ = DDR4 at 3200 MT/s · CL16-18-18-38 = CL 16, further timings · 1.35V = 1.35 V
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4 3200MHZ C16
  = 8GB = capacity 8 GB · DDR4 = DDR4 · 3200MHZ = 3200 MT/s (labels print the data rate as MHz) · C16 = CL 16
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4 3200 16-18-18-38
  = 8GB = capacity 8 GB · DDR4 = DDR4 · 3200 = 3200 MT/s · 16-18-18-38 = CL 16, further timings
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4 3200 MT/s 1,35V
  = 8GB = capacity 8 GB · DDR4 = DDR4 · 3200MT/S = 3200 MT/s · 1.35V = 1.35 V
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · caution: profile-without-cl 3200 · note: assumed form factor DIMM
8GB DDR4 3200MTS 1.2V
  = 8GB = capacity 8 GB · DDR4 = DDR4 · 3200MTS = 3200 MT/s · 1.2V = 1.2 V
  ! note: assumed timings CL 22 · note: assumed form factor DIMM
16GB DDR5-4800 CL40 profile 6000 CL30-38-38-96 1.35V
  = 16GB = capacity 16 GB · DDR5-4800 = DDR5 at 4800 MT/s · CL40 = CL 40 · PROFILE = overclock profile follows · 6000 = 6000 MT/s · CL30-38-38-96 = CL 30, further timings · 1.35V = 1.35 V
  ! note: assumed form factor DIMM
8GB DDR4-2400 standard CL16
  = 8GB = capacity 8 GB · DDR4-2400 = DDR4 at 2400 MT/s · STANDARD = standard bin · CL16 = CL 16
  ! note: assumed form factor DIMM
8GB SODIMM DDR4-2666 260pin ECC
  = 8GB = capacity 8 GB · SODIMM = SODIMM · DDR4-2666 = DDR4 at 2666 MT/s · 260PIN = SODIMM · ECC = ECC
  ! note: assumed timings CL 19
4GB DDR3L 204-pin 1600
  = 4GB = capacity 4 GB · DDR3L = DDR3L · 204PIN = SODIMM · 1600 = 1600 MT/s
  ! note: assumed timings CL 11
8GB DDR4-2400 288PIN
  = 8GB = capacity 8 GB · DDR4-2400 = DDR4 at 2400 MT/s · 288PIN = DIMM
  ! note: assumed timings CL 17
8 GB MEMORY MODULE FOR PC DDR4-2400
  = 8GB = capacity 8 GB · DDR4-2400 = DDR4 at 2400 MT/s
  ! note: assumed timings CL 17 · note: assumed form factor DIMM
512MB DDR2-667 - non ECC
  = 512MB = capacity 0.5 GB · DDR2-667 = DDR2 at 667 MT/s · NON-ECC = no ECC
  ! note: assumed timings CL 5 · note: assumed form factor DIMM
0.25GB DDR2-400
  = 0.25GB = capacity 0.25 GB · DDR2-400 = DDR2 at 400 MT/s
  ! note: assumed timings CL 3 · note: assumed form factor DIMM
8GB LPDDR4X-4266 soldered
  = 8GB = capacity 8 GB · LPDDR4X-4266 = LPDDR4X at 4266 MT/s · SOLDERED = soldered
  ! note: assumed timings CL 36
16GB LPDDR5 compression one-channel 6400
  = 16GB = capacity 16 GB · LPDDR5 = LPDDR5 · COMPRESSION = compression · ONE-CHANNEL = 1 channel · 6400 = 6400 MT/s
  ! note: assumed timings CL 54
32GB DDR5-5600 compression two-channel
  = 32GB = capacity 32 GB · DDR5-5600 = DDR5 at 5600 MT/s · COMPRESSION = compression · TWO-CHANNEL = 2 channels
  ! note: assumed timings CL 46
16GB RDIMM DDR4-2133
  = 16GB = capacity 16 GB · RDIMM = DIMM, registered, ECC · DDR4-2133 = DDR4 at 2133 MT/s
  ! note: assumed timings CL 15
32GB LRDIMM DDR4-2133
  = 32GB = capacity 32 GB · LRDIMM = DIMM, load-reduced, ECC · DDR4-2133 = DDR4 at 2133 MT/s
  ! note: assumed timings CL 15
8GB UDIMM DDR4-2133 UNBUFFERED
  = 8GB = capacity 8 GB · UDIMM = DIMM, unbuffered · DDR4-2133 = DDR4 at 2133 MT/s · UNBUFFERED = unbuffered
  ! note: assumed timings CL 15
8GB SO-DIMM DDR4-2133 load-reduced
  = 8GB = capacity 8 GB · SO-DIMM = SODIMM · DDR4-2133 = DDR4 at 2133 MT/s · LOAD-REDUCED = load-reduced
  ! note: assumed timings CL 15
8GB 2400 DDR4
  = 8GB = capacity 8 GB · DDR4 = DDR4 · 2400 = 2400 MT/s
  ! note: assumed timings CL 17 · note: assumed form factor DIMM
8GB DDR42400
  = 8GB = capacity 8 GB · DDR42400 = DDR4 at 2400 MT/s
  ! note: assumed timings CL 17 · note: assumed form factor DIMM
XPC4-2400T
  = XPC4-2400T = part number
  ! error: missing capacity · error: missing generation
8GBX
  ! caution: not-understood 8GBX · error: missing capacity · error: missing generation
A8GB
  ! caution: not-understood A8GB · error: missing capacity · error: missing generation
DDR4-2400X
  = DDR4-2400X = part number
  ! error: missing capacity · error: missing generation
XDDR4-2400
  = XDDR4-2400 = part number
  ! error: missing capacity · error: missing generation
1RX8B
  = 1RX8B = part number
  ! error: missing capacity · error: missing generation
A1RX8
  = A1RX8 = part number
  ! error: missing capacity · error: missing generation
AX8
  ! caution: not-understood AX8 · error: missing capacity · error: missing generation
X8A
  ! caution: not-understood X8A · error: missing capacity · error: missing generation
12X8GB
  = 12X8GB = part number
  ! error: missing capacity · error: missing generation
8.55.5GB
  = 8.55.5GB = part number
  ! error: missing capacity · error: missing generation
11.2V
  = 11.2V = part number
  ! error: missing capacity · error: missing generation
1.2VX
  = 1.2VX = part number
  ! error: missing capacity · error: missing generation
1.2345V
  = 1.2345V = part number
  ! error: missing capacity · error: missing generation
123400MHZ
  = 123400MHZ = part number
  ! error: missing capacity · error: missing generation
A3200MHZ
  = A3200MHZ = part number
  ! error: missing capacity · error: missing generation
3200MHZA
  = 3200MHZA = part number
  ! error: missing capacity · error: missing generation
240PINX
  = 240PINX = part number
  ! error: missing capacity · error: missing generation
A240PIN
  = A240PIN = part number
  ! error: missing capacity · error: missing generation
PC9-2400
  = PC9-2400 = part number
  ! error: missing capacity · error: missing generation
PC-2400
  = PC-2400 = part number
  ! error: missing capacity · error: missing generation
DDR9-2400
  = DDR9-2400 = part number
  ! error: missing capacity · error: missing generation
AB-1
  ! caution: not-understood AB-1 · error: missing capacity · error: missing generation
ABC12
  = ABC12 = part number
  ! error: missing capacity · error: missing generation
12345
  ! caution: not-understood 12345 · error: missing capacity · error: missing generation
ABCDE
  ! caution: not-understood ABCDE · error: missing capacity · error: missing generation
A1234/56-7_8.9
  = A1234/56-7_8.9 = part number
  ! error: missing capacity · error: missing generation
-A1234
  ! caution: not-understood -A1234 · error: missing capacity · error: missing generation
CL1234
  = CL1234 = part number
  ! error: missing capacity · error: missing generation
17-17
  ! caution: not-understood 17-17 · error: missing capacity · error: missing generation
17-17-17-39-1
  ! caution: not-understood 17-17-17-39-1 · error: missing capacity · error: missing generation
CL17-17-17-39-1
  = CL17-17-17-39-1 = part number
  ! error: missing capacity · error: missing generation
A17-17-17
  = A17-17-17 = part number
  ! error: missing capacity · error: missing generation
CL
  ! caution: not-understood CL · error: missing capacity · error: missing generation
C-16
  ! caution: not-understood C-16 · error: missing capacity · error: missing generation
17-A-17
  = 17-A-17 = part number
  ! error: missing capacity · error: missing generation
16GB ECC REG DDR4-2133 NON-ECC
  = 16GB = capacity 16 GB · ECC = ECC · REG = registered · DDR4-2133 = DDR4 at 2133 MT/s · NON-ECC = no ECC
  ! error: conflict ecc ECC no ECC · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4-2400 DIMM SODIMM
  = 8GB = capacity 8 GB · DDR4-2400 = DDR4 at 2400 MT/s · DIMM = DIMM · SODIMM = SODIMM
  ! error: conflict formFactor DIMM SODIMM · note: assumed timings CL 17
8GB DDR4-2400 CL17-17-17 CL18
  = 8GB = capacity 8 GB · DDR4-2400 = DDR4 at 2400 MT/s · CL17-17-17 = CL 17, further timings · CL18 = CL 18
  ! error: conflict timings 17-17-17 18 · note: assumed form factor DIMM
8GB 1.5GB DDR4-2400
  = 8GB = capacity 8 GB · 1.5GB = capacity 1.5 GB · DDR4-2400 = DDR4 at 2400 MT/s
  ! error: conflict capacity 8 1.5 · note: assumed timings CL 17 · note: assumed form factor DIMM
8GB DDR4-2400 2666MHz
  = 8GB = capacity 8 GB · DDR4-2400 = DDR4 at 2400 MT/s · 2666MHZ = 2666 MT/s (labels print the data rate as MHz)
  ! error: conflict rate 2400 2666 · note: assumed timings CL 17 · note: assumed form factor DIMM
8GB DDR4 DDR3
  = 8GB = capacity 8 GB · DDR4 = DDR4 · DDR3 = DDR3
  ! error: conflict generation DDR4 DDR3 · note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4-100
  = 8GB = capacity 8 GB · DDR4-100 = DDR4 at 100 MT/s
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · caution: profile-without-cl 100 · note: assumed form factor DIMM
8GB DDR4-20000
  = 8GB = capacity 8 GB · DDR4-20000 = DDR4 at 20000 MT/s
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · caution: profile-without-cl 20000 · note: assumed form factor DIMM
8GB DDR4-20001
  = 8GB = capacity 8 GB · DDR4-20001 = DDR4 at 20001 MT/s
  ! error: impossible-rate 20001 · note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4 99MHZ
  = 8GB = capacity 8 GB · DDR4 = DDR4 · 99MHZ = part number
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB PC2-6400S-6666
  = 8GB = capacity 8 GB · PC2-6400S-6666 = DDR2-800, unbuffered SODIMM (6400 MB/s)
  ! note: assumed timings CL 6
8GB PC2-6400S-1666
  = 8GB = capacity 8 GB · PC2-6400S-1666 = DDR2-800, unbuffered SODIMM (6400 MB/s)
  ! note: assumed timings CL 6
8GB PC3-12800S-9
  = 8GB = capacity 8 GB · PC3-12800S-9 = DDR3-1600 CL9, unbuffered SODIMM (12800 MB/s)
8GB PC3-12800S-111
  = 8GB = capacity 8 GB · PC3-12800S-111 = DDR3-1600, unbuffered SODIMM (12800 MB/s)
  ! note: assumed timings CL 11
8GB PC3-12800Q-9
  = 8GB = capacity 8 GB · PC3-12800Q-9 = DDR3-1600 CL9 (12800 MB/s)
  ! note: assumed form factor DIMM
8GB PC4-10000
  = 8GB = capacity 8 GB · PC4-10000 = DDR4-1600 (10000 MB/s)
  ! note: assumed timings CL 11 · note: assumed form factor DIMM
8GB PC4-9999
  = 8GB = capacity 8 GB · PC4-9999 = DDR4-9999
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · caution: profile-without-cl 9999 · note: assumed form factor DIMM
8GB PC4-2400
  = 8GB = capacity 8 GB · PC4-2400 = DDR4-2400
  ! note: assumed timings CL 17 · note: assumed form factor DIMM
8GB PC42400T-UA1
  = 8GB = capacity 8 GB · PC42400T-UA1 = DDR4-2400 CL17, unbuffered DIMM
24GB DDR3-1600
  = 24GB = capacity 24 GB · DDR3-1600 = DDR3 at 1600 MT/s
  ! error: impossible-capacity 24 16/32
6GB DDR4-2400
  = 6GB = capacity 6 GB · DDR4-2400 = DDR4 at 2400 MT/s
  ! error: impossible-capacity 6 4/8
0.1GB DDR2-400
  = 0.1GB = capacity 0.1 GB · DDR2-400 = DDR2 at 400 MT/s
  ! error: impossible-capacity 0.1 0.25
5000GB DDR5-4800
  = 5000GB = capacity 5000 GB · DDR5-4800 = DDR5 at 4800 MT/s
  ! error: impossible-capacity 5000 512
12GB DDR5-4800
  = 12GB = capacity 12 GB · DDR5-4800 = DDR5 at 4800 MT/s
  ! note: assumed timings CL 40 · note: assumed form factor DIMM
40GB DDR5-4800
  = 40GB = capacity 40 GB · DDR5-4800 = DDR5 at 4800 MT/s
  ! error: impossible-capacity 40 32/48
3GB DDR4-2400
  = 3GB = capacity 3 GB · DDR4-2400 = DDR4 at 2400 MT/s
  ! error: impossible-capacity 3 2/4
8GB DDR4-3600
  = 8GB = capacity 8 GB · DDR4-3600 = DDR4 at 3600 MT/s
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · caution: profile-without-cl 3600 · note: assumed form factor DIMM
8GB DDR4-3200 CL21
  = 8GB = capacity 8 GB · DDR4-3200 = DDR4 at 3200 MT/s · CL21 = CL 21
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4-3200 CL22 1.35V
  = 8GB = capacity 8 GB · DDR4-3200 = DDR4 at 3200 MT/s · CL22 = CL 22 · 1.35V = 1.35 V
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · note: assumed form factor DIMM
8GB DDR4-3200 1.35V
  = 8GB = capacity 8 GB · DDR4-3200 = DDR4 at 3200 MT/s · 1.35V = 1.35 V
  ! note: assumed rate 2133 MT/s · note: assumed timings CL 15 · caution: profile-without-cl 3200 · note: assumed form factor DIMM
`;

const readings = READINGS.trim()
  .split(/\n(?! )/)
  .map((block) => {
    const [label = '', ...lines] = block.split('\n');
    const after = (mark: string) =>
      lines.find((line) => line.startsWith(`  ${mark} `))?.slice(4) ?? '';
    return [label, after('='), after('!')] as const;
  });

test.each(readings)('%s', (label, understood, findings) => {
  expect(said(label)).toEqual({ understood, findings });
});

describe('a reading', () => {
  test('of nothing, or of far too much, understands nothing', () => {
    expect(readLabel(' ').understood).toEqual([]);
    expect(readLabel('8GB DDR4 '.repeat(50)).understood).toEqual([]);
    expect(readLabel('8GB DDR4-2400'.padEnd(400)).module?.rate).toBe(2400);
    expect(readLabel('8GB DDR4-2400'.padEnd(401)).module).toBeUndefined();
  });

  test('with any error gives no module, however much else was read', () => {
    for (const label of ['8GB DDR4-2400 DIMM SODIMM', '8GB 4GB DDR4-2400', 'DDR4-2400', '8GB'])
      expect(readLabel(label).module).toBeUndefined();
  });

  test.each([
    ['8GB DDR4-2400 CL17 profile 3200 CL16', { profile: { rate: 3200, voltageMv: 1200 } }],
    ['8GB DDR4 profile 3200 CL16 1.35V', { rate: 2133, profile: { voltageMv: 1350 } }],
    ['8GB DDR4 CL17', { rate: 2133, timings: { cl: 15 } }],
    ['8GB LPDDR4-3200 SODIMM', { formFactor: 'SODIMM' }],
    ['8GB LPDDR4-3200', { formFactor: 'soldered', assumed: ['timings'] }],
    ['8GB DDR4-2400', { timings: { cl: 17 }, assumed: ['timings', 'form factor'] }],
    ['16GB DDR5 compression', { channels: 2 }],
  ])('%s', (label, module) => {
    expect(readLabel(label).module).toMatchObject(module);
  });
});

test.each(['8GB DDR4-2400 CL17', '8GB DDR4-2400 CL17 profile 3200', '8GB DDR4-2400 profile CL16'])(
  '%s states no profile and no part number',
  (label) => {
    const fields = Object.keys(readLabel(label).module ?? {});
    expect(fields).toContain('timings');
    expect(fields).not.toContain('profile');
    expect(fields).not.toContain('partNumber');
  },
);
