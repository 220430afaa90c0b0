import { matchRoutes, type RouteObject } from 'react-router';
import { Shelf } from '../shelf/Shelf.tsx';
import { lazyNamed, type LazyComponent } from '../ui/lazyNamed.tsx';
import { NotHere } from '../ui/NotHere.tsx';
import { whenTouched } from '../ui/whenTouched.ts';

const WithSound = lazyNamed('WithSound', () => import('../sound/WithSound.tsx'));
const PieceLayout = lazyNamed('PieceLayout', () => import('../piece/PieceLayout.tsx'));
const MapScreen = lazyNamed('MapScreen', () => import('../map/MapScreen.tsx'));
const SeamsScreen = lazyNamed('SeamsScreen', () => import('../seams/SeamsScreen.tsx'));
const Podium = lazyNamed('Podium', () => import('../podium/Podium.tsx'));
const RehearseScreen = lazyNamed('RehearseScreen', () => import('../rehearse/RehearseScreen.tsx'));
const Errata = lazyNamed('Errata', () => import('../map/panels/Errata.tsx'));
const BenchScreen = lazyNamed('BenchScreen', () => import('../bench/BenchScreen.tsx'));
const Backups = lazyNamed('Backups', () => import('../backups/Backups.tsx'));
const HandOut = lazyNamed('HandOut', () => import('../handout/HandOut.tsx'));

/** The screens by their addresses. */
export const ROUTES: RouteObject[] = [
  { path: '/', element: <Shelf /> },
  {
    ...shown(WithSound),
    children: [
      {
        path: '/piece/:pieceId',
        ...shown(PieceLayout),
        children: [
          { path: 'map', ...shown(MapScreen) },
          { path: 'seams', ...shown(SeamsScreen) },
          { path: 'errata', ...shown(Errata) },
          { path: 'bench', ...shown(BenchScreen) },
          { path: 'handout', ...shown(HandOut) },
          { path: 'podium', ...shown(Podium) },
        ],
      },
      { path: 'rehearse', ...shown(RehearseScreen) },
    ],
  },
  { path: 'backups', ...shown(Backups) },
  { path: '*', element: <NotHere /> },
];

whenTouched(() => void Promise.all([WithSound.load(), PieceLayout.load()]));

/** Loads all that is shown at an address at once, instead of one after the other as each is met. */
export async function loadScreensAt(pathname: string): Promise<void> {
  const matches = matchRoutes(ROUTES, pathname) ?? [];
  await Promise.all(matches.map(async ({ route }) => (route.handle as Handle | undefined)?.load()));
}

type Handle = Pick<LazyComponent<object>, 'load'>;

function shown(Screen: LazyComponent<object>): Pick<RouteObject, 'element' | 'handle'> {
  return { element: <Screen />, handle: { load: Screen.load } satisfies Handle };
}
