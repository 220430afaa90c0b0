import {
  barName,
  COUNT_OFF_STYLES,
  COUNT_SCHOOLS,
  countBar,
  countOffFor,
  formatPitch,
  howMany,
  inNoteNames,
  MAX_COUNT_OFF_BARS,
  parsePitch,
  PLAIN_COUNT_OFF,
  systemGeometry,
  type CompiledPiece,
  type CountOff,
  type Bar,
  type CountOffSettings,
  type CountSchool,
  type Piece,
} from '@anchorbeat/core';
import { recordedWordsMaybe } from '@anchorbeat/audio';
import { leadInHops, hopPathsOf } from '@anchorbeat/drawing';
import { useEffect, useState, type ReactNode } from 'react';
import { toast } from '../../ui/toast.ts';
import { useProof } from '../../piece/PieceLayout.tsx';
import { LeadIn } from '../../line/LeadIn.tsx';
import { usePlayback } from '../../sound/PlaybackContext.tsx';
import { keptOwnNames } from '../../sound/ownNames.ts';
import { useIsSounding } from '../../sound/useIsSounding.ts';
import { useKept } from '../../kept/kept.ts';
import { useWordIndex } from '../../sound/useWordIndex.ts';
import { useAppSelector } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { lazyPart } from '../../ui/lazyNamed.tsx';
import { useEdit } from '../useEdit.ts';
import { usePresent } from '../usePresent.ts';

const OwnWordsDialog = lazyPart('OwnWordsDialog', () => import('../../voice/OwnWordsDialog.tsx'));

/** What a school makes of a bar, so that it is seen before it is chosen: "1 2 3 4". */
function countedIn(school: CountSchool, bar: Bar | undefined): string {
  return bar
    ? countBar({ ...bar, partial: undefined }, school)
        .map(({ word }) => word)
        .join(' ')
    : school.example;
}

/** How the selected bar is counted in: set, seen as hops that lead into it, and heard. A sensible one is already there. */
export function CountOffStudio() {
  const { piece, compiled } = useProof();
  const edit = useEdit();
  const focusBar = useAppSelector((state) => state.map.focusBar);
  const bar = Math.min(focusBar, piece.bars.length - 1);
  const own = usePresent().bars[bar]?.countOff;
  const settings = own ?? PLAIN_COUNT_OFF;
  const set = (changes: Partial<CountOffSettings>) =>
    void edit({ kind: 'setCountOff', bar, countOff: { ...settings, ...changes } });
  const performed = compiled.firstPerformed[bar] ?? -1;
  const warnings = compiled.findings.filter(
    ({ check, barIndex }) => barIndex === bar && check.startsWith('count-off'),
  );
  if (performed < 0)
    return <p className="text-quiet">This bar is never performed, so nobody is counted into it.</p>;
  const countOff = countOffFor(piece, compiled.timeline, performed, settings);
  return (
    <div className="grid gap-3">
      <p>
        <span className="font-semibold">Into {barName(compiled.labels, bar)}.</span>{' '}
        <span className="text-quiet">
          {own ? 'Set for this bar.' : 'As usual; another bar may have its own.'}
        </span>
      </p>
      <CountOffDrawing piece={piece} compiled={compiled} bar={bar} countOff={countOff} />
      {warnings.map(({ check, says }) => (
        <p key={check} role="status" className="border-l-4 border-problem pl-3 font-semibold">
          {says}
        </p>
      ))}
      <Choice label="Bars" value={String(settings.bars)} onChange={(value) => set({ bars: Number(value) })}>
        {Array.from({ length: MAX_COUNT_OFF_BARS + 1 }, (_, bars) => (
          <option key={bars} value={bars}>
            {bars === 0 ? 'none' : bars}
          </option>
        ))}
      </Choice>
      <Choice label="Counted" value={settings.school} onChange={(school) => set({ school })}>
        {COUNT_SCHOOLS.map((school) => (
          <option key={school.id} value={school.id}>
            {inNoteNames(school.name)}: {countedIn(school, piece.bars[bar])}
          </option>
        ))}
      </Choice>
      <Choice label="In the way of" value={settings.style} onChange={(style) => set({ style })}>
        {COUNT_OFF_STYLES.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Choice>
      <CueWord
        key={`${bar} ${settings.cueWord ?? ''}`}
        settings={settings}
        onSet={set}
        place={placeOf(piece, compiled, bar)}
      />
      <OwnVoice cueWord={settings.cueWord ?? ''} />
      <FirstNote key={`${bar} note ${settings.firstNote ?? ''}`} settings={settings} onSet={set} />
      <label className="flex items-center gap-2.5">
        <input
          type="checkbox"
          checked={settings.breathOnLastBeat}
          onChange={({ target }) => set({ breathOnLastBeat: target.checked })}
        />
        The last beat stays open, for a breath
      </label>
      <div className="flex flex-wrap gap-3">
        <HearButton countOff={countOff} performed={performed} />
        <Button disabled={!own} onClick={() => void edit({ kind: 'setCountOff', bar, countOff: undefined })}>
          As usual
        </Button>
      </div>
    </div>
  );
}

/** The rehearsal mark or the number: what a cue word would be. */
function placeOf(piece: Piece, { labels }: CompiledPiece, bar: number): string {
  return piece.bars[bar]?.rehearsalMark ?? labels[bar] ?? '';
}

interface ChoiceProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly children: ReactNode;
}

function Choice({ label, value, onChange, children }: ChoiceProps) {
  return (
    <label className="grid grid-cols-[7rem_1fr] items-center gap-3">
      {label}
      <select
        value={value}
        onChange={({ target }) => onChange(target.value)}
        className="min-w-0 rounded-lg border-2 border-faint bg-ground px-2.5 py-1.5 focus:border-ink"
      >
        {children}
      </select>
    </label>
  );
}

interface TypedProps {
  readonly settings: CountOffSettings;
  readonly onSet: (changes: Partial<CountOffSettings>) => void;
}

function CueWord({ settings, onSet, place }: TypedProps & { readonly place: string }) {
  const [text, setText] = useState(settings.cueWord ?? '');
  const set = () => {
    const word = text.trim();
    if (word !== (settings.cueWord ?? '')) onSet({ cueWord: word === '' ? null : word });
  };
  const index = useWordIndex();
  const [ownNames] = useKept(keptOwnNames);
  const typed = text.trim();
  const isUnknown =
    index !== null && typed !== '' && !ownNames.includes(typed) && recordedWordsMaybe(index, typed) === null;
  return (
    <>
      <Typed label="Cue word" placeholder={place} value={text} onText={setText} onSet={set} />
      {isUnknown && (
        <p className="text-[0.9rem] text-quiet">
          &ldquo;{typed}&rdquo; is not recorded: it is shown, and the beat&rsquo;s own number is said. Bars up
          to 999 and letters can be said.
        </p>
      )}
    </>
  );
}

/** To the words in the director's own voice; it stays open while the cue that was typed is set. */
function OwnVoice({ cueWord }: { readonly cueWord: string }) {
  const [{ length }] = useKept(keptOwnNames);
  const [isRecording, setRecording] = useState(false);
  return (
    <div>
      <Button onClick={() => setRecording(true)}>
        {length === 0 ? 'Count in your own voice …' : `Your own voice: ${howMany(length, 'word')} …`}
      </Button>
      {isRecording && <OwnWordsDialog cueWord={cueWord} onClose={() => setRecording(false)} />}
    </div>
  );
}

/** The first note of the entry, near which a pitched count-off lies: "F4", with C4 the middle C. */
function FirstNote({ settings, onSet }: TypedProps) {
  const { firstNote } = settings;
  const [text, setText] = useState(firstNote === null ? '' : formatPitch(firstNote));
  const set = () => {
    if (text.trim() === '') {
      if (firstNote !== null) onSet({ firstNote: null });
      return;
    }
    const pitch = parsePitch(text);
    if (!pitch.ok) toast(pitch.problem.message);
    else if (pitch.value !== firstNote) onSet({ firstNote: pitch.value });
  };
  return <Typed label="First note" placeholder="F4" value={text} onText={setText} onSet={set} />;
}

interface TypedLineProps {
  readonly label: string;
  readonly placeholder: string;
  readonly value: string;
  readonly onText: (text: string) => void;
  readonly onSet: () => void;
}

/** A line that is set when it is left, or with Enter. */
function Typed({ onSet, ...field }: TypedLineProps) {
  return (
    <TextField
      {...field}
      maxLength={40}
      onBlur={onSet}
      onKeyDown={(event) => event.key === 'Enter' && onSet()}
    />
  );
}

const WIDTH = 384;
const BASE_Y = 74;

/** The count-off as hops with its words, and the bar it leads into. */
function CountOffDrawing({
  piece,
  compiled,
  bar,
  countOff,
}: {
  readonly piece: Piece;
  readonly compiled: CompiledPiece;
  readonly bar: number;
  readonly countOff: CountOff;
}) {
  const performed = compiled.firstPerformed[bar] ?? 0;
  const { barStartSeconds } = compiled.timeline;
  const barSeconds = (barStartSeconds[performed + 1] ?? 0) - (barStartSeconds[performed] ?? 0);
  const pixelsPerSecond = Math.min(110, (WIDTH - 16) / (countOff.lengthSeconds + Math.min(barSeconds, 4)));
  const offset = countOff.lengthSeconds * pixelsPerSecond;
  const system = { firstBar: bar, endBar: bar + 1, widthPx: barSeconds * pixelsPerSecond, shrink: 1 };
  const bars = systemGeometry(
    { piece, compiled },
    { trueTo: 'time', pixelsPerSecond, pixelsPerWhole: 200 },
    system,
  );
  const paths = hopPathsOf(bars);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 104`}
      className="w-full overflow-hidden"
      role="img"
      aria-label="The count-off and the bar it leads into"
    >
      <g transform={`translate(${8 + offset} ${BASE_Y})`}>
        <LeadIn hops={leadInHops(countOff, pixelsPerSecond)} isPast={false} />
        <path d={paths.fill} fill="var(--hop-fill)" />
        <path d={`${paths.downbeats}${paths.beats}`} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
        <path d={`M0 0H${bars[0]?.widthPx ?? 0}`} stroke="var(--ink)" strokeWidth={1.5} />
        <rect x={-4.5} y={-4.5} width={9} height={9} fill="var(--ink)" />
      </g>
    </svg>
  );
}

/** Sounds the count-off and the first bar after it. */
function HearButton({ countOff, performed }: { readonly countOff: CountOff; readonly performed: number }) {
  const proof = useProof();
  const playback = usePlayback();
  const isRunning = useIsSounding();
  useEffect(() => () => playback.stop(), [playback]);
  const hear = () => {
    if (isRunning) playback.stop();
    else
      playback
        .countIn(proof, performed, { subject: { kind: 'piece' } })
        .catch((error: unknown) => toast((error as Error).message));
  };
  return (
    <Button
      onClick={hear}
      aria-label={isRunning ? 'Stop' : `Hear it, ${howMany(countOff.beats.length, 'beat')}`}
    >
      {isRunning ? 'Stop' : 'Hear it'}{' '}
      <kbd className="ml-1 font-text text-sm font-normal text-quiet">space</kbd>
    </Button>
  );
}
