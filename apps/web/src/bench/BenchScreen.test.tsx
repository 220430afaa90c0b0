import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { BENCH_TOOLS, usualFields } from '@anchorbeat/core';
import { screen, within } from '@testing-library/react';
import { ofPiece, openPage, type TestPage } from '../test/page.tsx';
import { FakeServer } from '../test/fakeServer.ts';
import { BenchScreen } from './BenchScreen.tsx';

let page: TestPage;
afterEach(async () => {
  await page.close();
  localStorage.removeItem('anchorbeat.bench');
});

async function openBench(tool = ''): Promise<void> {
  const server = new FakeServer();
  const bars = [{ meter: '4/4', tempo: [{ tempo: 'quarter = 96' }] }, {}, { meter: '7/8 as 2+2+3' }];
  server.add('benched', { format: 'anchorbeat-piece', version: 1, title: 'Benched', bars });
  page = openPage(
    `/piece/benched/bench${tool}`,
    ofPiece({ path: 'bench', element: <BenchScreen /> }),
    server,
  );
  await screen.findByRole('heading', { level: 1, name: 'Bench' });
}

describe('the Bench', () => {
  test.each(BENCH_TOOLS.map((tool, index) => ({ name: tool.name, tool, key: String(index + 1) })))(
    '$name: its key opens it, its example works, and what does not read is refused at its field',
    async ({ tool, key }) => {
      await openBench(`?tool=${BENCH_TOOLS[Number(key) % BENCH_TOOLS.length]!.id}`);
      await page.user.keyboard(key);
      const card = await screen.findByRole('region', { name: tool.name });
      expect(within(card).queryByRole('alert')).toBeNull();
      const typed = tool.fields.find(({ id, choices }) => {
        if (choices) return false;
        const worked = tool.work({ ...usualFields(tool), [id]: '?!' });
        return !worked.ok && worked.problem.field === id;
      });
      if (!typed) return;
      const field = within(card).getByLabelText(typed.label);
      await page.user.clear(field);
      await page.user.type(field, '?!');
      const worked = tool.work({ ...usualFields(tool), [typed.id]: '?!' });
      expect(within(card).getByRole('alert').textContent).toBe(!worked.ok && worked.problem.message);
      expect(field.getAttribute('aria-invalid')).toBe('true');
      field.blur();
      await page.user.keyboard('z');
      expect(within(card).queryByRole('alert')).toBeNull();
    },
  );

  test('strokes are where keys and fingers came down, however late that is told and however long they stay', async () => {
    await openBench('?tool=finder');
    const strong = screen.getByRole('button', { name: 'Tap strong' });
    const weak = screen.getByRole('button', { name: 'Tap' });
    let nowMs = 0;
    const clock = jest.spyOn(Event.prototype, 'timeStamp', 'get').mockImplementation(() => nowMs);
    const finger = async (target: HTMLElement, downMs: number, upMs: number) => {
      nowMs = downMs;
      await page.user.pointer({ keys: '[MouseLeft>]', target });
      nowMs = upMs;
      await page.user.pointer({ keys: '[/MouseLeft]', target });
    };
    await finger(strong, 5000, 5090);
    await finger(weak, 5300, 5310);
    nowMs = 5602;
    await page.user.keyboard('{t>3/}');
    await finger(strong, 5900, 6140);
    clock.mockRestore();
    const beats = screen.getByLabelText('Beats');
    expect(beats).toHaveProperty('value', '0! 300 602 900!');
  });

  test('a tap button taps where it is pressed with a key', async () => {
    await openBench('?tool=finder');
    for (const name of ['Tap strong', 'Tap', 'Tap']) {
      screen.getByRole('button', { name }).focus();
      await page.user.keyboard('{Enter}');
    }
    expect(screen.getByLabelText('Beats')).toHaveProperty('value', expect.stringMatching(/^0! \d+ \d+$/));
  });

  test('what was typed is there again when one comes back', async () => {
    const tool = BENCH_TOOLS[0];
    await openBench();
    const [first] = within(screen.getByRole('region', { name: tool.name })).getAllByRole('textbox');
    await page.user.clear(first!);
    await page.user.type(first!, '5/8');
    await page.close();
    await openBench();
    const [again] = within(screen.getByRole('region', { name: tool.name })).getAllByRole('textbox');
    expect(again).toHaveProperty('value', '5/8');
  });
});
