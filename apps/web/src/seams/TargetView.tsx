import type { DrillWay, LadderPlan, SeamReadiness } from '@anchorbeat/core';
import { performedOfPlaceMaybe } from '@anchorbeat/core';
import { useProof } from '../app/PieceLayout.tsx';
import { KeyHint } from '../ui/KeyHint.tsx';
import { BarsDrawing } from './BarsDrawing.tsx';
import { DrillControls } from './DrillControls.tsx';
import { LadderView } from './LadderView.tsx';
import { OffView } from './OffView.tsx';
import { ReadsAsView } from './ReadsAsView.tsx';
import { RecordView, recordWords, type PlacedRun } from './RecordView.tsx';
import { SeamCard, seamSummary } from './SeamCard.tsx';
import { placeName, type Target } from './target.ts';
import { TrainerView } from './TrainerView.tsx';
import type { Drilling } from './useDrill.ts';
import { SEAM_VIEW_NAMES, SEAM_VIEWS, type SeamView } from './views.ts';

interface TargetViewProps {
  readonly target: Target;
  readonly drilling: Drilling;
  readonly view: SeamView;
  readonly onView: (view: SeamView) => void;
  readonly onKeep: () => void;
  readonly onMap: () => void;
  readonly ladder: LadderPlan;
  readonly onLadder: (plan: LadderPlan) => void;
  readonly way: DrillWay;
  readonly onWay: (way: DrillWay) => void;
  readonly runs: readonly PlacedRun[];
  readonly record: SeamReadiness | null;
}

/** A place and everything that can be done with it. */
export function TargetView(props: TargetViewProps) {
  const { target, drilling, view, onView, record } = props;
  const proof = useProof();
  const { compiled, piece } = proof;
  const score = target.kind === 'seam' ? target.told.seam.difficulty.score : null;
  const mark = piece.bars[target.place.barIndex]?.rehearsalMark;
  return (
    <article>
      <header className="flex items-start gap-6">
        <div className="min-w-0">
          <h2 className="text-3xl font-bold first-letter:uppercase">
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
            className="numeral ml-auto text-6xl leading-none font-extrabold text-seam"
            aria-label={`Difficulty ${score} of 100`}
          >
            {score}
          </p>
        )}
      </header>
      <nav
        aria-label="What to do here"
        className="mt-2 mb-3 flex flex-wrap gap-x-2.5 border-b-2 border-faint pb-2"
      >
        {SEAM_VIEW_NAMES.filter((name) => name !== view).map((name) => (
          <KeyHint
            key={name}
            keyName={SEAM_VIEWS[name].shownKey}
            label={SEAM_VIEWS[name].name}
            onPress={() => onView(name)}
          />
        ))}
        <span className="ml-auto flex gap-x-2.5">
          <KeyHint keyName="p" label="keep" onPress={props.onKeep} />
          <KeyHint keyName="m" label="map" onPress={props.onMap} />
        </span>
      </nav>
      {drilling.isRestDue && (
        <p role="alert" className="mb-3 rounded-lg border-l-4 border-entry bg-raised px-4 py-2">
          Twelve minutes without a break: rest hands and ears for two. Stop on pain or numbness.
        </p>
      )}
      <View {...props} />
    </article>
  );
}

function View(props: TargetViewProps) {
  const { target, drilling, view } = props;
  const proof = useProof();
  switch (view) {
    case 'ladder':
      return <LadderView target={target} drilling={drilling} plan={props.ladder} onPlan={props.onLadder} />;
    case 'off':
      return <OffView target={target} drilling={drilling} way={props.way} onWay={props.onWay} />;
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
