import { expect, test } from '@jest/globals';
import { act, render, screen } from '@testing-library/react';
import { Provider } from 'react-redux';
import { createStore } from './store.ts';
import { barBeat, settingsChanged } from './transportSlice.ts';
import { useTransport } from './useTransport.ts';

test('who asks what a beat does not change is not drawn anew at it', () => {
  const drawn = { still: 0, moving: 0 };
  function Still() {
    const { settings, playsAlong } = useTransport('settings', 'playsAlong');
    drawn.still++;
    return <p>{`${settings.percent} % ${playsAlong}`}</p>;
  }
  function Moving() {
    drawn.moving++;
    return <b>{useTransport('beatIndex', 'performed').beatIndex}</b>;
  }
  const store = createStore();
  render(
    <Provider store={store}>
      <Still />
      <Moving />
    </Provider>,
  );
  const before = { ...drawn };
  const beat = { phase: 'bar', performed: 0, intoSeconds: 0, waits: null } as const;
  for (const beatIndex of [1, 2, 3]) act(() => void store.dispatch(barBeat({ ...beat, beatIndex })));
  expect(drawn).toEqual({ still: before.still, moving: before.moving + 3 });
  expect(screen.getByText('3')).toBeDefined();
  act(() => void store.dispatch(settingsChanged({ percent: 80 })));
  expect(screen.getByText('80 % null')).toBeDefined();
});
