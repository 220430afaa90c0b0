import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { act, cleanup, render, screen } from '@testing-library/react';
import { Suspense, type ReactNode } from 'react';
import { ErrorBoundary } from '../app/ErrorBoundary.tsx';
import { lazyNamed, lazyPart } from './lazyNamed.tsx';

afterEach(cleanup);

const Chart = ({ of }: { readonly of: string }) => <p>a chart of {of}</p>;

/** What suspends at once is shown within an act that is awaited. */
const show = (shown: ReactNode) => act(async () => void (await Promise.resolve(render(shown))));

/** A module whose arrival the test decides. */
function onItsWay() {
  let arrive: () => void = () => undefined;
  let fail: (error: Error) => void = () => undefined;
  const load = jest.fn(
    () =>
      new Promise<{ Chart: typeof Chart }>((resolve, reject) => {
        arrive = () => resolve({ Chart });
        fail = reject;
      }),
  );
  return { load, arrive: () => arrive(), fail: (words: string) => fail(new Error(words)) };
}

describe.each([
  ['a screen', lazyNamed],
  ['a part', lazyPart],
] as const)('%s', (_name, lazy) => {
  test('is fetched when it is first shown, and once however often', async () => {
    const { load, arrive } = onItsWay();
    const Lazy = lazy('Chart', load);
    expect(load).not.toHaveBeenCalled();
    await show(
      <Suspense fallback="coming">
        <Lazy of="tempi" />
        <Lazy of="takes" />
      </Suspense>,
    );
    expect(load).toHaveBeenCalledTimes(1);
    await act(() => Promise.resolve(arrive()));
    expect(await screen.findByText('a chart of tempi')).toBeDefined();
    expect(screen.getByText('a chart of takes')).toBeDefined();
    expect(load).toHaveBeenCalledTimes(1);
  });

  test('is there with the first picture where it was shown before', async () => {
    const Lazy = lazy('Chart', () => Promise.resolve({ Chart }));
    await show(
      <Suspense fallback="coming">
        <Lazy of="tempi" />
      </Suspense>,
    );
    await screen.findByText('a chart of tempi');
    cleanup();
    render(<Lazy of="takes" />);
    expect(screen.getByText('a chart of takes')).toBeDefined();
  });
});

describe('a screen that is fetched ahead', () => {
  test('is there with the first picture', async () => {
    const Lazy = lazyNamed('Chart', () => Promise.resolve({ Chart }));
    await Lazy.load();
    render(<Lazy of="tempi" />);
    expect(screen.getByText('a chart of tempi')).toBeDefined();
  });

  test('is asked for anew when it is shown, where it could not be had', async () => {
    let isAway = true;
    const load = jest.fn(() => (isAway ? Promise.reject(new Error('away')) : Promise.resolve({ Chart })));
    const Lazy = lazyNamed('Chart', load);
    await Lazy.load();
    isAway = false;
    await show(
      <Suspense fallback="coming">
        <Lazy of="tempi" />
      </Suspense>,
    );
    expect(await screen.findByText('a chart of tempi')).toBeDefined();
    expect(load).toHaveBeenCalledTimes(2);
  });
});

describe('what could not be fetched', () => {
  beforeEach(() => void jest.spyOn(console, 'error').mockImplementation(() => undefined));
  afterEach(() => void jest.restoreAllMocks());

  test.each([
    ['a screen', lazyNamed],
    ['a part', lazyPart],
  ] as const)('%s is told where it would have stood', async (_name, lazy) => {
    const { load, fail } = onItsWay();
    const Lazy = lazy('Chart', load);
    await show(
      <ErrorBoundary place="here">
        <Suspense fallback="coming">
          <Lazy of="tempi" />
        </Suspense>
      </ErrorBoundary>,
    );
    await act(() => Promise.resolve(fail('this chart is not here')));
    expect((await screen.findByRole('alert')).textContent).toContain('this chart is not here');
  });
});

test('in the place of a part stands what is said until it is there', async () => {
  const { load, arrive } = onItsWay();
  const Lazy = lazyPart('Chart', load, 'drawing');
  const { container } = render(<Lazy of="tempi" />);
  expect(container.textContent).toBe('drawing');
  arrive();
  await screen.findByText('a chart of tempi');
  expect(container.textContent).toBe('a chart of tempi');
});
