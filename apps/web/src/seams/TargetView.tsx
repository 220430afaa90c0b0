import type { SeamReadiness } from '@anchorbeat/core';
import { performedOfPlaceMaybe } from '@anchorbeat/core';
import type { Act } from '../acts/act.ts';
import { ActHint } from '../acts/ActButton.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { BarsDrawing } from '../line/BarsDrawing.tsx';
import { DrillControls } from './DrillControls.tsx';
import { LadderView } from './LadderView.tsx';
import { OffView } from './OffView.tsx';
import { ReadsAsView } from './ReadsAsView.tsx';
import { recordWords, type PlacedRun } from './placedRun.ts';
import { RecordView } from './RecordView.tsx';
import { SeamCard, seamSummary } from './SeamCard.tsx';
import { placeName, type Target } from './target.ts';
import { TrainerView } from './TrainerView.tsx';
import type { Drilling } from './useDrill.ts';
import { TapPad } from '../takes/TapPad.tsx';
import type { SeamsAction, SeamsState } from './seamsState.ts';

interface TargetViewProps {
  readonly target: Target;
  readonly drilling: Drilling;
  readonly state: SeamsState;
  readonly dispatchSeams: (action: SeamsAction) => void;
  /** What else can be done with it: other ways to look at it, keeping it, going to the map. */
  readonly acts: readonly Act[];
  readonly runs: readonly PlacedRun[];
  readonly record: SeamReadiness | null;
}

/** A place and everything that can be done with it. */
export function TargetView(props: TargetViewProps) {
  const { target, drilling, acts, record } = props;
  const proof = useProof();
  const { compiled, piece } = proof;
  const score = target.kind === 'seam' ? target.told.seam.difficulty.score : null;
  const mark = piece.bars[target.place.barIndex]?.rehearsalMark;
  return (
    <article>
      <header className="flex items-start gap-6">
        <div className="min-w-0">
          <h2 className="text-2xl font-bold @3xl:text-3xl first-letter:uppercase">
            {placeName(compiled, target.place)}
            {mark !== undefined && <span className="ml-3 text-xl font-normal text-quiet">{mark}</span>}
          </h2>
          <p className="text-lg text-quiet first-letter:uppercase">
            {target.kind === 'seam'
              ? seamSummary(proof, target.told)
              : target.place.bars === 1
                ? 'one bar'
                : `${target.place.bars} bars`}
          </p>
          {record && (
            <p className="text-[0.95rem] text-quiet first-letter:uppercase">{recordWords(record)}</p>
          )}
        </div>
        {score !== null && (
          <p
            className="numeral ml-auto text-5xl leading-none @3xl:text-6xl font-extrabold text-seam"
            aria-label={`Difficulty ${score} of 100`}
          >
            {score}
          </p>
        )}
      </header>
      <nav
        aria-label="What to do here"
        className="mt-2 mb-3 flex flex-wrap gap-x-2.5 gap-y-1 border-b-2 border-faint pb-2 pointer-coarse:gap-x-1.5"
      >
        {acts.map((act) => (
          <ActHint key={act.id} act={act} />
        ))}
      </nav>
      {drilling.isRestDue && (
        <p role="alert" className="mb-3 rounded-lg border-l-4 border-entry bg-raised px-4 py-2">
          Twelve minutes without a break: rest hands and ears for two. Stop on pain or numbness.
        </p>
      )}
      <TapPad />
      <View {...props} />
    </article>
  );
}

function View(props: TargetViewProps) {
  const { target, drilling, state, dispatchSeams } = props;
  const proof = useProof();
  switch (state.view) {
    case 'ladder':
      return (
        <LadderView
          target={target}
          drilling={drilling}
          plan={state.ladder}
          onPlan={(ladder) => dispatchSeams({ kind: 'ladderSet', ladder })}
        />
      );
    case 'off':
      return (
        <OffView
          target={target}
          drilling={drilling}
          way={state.way}
          onWay={(way) => dispatchSeams({ kind: 'waySet', way })}
        />
      );
    case 'trainer':
      return <TrainerView target={target} drilling={drilling} />;
    case 'reads':
      return <ReadsAsView target={target} drilling={drilling} />;
    case 'record':
      return <RecordView target={target} runs={props.runs} />;
    case 'card': {
      const from = performedOfPlaceMaybe(proof.compiled, target.place) ?? 0;
      return (
        <>
          <DrillControls
            drilling={drilling}
            fewestContext={target.kind === 'seam' ? 1 : 0}
            name={target.kind === 'seam' ? 'Run this seam' : 'Run these bars'}
          />
          {target.kind === 'seam' ? (
            <SeamCard told={target.told} />
          ) : (
            <BarsDrawing proof={proof} from={from} to={from + target.place.bars} />
          )}
        </>
      );
    }
  }
}
