import { screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { expect, test } from 'vitest';
import { show } from '../../test/support/screen.tsx';
import { ListenForm } from './ListenForm.tsx';

const ADDRESSES = [
  { address: '192.0.2.7', name: 'eth0' },
  { address: '192.0.2.9', name: 'wlan0' },
];

function form(more: Partial<Parameters<typeof ListenForm>[0]> = {}) {
  const saved: unknown[] = [];
  const terms = { isOpen: false, address: '', port: 4880 };
  show(
    <ListenForm
      {...{ terms, addresses: ADDRESSES, url: null, fault: null, state: { type: 'idle' } }}
      onSave={(one) => saved.push(one)}
      {...more}
    />,
    {},
  );
  return saved;
}
const button = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name });

test('what is off is turned on at the address and port chosen', async () => {
  const saved = form();
  expect(screen.getByText('Off')).toBeDefined();
  expect(screen.queryByRole('button', { name: 'Turn off' })).toBeNull();
  await userEvent.selectOptions(screen.getByLabelText('Address of this computer'), '192.0.2.9');
  const port = screen.getByLabelText('Port');
  await userEvent.clear(port);
  for (const digit of '80') {
    await userEvent.type(port, digit);
    expect(button('Turn on network access').disabled).toBe(true);
  }
  expect(screen.getByText(/From 1024 to 65535/)).toBeDefined();
  await userEvent.type(port, '80');
  await userEvent.click(button('Turn on network access'));
  expect(saved).toEqual([{ isOpen: true, address: '192.0.2.9', port: 8080 }]);
});

test('what is on says where, and is moved or turned off', async () => {
  const terms = { isOpen: true, address: '192.0.2.7', port: 4880 };
  const saved = form({ terms, url: 'https://192.0.2.7:4880' });
  expect(screen.getByText('On, at https://192.0.2.7:4880')).toBeDefined();
  await userEvent.click(button('Turn off'));
  await userEvent.click(button('Change address'));
  expect(saved).toEqual([{ ...terms, isOpen: false }, terms]);
});

test('what should be on and is not says why', () => {
  form({ fault: 'Port 4880 is taken.' });
  expect(screen.getByRole('alert').textContent).toMatch(/Off, though.*Port 4880 is taken/);
});

test('what the settings of the computer say cannot be changed, nor a computer on no network', () => {
  form({ isFixed: true });
  expect(screen.queryByRole('button')).toBeNull();
  form({ addresses: [] });
  expect(button('Turn on network access').disabled).toBe(true);
});
