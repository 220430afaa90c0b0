import {
  formatMeter,
  inWords,
  parseMeter,
  parsePulseChoice,
  pulseOf,
  type Bar,
  type HandStyle,
} from '@anchorbeat/core';
import { PATTERN_HEIGHT_PX, PATTERN_WIDTH_PX, patternShapes } from '@anchorbeat/drawing';
import { Shapes } from '../line/Shapes.tsx';
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

function PatternDrawing({ bar, style }: { readonly bar: Bar; readonly style: HandStyle }) {
  const name = `${formatMeter(bar.meter)}, ${inWords(pulseOf(bar).length)}`;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${PATTERN_WIDTH_PX} ${PATTERN_HEIGHT_PX}`}
        className="w-full rounded-xl bg-ground"
        role="img"
        aria-label={`The hand in ${name}`}
      >
        <Shapes shapes={patternShapes(bar, style)} />
      </svg>
      <figcaption className="numeral mt-1 text-center font-semibold">{name}</figcaption>
    </figure>
  );
}
