/** How a tempo stands to the one before it, where words say so and no note values do. */
export type TempoProportion = 'double' | 'half' | 'same';

const NOT_A_FEEL = '(?!.*\\bfeel\\b)';
const DOUBLE = new RegExp(
  `^${NOT_A_FEEL}(?:al\\s+)?(?:doppio\\s+(?:movimento|tempo|valore|pi[uù]\\s+(?:mosso|vivo|presto|veloce))|double[\\s-]*(?:tempo|time)|twice\\s+as\\s+fast|doppelt(?:es\\s+tempo|\\s+so\\s+schnell)|deux\\s+fois\\s+plus\\s+vite)\\b`,
  'i',
);
const HALF = new RegExp(
  `^${NOT_A_FEEL}(?:half[\\s-]*(?:tempo|time)|half\\s+as\\s+fast|twice\\s+as\\s+slow|(?:alla\\s+|la\\s+)?met[aà]\\s+(?:del\\s+)?(?:tempo|movimento)|doppio\\s+(?:(?:pi[uù]\\s+)?lento|meno\\s+mosso)|halbes\\s+tempo|halb\\s+so\\s+schnell|deux\\s+fois\\s+(?:plus\\s+lent|moins\\s+vite))`,
  'i',
);
const SAME =
  /^(?:l\s*[’'`]\s*istesso|lo\s+stesso|(?:il\s+)?medesimo|istesso|stesso|(?:the\s+)?same)\s+(?:tempo|movimento|beat|pulse)\b/i;

/** "doppio movimento", "half tempo", "l’istesso tempo" and their kin; null for other words. */
export function tempoProportionMaybe(words: string): TempoProportion | null {
  const text = words.trim();
  if (HALF.test(text)) return 'half';
  if (DOUBLE.test(text)) return 'double';
  return SAME.test(text) ? 'same' : null;
}
