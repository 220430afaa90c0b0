import type { Piece } from '@anchorbeat/core';
import type { PanelKind } from '../../store/mapSlice.ts';

interface PanelDefinition {
  readonly key: string;
  readonly name: string;
  readonly title: string;
}

/** What can be opened beside the line, each with its key; listed once. */
export const PANELS: { readonly [K in PanelKind]: PanelDefinition } = {
  about: { key: 'a', name: 'about', title: 'About the piece' },
  words: { key: 'd', name: 'in words', title: 'The piece in words' },
  table: { key: 'o', name: 'table', title: 'A table from a spreadsheet' },
  countOff: { key: 'z', name: 'count-off', title: 'Count-off' },
  checks: { key: 'c', name: 'checks', title: 'Checks' },
  history: { key: 'y', name: 'history', title: 'History' },
};

export const PANEL_KINDS = Object.keys(PANELS) as PanelKind[];

/** A panel may show on the line what the piece would become. */
export type Preview = (piece: Piece | null) => void;
