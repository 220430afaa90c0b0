import { Chart } from 'chart.js';

/** A colour of the theme that is shown, as charts take it. */
export function themeColour(name: string): string {
  const themed = document.querySelector('[data-theme]') ?? document.documentElement;
  return getComputedStyle(themed).getPropertyValue(`--${name}`).trim();
}

/** Charts are lettered like the rest of the program. */
export function letterCharts(): void {
  Chart.defaults.font.family = getComputedStyle(document.body).fontFamily;
  Chart.defaults.font.size = 14;
}
