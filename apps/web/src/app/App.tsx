import { Suspense } from 'react';
import { useLocation, useRoutes } from 'react-router';
import { ActsProvider } from '../acts/ActsContext.tsx';
import { SheetProvider } from '../acts/SheetProvider.tsx';
import { InputsProvider } from '../input/Inputs.tsx';
import { ErrorBoundary } from './ErrorBoundary.tsx';
import { FirstSight } from './FirstSight.tsx';
import { HearingNote } from './HearingNote.tsx';
import { RehearsalStrip } from '../rehearse/RehearsalStrip.tsx';
import { Rail } from './Rail.tsx';
import { ROUTES } from './routes.tsx';
import { Toasts } from './Toasts.tsx';
import { useSentWaiting } from './useSentWaiting.ts';

export function App() {
  const { pathname } = useLocation();
  useSentWaiting();
  return (
    <ActsProvider>
      <InputsProvider>
        <SheetProvider>
          <div className="flex h-full flex-col-reverse sm:flex-row">
            <Rail />
            <div className="flex min-h-0 min-w-0 flex-1 flex-col">
              <RehearsalStrip />
              <FirstSight />
              <div className="min-h-0 flex-1">
                <ErrorBoundary place={pathname}>
                  <Suspense fallback={<p className="p-10 text-quiet">Opening …</p>}>
                    {useRoutes(ROUTES)}
                  </Suspense>
                </ErrorBoundary>
              </div>
            </div>
            <HearingNote />
            <Toasts />
          </div>
        </SheetProvider>
      </InputsProvider>
    </ActsProvider>
  );
}
