import { afterEach, expect, test } from '@jest/globals';
import { screen, waitFor } from '@testing-library/react';
import { Link, useParams } from 'react-router';
import { FakeServer } from '../test/fakeServer.ts';
import { newId, ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { useProof } from './PieceLayout.tsx';

let page: TestPage;
afterEach(() => page.close());

test('one piece after another is never shown as the one before it', async () => {
  const server = new FakeServer();
  const ids = [newId(), newId()] as const;
  for (const id of ids)
    server.add(id, {
      format: 'anchorbeat-piece',
      version: 1,
      title: `piece ${id}`,
      bars: [{ meter: '4/4' }],
    });
  const shown = new Set<string>();
  function Shown() {
    const { pieceId = '' } = useParams();
    shown.add(`${pieceId} as ${useProof().piece.title}`);
    return (
      <nav>
        {pieceId}
        {ids.map((id) => (
          <Link key={id} to={`/piece/${id}/shown`}>{`to ${id}`}</Link>
        ))}
      </nav>
    );
  }
  page = openPage(`/piece/${ids[0]}/shown`, ofPiece({ path: 'shown', element: <Shown /> }), server);
  // Back to the first it is known already, and still another.
  for (const id of [ids[1], ids[0]]) {
    await page.user.click(await screen.findByText(`to ${id}`));
    await waitFor(() => expect(screen.queryByText(id)).not.toBeNull());
  }
  expect([...shown].sort()).toEqual(ids.map((id) => `${id} as piece ${id}`).sort());
});
