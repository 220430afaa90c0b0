import { createContext, useContext, useMemo, useState, type ReactNode } from 'react';
import type { Act } from './act.ts';
import { useActs } from './ActsContext.tsx';
import { KeySheet } from './KeySheet.tsx';

const SheetContext = createContext<(() => void) | null>(null);

/** Opens the list of all that can be done, on every screen with the same key. */
export function SheetProvider({ children }: { readonly children: ReactNode }) {
  const [isOpen, setOpen] = useState(false);
  const open = useMemo(() => () => setOpen(true), []);
  useActs('app', [sheetAct(open)]);
  return (
    <SheetContext value={open}>
      {children}
      {isOpen && <KeySheet onClose={() => setOpen(false)} />}
    </SheetContext>
  );
}

function sheetAct(open: () => void): Act {
  return {
    id: 'app.keys',
    key: '/',
    alsoKeys: ['?'],
    name: 'all that can be done here, and its keys',
    group: 'Everywhere',
    does: open,
  };
}

/** The act that opens the list, for a screen's own button. */
export function useSheetAct(): Act {
  const open = useContext(SheetContext);
  if (!open) throw new Error('useSheetAct is used outside SheetProvider');
  return sheetAct(open);
}
