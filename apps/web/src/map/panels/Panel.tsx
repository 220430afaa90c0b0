import { useEffect, useRef, type ReactNode } from 'react';
import type { Act } from '../../acts/act.ts';
import { ActHint } from '../../acts/ActButton.tsx';
import { useActs } from '../../acts/ActsContext.tsx';
import { panelClosed, type PanelKind } from '../../store/mapSlice.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { About } from './About.tsx';
import { Checks } from './Checks.tsx';
import { CountOffStudio } from './CountOffStudio.tsx';
import { History } from './History.tsx';
import { PANELS, type Preview } from './panels.ts';
import { TablePanel } from './TablePanel.tsx';
import { lazyPart } from '../../ui/lazyNamed.tsx';

/** The editor is loaded when it is first opened. */
const Words = lazyPart('Words', () => import('./Words.tsx'), <p className="text-quiet">Opening …</p>);

/** What stands beside the line. Escape gives the line its room back. */
export function Panel({ onPreview }: { readonly onPreview: Preview }) {
  const kind = useAppSelector((state) => state.map.panel);
  const dispatch = useAppDispatch();
  const close = () => {
    onPreview(null);
    dispatch(panelClosed());
    document.querySelector<HTMLElement>('[role="listbox"]')?.focus();
  };
  const aside = useRef<HTMLElement>(null);
  useEffect(() => {
    if (!aside.current?.contains(document.activeElement)) aside.current?.focus();
  }, [kind]);
  const closeAct: Act = {
    id: 'panel.close',
    key: 'Escape',
    name: 'close what stands beside the line',
    label: 'close',
    group: 'Beside the line',
    may: kind !== null,
    does: close,
  };
  useActs('panel', [closeAct]);
  if (!kind) return null;
  return (
    <aside
      ref={aside}
      tabIndex={-1}
      data-layer
      aria-label={PANELS[kind].title}
      data-testid={`panel-${kind}`}
      className="absolute inset-0 z-10 flex flex-col bg-raised outline-none @3xl:static @3xl:w-[27rem] @3xl:max-w-[58cqw] @3xl:shrink-0 @3xl:border-l-2 @3xl:border-faint"
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || event.defaultPrevented) return;
        event.preventDefault();
        close();
      }}
    >
      <header className="flex flex-wrap items-baseline gap-x-3 px-5 pt-4 pb-2">
        <h2 className="text-xl font-bold">{PANELS[kind].title}</h2>
        <span className="ml-auto">
          <ActHint act={closeAct} />
        </span>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto px-5 pt-1 pb-5">{contentOf(kind, onPreview, close)}</div>
    </aside>
  );
}

function contentOf(kind: PanelKind, onPreview: Preview, close: () => void): ReactNode {
  switch (kind) {
    case 'words':
      return <Words onPreview={onPreview} onClose={close} />;
    case 'table':
      return <TablePanel onPreview={onPreview} />;
    case 'checks':
      return <Checks />;
    case 'history':
      return <History onPreview={onPreview} />;
    case 'countOff':
      return <CountOffStudio />;
    case 'about':
      return <About />;
  }
}
