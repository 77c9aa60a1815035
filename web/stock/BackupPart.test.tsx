import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import type { BackupState } from '#contract/backups';
import { show } from '../../test/support/screen.tsx';
import { BackupLine } from '../ui/BackupLine.tsx';
import { BackupPart } from './BackupPart.tsx';

const ago = (days: number) => new Date(Date.now() - days * 86_400_000 - 1000).toISOString();
const fine: BackupState = {
  ...{ isKept: true, isRunning: false, problem: null },
  newest: { name: 'tembrix-20260501-120000.tar.gz', at: ago(0), size: 3_565_158, isGiven: false },
};
const aged = (days: number) => ({ ...fine, newest: { ...fine.newest, at: ago(days) } });

describe('the line on the bench', () => {
  test.each([
    ['none yet', { ...fine, newest: null }, 'There is no backup yet.'],
    ['four days old', aged(4), 'The newest backup is 4 days old.'],
    ['the last one failed', { ...fine, problem: 'No space' }, 'The last backup failed.'],
  ])('%s', async (_what, readBackups, text) => {
    show(<BackupLine />, { readBackups });
    expect((await screen.findByText(new RegExp(text))).textContent).toContain('See to it');
  });

  test.each([
    ['made today', fine],
    ['three days old', aged(3)],
    ['one being made', { ...aged(9), isRunning: true }],
    ['a made-up world', { ...fine, isKept: false, newest: null }],
  ])('says nothing: %s', async (_what, readBackups) => {
    const { server, container } = show(<BackupLine />, { readBackups });
    await waitFor(() => expect(server.asked).toHaveLength(1));
    await new Promise((turn) => setTimeout(turn, 20));
    expect(container.textContent).toBe('');
  });
});

describe('the backups of the shop', () => {
  test('are made at a press, watched while they are, and then the newest', async () => {
    const answers: Record<string, unknown> = {
      ...{ readBackups: { ...fine, newest: null }, listBackups: [] },
    };
    answers.makeBackup = () => {
      answers.readBackups = { ...fine, newest: null, isRunning: true };
      return answers.readBackups;
    };
    show(<BackupPart />, answers);
    await screen.findByText('There is no backup yet');
    await userEvent.click(screen.getByRole('button', { name: 'Back up now' }));
    const button = await screen.findByRole<HTMLButtonElement>('button', { name: 'Being made …' });
    expect(button.disabled).toBe(true);
    expect(screen.queryByRole('combobox')).toBeNull();
    Object.assign(answers, { readBackups: fine, listBackups: [fine.newest] });
    await screen.findByText(/3\.4 MB/, {}, { timeout: 10_000 });
    // And can be gone back to.
    expect(await screen.findByRole('combobox', { name: 'Go back to a backup' })).toBeDefined();
    expect(screen.getByRole('button', { name: 'Back up now' })).toBeDefined();
  });

  test('say why one failed, and what to look at', async () => {
    show(<BackupPart />, { readBackups: { ...fine, problem: 'No space is left.' } });
    expect((await screen.findByText('No space is left.')).textContent).toBeDefined();
    expect(screen.getByText(/disk is full/)).toBeDefined();
  });

  test('of a made-up world are not kept, but can be downloaded', async () => {
    show(<BackupPart />, { readBackups: { ...fine, isKept: false, newest: null } });
    await screen.findByText(/made-up world/);
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.getByRole('link').getAttribute('href')).toBe('/api/backup');
  });
});
