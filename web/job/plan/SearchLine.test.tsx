import { cleanup, screen } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { queryForJob } from '#contract/jobPlan';
import { runToEnd } from '#core/planning';
import type { Offer, PlanQuery } from '#core/planning';
import { DEFAULT_TERMS } from '#core/quoting';
import { aJob } from '../../../test/support/aJob.ts';
import { desktop, labelled } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import { SearchLine } from './SearchLine.tsx';
import type { PlanContext } from './planContext.ts';

const offer = (id: string, label: string): Offer => ({
  ...{ id, module: labelled(label), price: 4500, units: 1 },
  ...{ stock: 'unknown', verified: false },
});

describe('a search through with', () => {
  const job = aJob();
  const told = (more: Partial<PlanQuery>) => {
    const query = { ...queryForJob(job, [], [], DEFAULT_TERMS), ...more };
    const search = {
      ...{ result: runToEnd(query), done: 1, isRunning: false, elapsedMs: 20 },
      ...{ empty: undefined, failure: undefined, stop: () => undefined, again: () => undefined },
    };
    show(<SearchLine search={search} context={{ job, query } as PlanContext} />);
    return screen.getByText(/every one that nothing beats/).closest('body')?.textContent;
  };

  test('nothing on offer says where offers come from, beside the plans that need none', () => {
    expect(told({})).toMatch(/catalogue and the drawer are empty.*import a supplier’s list/);
    expect(screen.getByRole('link', { name: 'Modules' }).getAttribute('href')).toBe('/modules');
  });

  test('offers of which none fits says so', () => {
    const [one, two] = ['8GB 1Rx8 PC4-2400T-SA1-11', '8GB 2Rx8 PC3-12800S-11-13-F3'].map((label) =>
      offer(label, label),
    ) as [Offer, Offer];
    expect(told({ offers: [one] })).toMatch(/The one module .* cannot be fitted/);
    cleanup();
    expect(told({ offers: [one, two] })).toMatch(/None of the 2 modules .* can be fitted/);
  });

  test('offers that fit, or no slot to fit any, says nothing of them', () => {
    expect(told({ offers: [offer('one', '8GB 1Rx8 PC4-2400T-UA1-11')] })).not.toMatch(/on offer/);
    cleanup();
    expect(told({ machine: desktop({ slots: [] }), fitted: {} })).not.toMatch(/on offer|are empty/);
  });
});
