import { expect } from '@jest/globals';
import { screen, waitFor } from '@testing-library/react';

/** Waits until the place for what went wrong, which is there before anything did, says this. */
export function alertSays(words: string | RegExp): Promise<void> {
  return waitFor(() => {
    const { textContent } = screen.getByRole('alert');
    if (typeof words === 'string') expect(textContent).toBe(words);
    else expect(textContent).toMatch(words);
  });
}
