import {
  barPattern,
  formatMeter,
  handAt,
  inWords,
  parseMeter,
  parsePulseChoice,
  pulseOf,
  toNumber,
  type Bar,
  type ConductedBeat,
  type HandStyle,
} from '@anchorbeat/core';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';

/** Meters as they are shown on the sheet, with how each is beaten. */
const SHEET: ReadonlyArray<readonly [meter: string, pulse: string]> = [
  ['3/8', 'in 1'],
  ['2/4', ''],
  ['3/4', ''],
  ['4/4', ''],
  ['5/4 as 3+2', ''],
  ['5/4 as 2+3', ''],
  ['6/8', 'in 2'],
  ['6/8', 'in 6'],
  ['7/8 as 2+2+3', 'in 7'],
  ['7/8 as 2+3+2', 'in 7'],
  ['7/8 as 3+2+2', 'in 7'],
  ['7/8 as 2+2+3', ''],
  ['9/8', ''],
  ['9/8', 'in 9'],
  ['12/8', ''],
];

interface PatternSheetProps {
  readonly style: HandStyle;
  readonly onStyle: (style: HandStyle) => void;
  readonly onClose: () => void;
}

/** How each meter is beaten: the path of the hand through a bar, with its beats where the hand touches down. */
export function PatternSheet({ style, onStyle, onClose }: PatternSheetProps) {
  return (
    <DialogShell
      title="How the hand goes"
      width="widest"
      onClose={onClose}
      description={`${style.hand === 'right' ? 'Right hand' : 'Left hand'}, as ${style.seenBy === 'conductor' ? 'its owner does it' : 'the ensemble sees it'}.`}
      aside={
        <>
          <label className="flex items-center gap-2 text-quiet">
            struck
            <input
              type="range"
              aria-label="From struck to drawn"
              min={0}
              max={1}
              step={0.1}
              value={style.legato}
              onChange={({ target }) => onStyle({ ...style, legato: target.valueAsNumber })}
            />
            drawn
          </label>
          <Button
            onClick={() =>
              onStyle({ ...style, seenBy: style.seenBy === 'conductor' ? 'ensemble' : 'conductor' })
            }
          >
            As {style.seenBy === 'conductor' ? 'the ensemble sees it' : 'I do it'}
          </Button>
          <Button onClick={() => onStyle({ ...style, hand: style.hand === 'right' ? 'left' : 'right' })}>
            {style.hand === 'right' ? 'Left' : 'Right'} hand
          </Button>
          <Button filled onClick={onClose}>
            Done
          </Button>
        </>
      }
    >
      <ul className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(11.5rem,1fr))] gap-3">
        {SHEET.map(([meter, pulse]) => (
          <li key={`${meter} ${pulse}`}>
            <PatternDrawing bar={barOf(meter, pulse)} style={style} />
          </li>
        ))}
      </ul>
    </DialogShell>
  );
}

function barOf(meterText: string, pulseText: string): Bar {
  const meter = parseMeter(meterText);
  if (!meter.ok) throw new Error(`the pattern sheet has no meter ${meterText}`);
  const pulse = pulseText === '' ? null : parsePulseChoice(pulseText);
  return { meter: meter.value, tempoMarks: [], ...(pulse?.ok && { pulse: pulse.value }) };
}

const WIDTH = 184;
const HEIGHT = 168;
const SCALE = 98;
const BASE_Y = 136;
const SECONDS_A_WHOLE = 2;
const SAMPLES = 220;

function PatternDrawing({ bar, style }: { readonly bar: Bar; readonly style: HandStyle }) {
  const beats = threeBars(bar);
  const length = beats.barSeconds;
  const path = Array.from({ length: SAMPLES + 1 }, (_, index) =>
    px(handAt(beats.list, length + (index / SAMPLES) * length, style)),
  );
  const shown = beats.list.filter(({ seconds }) => seconds >= length - 1e-9 && seconds < 2 * length - 1e-9);
  const name = `${formatMeter(bar.meter)}, ${inWords(shown.length)}`;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full rounded-xl bg-ground"
        role="img"
        aria-label={`The hand in ${name}`}
      >
        <path d={`M10 ${BASE_Y}H${WIDTH - 10}`} stroke="var(--faint)" strokeWidth={1.5} />
        <polyline
          points={path.join(' ')}
          fill="none"
          stroke="var(--entry)"
          strokeWidth={3}
          strokeLinejoin="round"
        />
        {shown.map((beat, index) => {
          const [x, y] = px(handAt(beats.list, beat.seconds, style)).split(',');
          return (
            <g key={index} transform={`translate(${x} ${y})`}>
              <circle r={5} fill="var(--ink)" />
              <text
                y={20}
                textAnchor="middle"
                fontSize={14}
                fontWeight={700}
                fill="var(--ink)"
                className="numeral"
              >
                {index + 1}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="numeral mt-1 text-center font-semibold">{name}</figcaption>
    </figure>
  );
}

/** The bar three times, so that the one in the middle is led into and out of as in music. */
function threeBars(bar: Bar): { readonly list: readonly ConductedBeat[]; readonly barSeconds: number } {
  const pattern = barPattern(bar);
  const pulse = pulseOf(bar);
  const lengths = pulse.map(({ lengthWholes }) => toNumber(lengthWholes) * SECONDS_A_WHOLE);
  const barSeconds = lengths.reduce((total, length) => total + length, 0);
  const list = [0, 1, 2].flatMap((round) =>
    pattern.map((point, index) => ({
      ...point,
      seconds:
        round * barSeconds + toNumber((pulse[index] as (typeof pulse)[number]).atWholes) * SECONDS_A_WHOLE,
    })),
  );
  return { list, barSeconds };
}

function px({ x, y }: { readonly x: number; readonly y: number }): string {
  return `${WIDTH / 2 + x * SCALE},${BASE_Y - y * SCALE * 1.3}`;
}
