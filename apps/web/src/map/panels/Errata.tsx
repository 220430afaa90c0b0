import { Link } from 'react-router';
import { useProof } from '../../piece/PieceLayout.tsx';
import { usePlaceTheme } from '../../theme/useTheme.tsx';
import { Button } from '../../ui/Button.tsx';
import { useAppSelector } from '../../store/store.ts';
import { isSuperseded } from './superseded.ts';

/** The corrections of a piece as a list on paper, for the library and the music stands. */
export function Errata() {
  usePlaceTheme('desk');
  const { piece } = useProof();
  const id = useAppSelector((state) => state.piece.open?.id ?? '');
  const { corrections = [] } = piece;
  return (
    <main className="h-full overflow-y-auto px-10 py-8 print:overflow-visible print:p-0">
      <div className="mb-6 flex items-center gap-4 print:hidden">
        <Button filled onClick={() => window.print()}>
          Print it
        </Button>
        <Link to={`/piece/${id}/map`} className="font-semibold underline">
          Back to the map
        </Link>
      </div>
      <h1 className="text-3xl font-bold">Errata: {piece.title}</h1>
      <p className="mt-1 text-quiet">{[piece.subtitle, piece.composer].filter(Boolean).join(' · ')}</p>
      {corrections.length === 0 ? (
        <p className="mt-6">No corrections are logged for this piece.</p>
      ) : (
        <table className="mt-6 w-full border-collapse text-left">
          <thead>
            <tr className="border-b-2 border-ink">
              {['Where', 'Printed', 'Play', 'Why', 'Spotted by', 'Date'].map((heading) => (
                <th key={heading} scope="col" className="py-2 pr-4 font-bold">
                  {heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {corrections.map(({ place, was, is, why, spottedBy, on }, index) => (
              <tr
                key={index}
                className={`break-inside-avoid border-b border-faint align-top ${
                  isSuperseded(corrections, index) ? 'text-quiet line-through decoration-1' : ''
                }`}
              >
                <th scope="row" className="py-2 pr-4 font-semibold first-letter:uppercase">
                  {place}
                </th>
                <td className="py-2 pr-4">{was || 'nothing'}</td>
                <td className="py-2 pr-4 font-semibold">{is || 'nothing'}</td>
                <td className="py-2 pr-4">
                  {isSuperseded(corrections, index) && (
                    <span className="inline-block w-full font-semibold">Superseded below</span>
                  )}
                  {why}
                </td>
                <td className="py-2 pr-4">{spottedBy}</td>
                <td className="numeral py-2 whitespace-nowrap">{on}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
}
