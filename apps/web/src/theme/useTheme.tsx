import { useEffect } from 'react';
import { Kept, oneOf, useKept } from '../kept/kept.ts';

export type Theme = 'desk' | 'hall';
export const THEME_CHOICES = ['place', 'desk', 'hall'] as const;
export type ThemeChoice = (typeof THEME_CHOICES)[number];

const keptTheme = new Kept<ThemeChoice>('anchorbeat.theme', oneOf(THEME_CHOICES));

/** One theme for everywhere, or each place its own. */
export function useThemeChoice(): readonly [ThemeChoice, (choice: ThemeChoice) => void] {
  return useKept(keptTheme);
}

/** Dresses the page for a place, unless the director has chosen one theme for everywhere. */
export function usePlaceTheme(place: Theme): void {
  const [choice] = useThemeChoice();
  useEffect(() => {
    document.documentElement.dataset['theme'] = choice === 'place' ? place : choice;
  }, [choice, place]);
}
