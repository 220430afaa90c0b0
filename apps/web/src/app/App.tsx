import { Suspense, useEffect } from 'react';
import { useLocation, useRoutes } from 'react-router';
import { ActsProvider } from '../acts/ActsContext.tsx';
import { SheetProvider } from '../acts/SheetProvider.tsx';
import { InputsProvider } from '../input/Inputs.tsx';
import { ErrorBoundary } from './ErrorBoundary.tsx';
import { FirstSight } from './FirstSight.tsx';
import { HearingNote } from './HearingNote.tsx';
import { RehearsalStrip } from '../rehearse/RehearsalStrip.tsx';
import { Rail } from './Rail.tsx';
import { sendWaitingDone } from '../store/doneLog.ts';
import { sendWaitingRuns } from '../store/runLog.ts';
import { useAppDispatch } from '../store/store.ts';
import { ROUTES } from './routes.tsx';
import { Toasts } from './Toasts.tsx';

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

/** What an earlier visit could not send, or whoever is no longer signed in, is sent once it is known who is here. */
function useSentWaiting(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    void sendWaitingRuns(dispatch);
    void sendWaitingDone(dispatch);
  }, [dispatch]);
}
