import { Suspense } from 'react';
import { Route, Routes, useLocation } from 'react-router';
import { ActsProvider } from '../acts/ActsContext.tsx';
import { SheetProvider } from '../acts/SheetProvider.tsx';
import { InputsProvider } from '../input/Inputs.tsx';
import { Shelf } from '../shelf/Shelf.tsx';
import { NotHere } from '../ui/NotHere.tsx';
import { ErrorBoundary } from './ErrorBoundary.tsx';
import { FirstSight } from './FirstSight.tsx';
import { HearingNote } from './HearingNote.tsx';
import { RehearsalStrip } from '../rehearse/RehearsalStrip.tsx';
import { Rail } from './Rail.tsx';
import { Toasts } from './Toasts.tsx';
import { lazyNamed } from '../ui/lazyNamed.ts';
import { whenTouched } from '../ui/whenTouched.ts';

/** A screen is loaded when it is first gone to; what all need with the first touch. */
const loadSound = () => import('../sound/WithSound.tsx');
const loadPiece = () => import('../piece/PieceLayout.tsx');
const WithSound = lazyNamed('WithSound', loadSound);
const PieceLayout = lazyNamed('PieceLayout', loadPiece);
whenTouched(() => void Promise.all([loadSound(), loadPiece()]).catch(() => undefined));
const MapScreen = lazyNamed('MapScreen', () => import('../map/MapScreen.tsx'));
const SeamsScreen = lazyNamed('SeamsScreen', () => import('../seams/SeamsScreen.tsx'));
const Podium = lazyNamed('Podium', () => import('../podium/Podium.tsx'));
const RehearseScreen = lazyNamed('RehearseScreen', () => import('../rehearse/RehearseScreen.tsx'));
const Errata = lazyNamed('Errata', () => import('../map/panels/Errata.tsx'));
const BenchScreen = lazyNamed('BenchScreen', () => import('../bench/BenchScreen.tsx'));
const Backups = lazyNamed('Backups', () => import('../backups/Backups.tsx'));
const HandOut = lazyNamed('HandOut', () => import('../handout/HandOut.tsx'));

export function App() {
  const { pathname } = useLocation();
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
                    <Routes>
                      <Route path="/" element={<Shelf />} />
                      <Route element={<WithSound />}>
                        <Route path="/piece/:pieceId" element={<PieceLayout />}>
                          <Route path="map" element={<MapScreen />} />
                          <Route path="seams" element={<SeamsScreen />} />
                          <Route path="errata" element={<Errata />} />
                          <Route path="bench" element={<BenchScreen />} />
                          <Route path="handout" element={<HandOut />} />
                          <Route path="podium" element={<Podium />} />
                        </Route>
                        <Route path="rehearse" element={<RehearseScreen />} />
                      </Route>
                      <Route path="backups" element={<Backups />} />
                      <Route path="*" element={<NotHere />} />
                    </Routes>
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
