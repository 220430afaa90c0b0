import { afterEach, describe, expect, test } from '@jest/globals';
import { screen, waitFor, within } from '@testing-library/react';
import { FakeServer } from '../test/fakeServer.ts';
import { openPage, type TestPage } from '../test/page.tsx';
import { Backups } from './Backups.tsx';

let page: TestPage;
afterEach(() => page.close());

function openBackups(prepare: (server: FakeServer) => void = () => undefined): void {
  const server = new FakeServer();
  prepare(server);
  page = openPage('/backups', [{ path: 'backups', element: <Backups /> }], server);
}

const rows = () =>
  within(screen.getByRole('list', { name: 'Backups, newest first' })).queryAllByRole('listitem');
const press = (name: string) => page.user.click(screen.getByRole('button', { name }));

describe('backups', () => {
  test('are told with when, why and how large; one is made by key', async () => {
    openBackups((server) =>
      server.backups.push({ name: 'old', madeAt: '2026-11-02T03:00:00.000Z', reason: 'daily', bytes: 834 }),
    );
    await waitFor(() => expect(rows()).toHaveLength(1));
    expect(rows()[0]?.textContent).toMatch(/2 November 2026.*made by itself, once a day1 kB/);
    await page.user.keyboard('n');
    await waitFor(() => expect(rows()).toHaveLength(2));
    expect(rows()[0]?.textContent).toMatch(/made by hand2.0 MB/);
    expect(page.toasts).toEqual(['A backup was made']);
  });

  test('going back to one is asked about first, and done by its name', async () => {
    openBackups((server) =>
      server.backups.push({
        name: 'last week',
        madeAt: '2026-11-22T03:00:00.000Z',
        reason: 'daily',
        bytes: 9e6,
      }),
    );
    await waitFor(() => expect(rows()).toHaveLength(1));
    await press('Go back to it');
    expect((await screen.findByRole('dialog')).textContent).toContain(
      'Everything becomes as it was on 22 November',
    );
    await press('Leave it');
    expect(page.server.changes).toEqual([]);
    await press('Go back to it');
    await page.user.click(await screen.findByRole('button', { name: 'Go back' }));
    await waitFor(() => expect(page.toasts.at(-1)).toMatch(/^Everything is as it was on 22 November/));
    expect(page.server.changes).toEqual(['POST backups/last week/restore']);
  });

  test('where there is none, or nobody answers, that is said', async () => {
    openBackups();
    expect(await screen.findByText('There is none yet.')).toBeDefined();
    await page.close();
    openBackups((server) => (server.isAway = true));
    expect(await screen.findByText(/The server does not answer/)).toBeDefined();
  });
});

describe('an ensemble as one file', () => {
  test('is saved by its link', async () => {
    openBackups();
    const link = await screen.findByRole('link', { name: 'Save its archive' });
    expect(link.getAttribute('href')).toBe('/api/ensembles/the ensemble/archive');
  });

  test('an archive is looked at before it is brought back; what is none is refused in the server’s words', async () => {
    openBackups();
    const file = await screen.findByLabelText<HTMLInputElement>('An archive to bring back');
    await page.user.upload(file, new File(['no archive'], 'torn.zip', { type: 'application/zip' }));
    await waitFor(() => expect(page.toasts.at(-1)).toBe('This is no archive of an ensemble'));
    expect(screen.queryByRole('dialog')).toBeNull();
    await page.user.upload(file, new File([FakeServer.ARCHIVE], 'kept.zip', { type: 'application/zip' }));
    const dialog = await screen.findByRole('dialog', { name: /^Bring Quay Street Choir back\?/ });
    expect(within(dialog).getByRole('list', { name: 'What would change' }).textContent).not.toBe('');
    await page.user.click(within(dialog).getByRole('button', { name: 'Bring it back' }));
    await waitFor(() => expect(page.toasts.at(-1)).toBe('Quay Street Choir was brought back'));
    expect(page.server.changes).toEqual([
      'POST archives/look',
      'POST archives/look',
      'POST archives/restore',
    ]);
  });
});
