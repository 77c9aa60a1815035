import { screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { expect, test } from 'vitest';
import { money } from '#core/explaining';
import { DEFAULT_TERMS } from '#core/quoting';
import { show } from '../../test/support/screen.tsx';
import { useCurrency } from '../ui/useCurrency.ts';
import { WithTerms } from './WithTerms.tsx';

/** What a page shows first, noted each time. */
function Priced({ shown }: { readonly shown: string[] }) {
  const text = money(12_000, useCurrency());
  shown.push(text);
  return <p>{text}</p>;
}

test('amounts stand in the shop’s currency or not at all, also where it cannot be fetched at first', async () => {
  const shown: string[] = [];
  const { server } = show(
    <Routes>
      <Route element={<WithTerms />}>
        <Route path="/modules" element={<Priced shown={shown} />} />
      </Route>
    </Routes>,
    { readShop: { status: 503 } },
    '/modules',
  );
  await screen.findByText('Could not fetch the shop’s terms');
  const readShop = { terms: { ...DEFAULT_TERMS, currency: 'JPY' }, version: 1 };
  server.answers = { readShop };
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  await screen.findByText(money(12_000, 'JPY'));
  expect(new Set(shown)).toEqual(new Set([money(12_000, 'JPY')]));
});
