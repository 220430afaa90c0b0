import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';

export type Theme = 'desk' | 'hall';
export type ThemeChoice = Theme | 'place';

const KEY = 'anchorbeat.theme';

interface ThemeValue {
  readonly choice: ThemeChoice;
  readonly choose: (choice: ThemeChoice) => void;
}

const ThemeContext = createContext<ThemeValue>({ choice: 'place', choose: () => undefined });

export function ThemeProvider({ children }: { readonly children: ReactNode }) {
  const [choice, setChoice] = useState<ThemeChoice>(
    () => (localStorage.getItem(KEY) as ThemeChoice | null) ?? 'place',
  );
  const value = useMemo(
    () => ({
      choice,
      choose: (next: ThemeChoice) => {
        localStorage.setItem(KEY, next);
        setChoice(next);
      },
    }),
    [choice],
  );
  return <ThemeContext value={value}>{children}</ThemeContext>;
}

export function useThemeChoice(): ThemeValue {
  return useContext(ThemeContext);
}

/** Dresses the page for a place, unless the director has chosen one theme for everywhere. */
export function usePlaceTheme(place: Theme): void {
  const { choice } = useThemeChoice();
  useEffect(() => {
    document.documentElement.dataset['theme'] = choice === 'place' ? place : choice;
  }, [choice, place]);
}
