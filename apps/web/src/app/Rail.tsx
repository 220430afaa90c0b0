import { NavLink, useMatch, useNavigate } from 'react-router';
import { useAppSelector } from '../store/store.ts';
import { useThemeChoice, type ThemeChoice } from '../theme/useTheme.tsx';
import { useKeys } from '../ui/useKeys.ts';

const THEME_NAMES: Readonly<Record<ThemeChoice, string>> = { place: 'By place', desk: 'Desk', hall: 'Hall' };
const NEXT_THEME: Readonly<Record<ThemeChoice, ThemeChoice>> = { place: 'desk', desk: 'hall', hall: 'place' };

/**
 * The places of the program, each with its key. Map and Podium lead to the piece that was open last. At the podium only
 * the keys remain: nothing there is smaller than what is read at two metres.
 */
export function Rail() {
  const open = useAppSelector((state) => state.piece.open);
  const match = useMatch('/piece/:pieceId/*');
  const navigate = useNavigate();
  const pieceId = match?.params.pieceId ?? open?.id;
  useKeys(({ key, command }) => {
    const to = command ? undefined : placeOfKey(key, pieceId);
    if (to === undefined) return false;
    void navigate(to);
    return true;
  });
  if (match?.params['*'] === 'podium') return null;
  return (
    <nav aria-label="Places" className="flex w-16 shrink-0 flex-col bg-rail py-3 text-rail-text print:hidden">
      <Place to="/" name="Shelf" keyName="⇧S" />
      {pieceId && <Place to={`/piece/${pieceId}/map`} name="Map" keyName="⇧M" />}
      {pieceId && <Place to={`/piece/${pieceId}/seams`} name="Seams" keyName="⇧E" />}
      {pieceId && <Place to={`/piece/${pieceId}/podium`} name="Podium" keyName="⇧P" />}
      {pieceId && <Place to={`/piece/${pieceId}/handout`} name="Hand out" keyName="⇧H" />}
      <ThemeButton />
    </nav>
  );
}

function placeOfKey(key: string, pieceId: string | undefined): string | undefined {
  if (key === 'S') return '/';
  if (key === 'M' && pieceId) return `/piece/${pieceId}/map`;
  if (key === 'E' && pieceId) return `/piece/${pieceId}/seams`;
  if (key === 'P' && pieceId) return `/piece/${pieceId}/podium`;
  if (key === 'H' && pieceId) return `/piece/${pieceId}/handout`;
  return undefined;
}

interface PlaceProps {
  readonly to: string;
  readonly name: string;
  readonly keyName: string;
}

function Place({ to, name, keyName }: PlaceProps) {
  return (
    <NavLink
      to={to}
      end
      className={({ isActive }) =>
        `mx-1.5 mb-1.5 flex flex-col items-center rounded-xl py-2.5 text-center leading-tight text-[0.8rem] font-semibold ${
          isActive ? 'bg-ground text-ink' : 'hover:text-white'
        }`
      }
    >
      {name}
      <span className="mt-0.5 text-[0.68rem] font-normal opacity-80">{keyName}</span>
    </NavLink>
  );
}

function ThemeButton() {
  const { choice, choose } = useThemeChoice();
  return (
    <button
      type="button"
      className="mx-1.5 mt-auto rounded-xl py-2 text-[0.75rem] leading-tight hover:text-white"
      onClick={() => choose(NEXT_THEME[choice])}
    >
      Light
      <br />
      <span className="font-semibold">{THEME_NAMES[choice]}</span>
    </button>
  );
}
