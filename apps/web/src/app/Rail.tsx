import { NavLink, useMatch, useNavigate } from 'react-router';
import type { Act } from '../acts/act.ts';
import { useShownKey } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useAppSelector } from '../store/store.ts';
import { THEME_CHOICES, useThemeChoice, type ThemeChoice } from '../theme/useTheme.tsx';
import { nextOf } from '../ui/nextOf.ts';

const THEME_NAMES: Readonly<Record<ThemeChoice, string>> = { place: 'By place', desk: 'Desk', hall: 'Hall' };

/** The places of the program, in order; the one kept between visits is that of the piece. */
const PLACES = [
  { key: 'S', name: 'Shelf', path: null },
  { key: 'M', name: 'Map', path: 'map' },
  { key: 'E', name: 'Seams', path: 'seams' },
  { key: 'P', name: 'Podium', path: 'podium' },
  { key: 'B', name: 'Bench', path: 'bench' },
  { key: 'H', name: 'Hand out', path: 'handout' },
  { key: 'R', name: 'Rehearse', path: '/rehearse' },
] as const;

/**
 * The places of the program, each with its key. Map and Podium lead to the piece that was open last. At the podium only
 * the keys remain: nothing there is smaller than what is read at two metres.
 */
export function Rail() {
  const open = useAppSelector((state) => state.piece.open);
  const match = useMatch('/piece/:pieceId/*');
  const navigate = useNavigate();
  const pieceId = match?.params.pieceId ?? open?.id;
  const places = PLACES.flatMap(({ key, name, path }) => {
    const to = path === null ? '/' : path.startsWith('/') ? path : pieceId && `/piece/${pieceId}/${path}`;
    const act = { id: `app.${name}`, key, name: `to ${name}`, group: 'Everywhere' };
    return to ? [{ to, name, act: { ...act, does: () => void navigate(to) } }] : [];
  });
  useActs(
    'app',
    places.map(({ act }) => act),
  );
  if (match?.params['*'] === 'podium') return null;
  return (
    <nav
      aria-label="Places"
      className="flex shrink-0 bg-rail px-1 py-1 text-rail-text sm:w-16 sm:flex-col sm:overflow-y-auto sm:px-0 sm:py-3 print:hidden"
    >
      {places.map((place) => (
        <Place key={place.name} {...place} />
      ))}
      <ThemeButton />
    </nav>
  );
}

interface PlaceProps {
  readonly to: string;
  readonly name: string;
  readonly act: Act;
}

function Place({ to, name, act }: PlaceProps) {
  const shown = useShownKey(act);
  return (
    <NavLink
      to={to}
      end
      className={({ isActive }) =>
        `flex flex-1 flex-col items-center justify-center rounded-xl py-1 text-center text-[min(0.8rem,2.9vw)] leading-tight font-semibold sm:mx-1 sm:mb-1.5 sm:flex-none sm:py-2.5 sm:text-[0.74rem] ${
          isActive ? 'bg-ground text-ink' : 'hover:text-rail-lit'
        }`
      }
    >
      {name}
      <kbd className="mt-0.5 hidden font-text text-[0.68rem] font-normal opacity-80 sm:inline">{shown}</kbd>
    </NavLink>
  );
}

function ThemeButton() {
  const [choice, choose] = useThemeChoice();
  return (
    <button
      type="button"
      className="hidden rounded-xl py-2 text-[0.75rem] leading-tight hover:text-rail-lit sm:mx-1.5 sm:mt-auto sm:block"
      onClick={() => choose(nextOf(THEME_CHOICES, choice))}
    >
      Light
      <br />
      <span className="font-semibold">{THEME_NAMES[choice]}</span>
    </button>
  );
}
