import type { DateResponse } from '@anchorbeat/contract';
import { howMany, type PieceToPlan } from '@anchorbeat/core';
import { useNavigate } from 'react-router';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { setAddress } from '../podium/useSet.ts';
import { durationText } from '../ui/durationText.ts';
import { onProgramme, temposOf } from './season.ts';

interface SetViewProps {
  readonly date: DateResponse;
  readonly pieces: readonly PieceToPlan[];
}

/** The programme of a concert in its order, with how ready each piece is; played through from here. */
export function SetView({ date, pieces }: SetViewProps) {
  const navigate = useNavigate();
  const programme = onProgramme(pieces, date.pieceIds).map((piece) => {
    const { goalPercent } = temposOf(piece.pieceId, date);
    return { ...piece, goalPercent, seconds: piece.lengthSeconds / (goalPercent / 100) };
  });
  const [first] = programme;
  const act: Act = {
    id: 'plan.set',
    key: ' ',
    name: 'Play it through',
    group: 'Plan',
    may: first !== undefined,
    does: () => first && void navigate(setAddress(first.pieceId, date)),
  };
  useActs('view', [act]);
  const pause = date.pauseSeconds ?? null;
  const seconds = programme.reduce((sum, piece) => sum + piece.seconds, 0);
  const pauses = pause === null ? 0 : pause * Math.max(0, programme.length - 1);
  return (
    <>
      <p className="mt-1 text-[1.05rem]">
        <b className="numeral">{programme.length}</b> {programme.length === 1 ? 'piece' : 'pieces'},{' '}
        {durationText(seconds + pauses)}
        {pause === null ? '; each begins by the key' : ` with pauses of ${howMany(pause, 'second')}`}.
      </p>
      <div className="my-3">
        <ActButton act={act} filled />
      </div>
      <ol aria-label="Programme" className="max-w-4xl">
        {programme.map(({ pieceId, title, goalPercent, seconds: ofPiece, seams }, index) => {
          const run = seams.filter(({ spacing }) => spacing.lastAtMs !== null).length;
          return (
            <li
              key={pieceId}
              className="grid grid-cols-[2rem_1fr_auto] items-baseline gap-x-3 border-b border-faint px-2 py-2"
            >
              <span className="numeral text-quiet">{index + 1}</span>
              <span className="min-w-0">
                <span className="block text-lg font-semibold">{title}</span>
                <span className="block text-[0.9rem] text-quiet">
                  {tempoWords(goalPercent)}
                  {seams.length === 0 ? 'no seams' : `${run} of ${howMany(seams.length, 'seam')} run`}
                </span>
              </span>
              <b className="numeral text-xl">{durationText(ofPiece)}</b>
            </li>
          );
        })}
      </ol>
    </>
  );
}

/** Nothing where it goes as printed. */
function tempoWords(percent: number): string {
  return percent === 100 ? '' : `at ${percent} % · `;
}
