import { barName, type ClickChoice, type PerformedSpan } from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import { useKept } from '../kept/kept.ts';
import { useAppSelector } from '../store/store.ts';
import { settingsNow } from '../store/transportSlice.ts';
import { useTransport } from '../store/useTransport.ts';
import { keptMicrophone } from '../takes/microphone.ts';
import { playedName } from '../takes/playingAlong.ts';
import { fadeName } from './fades.ts';
import { HABIT_WORDS } from './PlayersDialog.tsx';

const clickName = (clickOn: ClickChoice) => (clickOn === 'nothing' ? 'no click' : `click on ${clickOn}`);

/** Everything about the run that is not plain: tempo, loop, what clicks. Nothing is said where all is as written. */
export function RunWishes() {
  const { compiled } = useProof();
  const settings = useAppSelector(({ transport }) => settingsNow(transport));
  const { isMuted, takesEffect, playsAlong, triedHabit, status } = useTransport(
    'isMuted',
    'takesEffect',
    'playsAlong',
    'triedHabit',
    'status',
  );
  const { isOn: isHeard } = useKept(keptMicrophone)[0];
  const { percent, clickOn, clickSpans, leftOut, fade, loop, countsEachRound, spoken, overlay } = settings;
  const nameOf = (performed: number) =>
    barName(compiled.labels, compiled.timeline.route.barIndex[performed] ?? 0).replace(/^bar /, '');
  const spanName = ({ from, to }: PerformedSpan) => `bars ${nameOf(from)} to ${nameOf(to - 1)}`;
  const wishes = [
    percent !== 100 && `${percent} %`,
    loop && `round ${nameOf(loop.from)} to ${nameOf(loop.to - 1)}${countsEachRound ? ', counted' : ''}`,
    clickOn !== 'pulse' && clickName(clickOn),
    ...clickSpans.map((span) => `${spanName(span)}: ${clickName(span.clickOn)}`),
    ...leftOut.map((span) => `without ${spanName(span)}`),
    fadeName(fade),
    overlay && `${overlay} over the bar`,
    spoken === 'everything' && 'counted aloud',
    spoken === 'nothing' && 'count-off clicked',
    // While it sounds the pad says so.
    playsAlong && status === 'stopped' && `${playedName(playsAlong)}${isHeard ? ', heard' : ''}`,
    triedHabit && `players who ${HABIT_WORDS[triedHabit]}`,
    isMuted && 'muted',
    takesEffect === 'bar' && 'changes at the bar',
  ].filter(Boolean);
  return (
    <p
      role="status"
      data-testid="run-wishes"
      className="podium-wishes flex flex-wrap gap-x-2.5 gap-y-1 text-[clamp(22px,3.2cqmin,1.5rem)]"
    >
      {wishes.map((wish) => (
        <span
          key={String(wish)}
          className="numeral rounded-lg border-2 border-quiet px-[0.5em] font-semibold"
        >
          {wish}
        </span>
      ))}
    </p>
  );
}
