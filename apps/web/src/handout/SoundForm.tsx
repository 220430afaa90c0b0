import {
  SAMPLE_BITS,
  SAMPLE_RATES,
  SOUND_CHANNELS,
  SOUND_FORMATS,
  type SoundWishes,
} from '@anchorbeat/audio';
import {
  CLICK_CHOICES,
  FASTEST_PERCENT,
  MOST_ROUNDS,
  sectionsOf,
  SLOWEST_PERCENT,
  SPOKEN_CHOICES,
  type ClickChoice,
  type Proof,
} from '@anchorbeat/core';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { asksWhatClicks, SOUND_EXTENTS, seamBars, type SoundChoice } from './soundChoice.ts';

interface SoundFormProps {
  readonly proof: Proof;
  readonly choice: SoundChoice;
  readonly onChoice: (choice: SoundChoice) => void;
  readonly act: Act;
}

/** Says what is in the file, and what it is good for. */
const FORMAT_SAYS: Readonly<Record<SoundWishes['format'], string>> = {
  wav: 'WAV: every bar and rehearsal mark is a named place in it; large.',
  flac: 'FLAC: the very same samples in a tenth of the room; most players take it.',
  mp3: 'MP3: small, for any phone; begins with the first click.',
};

const named = <Value extends string>(values: readonly Value[]) =>
  values.map((value) => ({ value, name: value }));

/** How a choice of the run planner is called here. */
const SPOKEN_NAMES = { nothing: 'nothing', 'count-off': 'the count-off', everything: 'everything' } as const;

/** What is made into sound, for whom, and as what. Only what changes anything is asked. */
export function SoundForm({ proof, choice, onChoice, act }: SoundFormProps) {
  const { wishes, extent } = choice;
  const set = (changes: Partial<SoundChoice>) => onChoice({ ...choice, ...changes });
  const wish = (changes: Partial<SoundWishes>) => set({ wishes: { ...wishes, ...changes } });
  const isDesk = wishes.channels === 'click and words';
  return (
    <section aria-label="The click as sound" className="mt-8 max-w-4xl">
      <h2 className="text-2xl font-bold">The click as sound</h2>
      <p className="mt-1 text-quiet">
        With its count-off. As on paper: nobody is there to cue. {FORMAT_SAYS[wishes.format]}
      </p>
      <form className="mt-3 grid gap-3" onSubmit={(event) => event.preventDefault()}>
        <ToggleGroup
          label="Of"
          options={named(SOUND_EXTENTS)}
          isOn={(value) => value === extent}
          onToggle={(next) => set({ extent: next })}
        />
        <ExtentFields proof={proof} choice={choice} onChoice={onChoice} />
        {asksWhatClicks(choice) && <HeardFields proof={proof} choice={choice} onChoice={onChoice} />}
        <ToggleGroup
          label="Spoken"
          options={SPOKEN_CHOICES.map((value) => ({ value, name: SPOKEN_NAMES[value] }))}
          isOn={(value) => value === wishes.spoken}
          onToggle={(spoken) => wish({ spoken, ...(spoken === 'nothing' && { channels: 'one' }) })}
        />
        <ToggleGroup
          label="Channels"
          options={SOUND_CHANNELS.map((value) => ({
            value,
            name: value === 'one' ? 'all in one' : 'click left, words right',
          }))}
          isOn={(value) => value === wishes.channels}
          onToggle={(channels) =>
            wish({ channels, ...(!isDesk && wishes.spoken === 'nothing' && { spoken: 'count-off' }) })
          }
        />
        <FormatFields wishes={wishes} onWishes={(next) => set({ wishes: next })} />
        <div>
          <ActButton act={act} filled />
        </div>
      </form>
    </section>
  );
}

type FieldsProps = Omit<SoundFormProps, 'act'>;

function ExtentFields({ proof, choice, onChoice }: FieldsProps) {
  const { extent, seamBar, rounds, pauseSeconds, wishes } = choice;
  const bars = seamBars(proof);
  const isPlace = extent === 'one seam' || extent === 'its ladder';
  return (
    <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
      <NumberField
        label="Tempo, % of printed"
        value={wishes.percent}
        min={SLOWEST_PERCENT}
        max={FASTEST_PERCENT}
        onNumber={(percent) => onChoice({ ...choice, wishes: { ...wishes, percent } })}
      />
      {isPlace && (
        <label className="grid gap-1 text-sm text-quiet">
          Seam into bar
          <select
            value={seamBar ?? bars[0] ?? 0}
            onChange={({ target }) => onChoice({ ...choice, seamBar: Number(target.value) })}
            className="numeral rounded-lg border-2 border-faint bg-ground px-2 py-1 text-lg text-ink"
          >
            {bars.map((bar) => (
              <option key={bar} value={bar}>
                {proof.compiled.labels[bar] ?? `the one after ${proof.compiled.labels[bar - 1] ?? bar}`}
              </option>
            ))}
          </select>
        </label>
      )}
      {isPlace && (
        <NumberField
          label={extent === 'its ladder' ? 'Times on each rung' : 'Times through'}
          value={rounds}
          min={1}
          max={MOST_ROUNDS}
          onNumber={(next) => onChoice({ ...choice, rounds: Math.round(next) })}
        />
      )}
      {extent === 'all pieces' && (
        <NumberField
          label="Seconds between pieces"
          value={pauseSeconds}
          min={0}
          max={600}
          onNumber={(next) => onChoice({ ...choice, pauseSeconds: next })}
        />
      )}
    </div>
  );
}

/** What clicks; on request for each section otherwise. */
function HeardFields({ proof, choice, onChoice }: FieldsProps) {
  const { wishes, heardBy } = choice;
  const sections = sectionsOf(proof.piece);
  const hear = (clickOn: ClickChoice) => onChoice({ ...choice, wishes: { ...wishes, clickOn } });
  return (
    <>
      {sections.length > 0 && (
        <ToggleGroup
          label="For"
          options={[
            { value: 'all', name: 'everybody' },
            { value: 'each', name: 'each section, a file' },
          ]}
          isOn={(value) => (value === 'each') === (heardBy !== null)}
          onToggle={(value) => onChoice({ ...choice, heardBy: value === 'each' ? {} : null })}
        />
      )}
      {heardBy === null ? (
        <ToggleGroup
          label="Click on"
          options={named(CLICK_CHOICES)}
          isOn={(value) => value === wishes.clickOn}
          onToggle={hear}
        />
      ) : (
        <ul aria-label="What each section hears" className="grid gap-2 border-l-4 border-faint pl-3">
          {sections.map((section) => (
            <li key={section}>
              <ToggleGroup
                label={`${section} hears`}
                options={named(CLICK_CHOICES)}
                isOn={(value) => value === (heardBy[section] ?? wishes.clickOn)}
                onToggle={(value) => onChoice({ ...choice, heardBy: { ...heardBy, [section]: value } })}
              />
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

interface FormatFieldsProps {
  readonly wishes: SoundWishes;
  readonly onWishes: (wishes: SoundWishes) => void;
}

function FormatFields({ wishes, onWishes }: FormatFieldsProps) {
  const rates = SAMPLE_RATES.filter((rate) => wishes.format !== 'mp3' || rate <= 48_000);
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-3">
      <ToggleGroup
        label="As"
        options={SOUND_FORMATS.map((value) => ({ value, name: value.toUpperCase() }))}
        isOn={(value) => value === wishes.format}
        onToggle={(format) =>
          onWishes({
            ...wishes,
            format,
            sampleRate: format === 'mp3' && wishes.sampleRate > 48_000 ? 48_000 : wishes.sampleRate,
          })
        }
      />
      <ToggleGroup
        label="Samples a second"
        options={named(rates.map(String))}
        isOn={(value) => Number(value) === wishes.sampleRate}
        onToggle={(value) => onWishes({ ...wishes, sampleRate: Number(value) as SoundWishes['sampleRate'] })}
      />
      {wishes.format !== 'mp3' && (
        <ToggleGroup
          label="Bits"
          options={named(SAMPLE_BITS.map(String))}
          isOn={(value) => Number(value) === wishes.bits}
          onToggle={(value) => onWishes({ ...wishes, bits: Number(value) as SoundWishes['bits'] })}
        />
      )}
    </div>
  );
}
