import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { jobBench } from '#contract/jobBench';
import type { Job, MachineRecord } from '#contract/records';
import type { CoverMap } from '#core/fitting';
import { Api } from './support/api.ts';
import { labelled } from './support/builders.ts';
import { pdfText } from './support/pdfText.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

/** A job with a plan: 16 GB into A1. */
async function planned(): Promise<Job> {
  const job = await api.jobWithFound();
  return api.ok('PUT', `/jobs/${job.id}/snapshots/planned`, {
    placement: { a1: labelled('16GB 2Rx8 PC4-3200AA-UB1-11') },
    ...{ setting: 'standard', version: 0 },
  });
}

describe('cover maps', () => {
  const map: CoverMap = {
    ...{ width: 360, height: 250, note: '' },
    parts: [
      {
        kind: 'fastener',
        id: 'p1',
        x: 10,
        y: 10,
        drive: 'star',
        size: 'T5',
        length: 4,
        captive: false,
        under: 'foot',
      },
      {
        kind: 'fastener',
        id: 'p2',
        x: 350,
        y: 10,
        drive: 'star',
        size: 'T5',
        length: 6,
        captive: false,
        under: 'nothing',
      },
      { kind: 'clip', id: 'p3', x: 180, y: 5 },
    ],
  };

  test('are kept with the machine, print true to scale, and name what is wrong with them', async () => {
    const job = await planned();
    const { id } = job.machine;
    expect((await api.fetch(`/machines/${id}/cover.pdf`)).status).toBe(404);
    const saved = await api.ok<MachineRecord>('PUT', `/machines/${id}/cover`, {
      coverMap: map,
      version: 1,
    });
    expect(saved.coverMap).toEqual(map);
    expect(
      (await api.problem('PUT', `/machines/${id}/cover`, { coverMap: map, version: 1 })).status,
    ).toBe(409);
    const outside = { ...map, parts: [{ ...map.parts[0], x: 400 }] };
    const fault = await api.problem('PUT', `/machines/${id}/cover`, {
      coverMap: outside,
      version: 2,
    });
    expect(JSON.stringify(fault)).toContain('lies outside the cover');

    const svg = await (await api.fetch(`/machines/${id}/cover.svg`)).text();
    expect(svg).toContain('width="360mm"');
    const pages = await pdfText(
      new Uint8Array(await (await api.fetch(`/machines/${id}/cover.pdf`)).arrayBuffer()),
    );
    // 360 mm do not fit on one A4 page at their true size.
    expect(pages.length).toBeGreaterThan(1);
    expect(pages.join(' ')).toContain('50 mm: print at 100 %');
    expect(pages.join(' ')).toContain('1 × star T5, 4 mm');

    // A map with no fasteners still opens and closes.
    const bare = await api.ok<MachineRecord>('PUT', `/machines/${id}/cover`, {
      coverMap: { ...map, parts: [] },
      version: 2,
    });
    const steps = jobBench({ ...job, machine: bare }, { entries: [], pulledTo: 'customer' }).sheet
      .steps;
    expect(steps.map(({ id: step }) => step)).toContain('lift the cover');
    expect(steps.map(({ id: step }) => step)).not.toContain('nothing left over');
  });

  test('a photo is told by its bytes; what is no picture or too large is refused in words', async () => {
    const { machine } = await planned();
    const path = `/machines/${machine.id}/photo`;
    const bytes = (start: number[], size: number) => {
      const all = Buffer.alloc(size);
      Buffer.from(start).copy(all);
      return { base64: all.toString('base64') };
    };
    const jpeg = [0xff, 0xd8, 0xff, 0xe0];
    expect((await api.ok<MachineRecord>('PUT', path, bytes(jpeg, 2000))).hasPhoto).toBe(true);
    const picture = await api.fetch(`${path}`);
    expect(picture.headers.get('content-type')).toBe('image/jpeg');
    expect((await picture.arrayBuffer()).byteLength).toBe(2000);
    expect((await api.problem('PUT', path, bytes([0x4d, 0x5a], 2000))).mend).toContain('JPEG');
    // A photo as a camera makes it, 10 MB: refused with the size that would do.
    expect(JSON.stringify(await api.problem('PUT', path, bytes(jpeg, 10e6)))).toContain('700 kB');
    // Larger than any request may be.
    expect((await api.problem('PUT', path, bytes(jpeg, 40e6))).status).toBe(413);
    expect((await api.ok<MachineRecord>('DELETE', path)).hasPhoto).toBe(false);
  });
});
