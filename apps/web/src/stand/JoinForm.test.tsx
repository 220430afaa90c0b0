import { afterEach, describe, expect, jest, test } from '@jest/globals';
import type { JoinResponse } from '@anchorbeat/contract';
import { cleanup, render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { alertSays } from '../test/alert.ts';
import { JoinForm } from './JoinForm.tsx';
import type { JoinedStand } from './join.ts';

afterEach(cleanup);

const CODE = 'HKM479';
const OPENED = {
  ensembleName: 'Marrowick Haven Bells and Reeds',
  sections: ['Handbells', 'Reeds'],
  noteNames: 'quarter',
} as unknown as JoinResponse;

/** A phone at the door; the server opens to one code and gives whoever says a section a stand. */
function comeWith(code = '', isAway = false) {
  const asked: unknown[] = [];
  const server = (_path: string, { body }: { readonly body: string }) => {
    if (isAway) return Promise.reject(new TypeError('nobody answers'));
    const request = JSON.parse(body) as { code: string; section?: string };
    asked.push(request);
    const answer =
      request.code === CODE
        ? { ...OPENED, stand: request.section === undefined ? null : { token: 'a token' } }
        : { detail: 'No rehearsal has this code' };
    return Promise.resolve(new Response(JSON.stringify(answer)));
  };
  Object.assign(globalThis, { fetch: server });
  const onJoined = jest.fn<(stand: JoinedStand) => void>();
  render(<JoinForm code={code} onJoined={onJoined} onPractise={() => undefined} />);
  return { asked, onJoined, user: userEvent.setup({ delay: null }) };
}

describe('joining a rehearsal', () => {
  test('a code is typed as one likes, then the section is pressed', async () => {
    const { asked, onJoined, user } = comeWith();
    expect(screen.getByRole('button', { name: 'Join' })).toHaveProperty('disabled', true);
    await user.type(
      screen.getByLabelText(/^The code/),
      `${CODE.slice(0, 3).toLowerCase()} ${CODE.slice(3)}{Enter}`,
    );
    await user.type(await screen.findByLabelText(/^Your name/), 'Ada');
    await user.click(screen.getByRole('button', { name: 'Reeds' }));
    expect(asked).toEqual([{ code: CODE }, { code: CODE, section: 'Reeds', name: 'Ada' }]);
    await Promise.resolve();
    expect(onJoined.mock.calls[0]?.[0]).toMatchObject({
      code: CODE,
      token: 'a token',
      section: 'Reeds',
      name: 'Ada',
      ensembleName: OPENED.ensembleName,
    });
  });

  test('a link that carries the code asks by itself, once; another section is typed', async () => {
    const { asked, onJoined, user } = comeWith(CODE);
    await screen.findByText('What do you play?');
    expect(asked).toEqual([{ code: CODE }]);
    await user.type(screen.getByLabelText('Another section'), '  {Enter}');
    expect(asked).toHaveLength(1);
    await user.type(screen.getByLabelText('Another section'), 'Serpent {Enter}');
    await Promise.resolve();
    expect(onJoined.mock.calls[0]?.[0]).toMatchObject({ section: 'Serpent', name: '' });
  });

  test('a code that opens nothing says so, and another may be typed', async () => {
    const { user } = comeWith('QQQ333');
    await alertSays('No rehearsal has this code');
    await user.clear(screen.getByLabelText(/^The code/));
    await user.type(screen.getByLabelText(/^The code/), `${CODE}{Enter}`);
    expect(await screen.findByText('What do you play?')).toBeDefined();
    expect(screen.queryByRole('alert')).toBeNull();
  });

  test('where the server does not answer it asks for the hall’s network', async () => {
    comeWith(CODE, true);
    await alertSays(/in the network of the hall\?$/);
  });
});
