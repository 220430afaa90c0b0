import { useKept } from '../kept/kept.ts';
import { keptOwnSettings, MOST_CORRECTION_MS, type OwnSettings } from './ownSettings.ts';

interface OwnSettingsSheetProps {
  readonly section: string;
  readonly onClose: () => void;
  /** Out of the rehearsal; left out where there is none. */
  readonly onLeave?: () => void;
}

/** The way to this device's own sound; it says when that is muted. */
export function SoundButton({ onPress }: { readonly onPress: () => void }) {
  const [{ isMuted }] = useKept(keptOwnSettings);
  return (
    <button
      type="button"
      className="min-h-11 shrink-0 rounded-xl border-2 border-faint px-3 py-1.5 font-semibold text-ink"
      onClick={onPress}
    >
      {isMuted ? 'Muted' : 'Sound'}
    </button>
  );
}

/** What a player turns on their own device: how loud, muted, felt, how late, which light. */
export function OwnSettingsSheet({ section, onClose, onLeave }: OwnSettingsSheetProps) {
  const [own, setOwn] = useKept(keptOwnSettings);
  const change = (changes: Partial<OwnSettings>) => setOwn({ ...own, ...changes });
  const canFeel = 'vibrate' in navigator;
  return (
    <div
      role="dialog"
      aria-label="Sound of this device"
      className="fixed inset-0 grid grid-cols-1 content-start gap-6 overflow-y-auto bg-raised p-6 text-lg text-ink"
      onKeyDown={({ key }) => key === 'Escape' && onClose()}
    >
      <header className="flex flex-wrap items-center gap-4">
        <h2 className="text-3xl font-extrabold">{section}</h2>
        <button
          type="button"
          autoFocus
          className="ml-auto rounded-xl border-2 border-ink px-5 py-2 font-bold"
          onClick={onClose}
        >
          Done
        </button>
      </header>
      <label className="grid gap-2">
        How loud
        <input
          type="range"
          min={0}
          max={1}
          step={0.02}
          value={own.level}
          className="h-8 w-full accent-entry"
          onChange={({ target }) => change({ level: Number(target.value) })}
        />
        <span className="text-base text-quiet">
          As loud as you need to hear it and no louder; an hour of loud clicks in the ears is too much.
        </span>
      </label>
      <Switch label="Muted on this device" isOn={own.isMuted} onTurn={(isMuted) => change({ isMuted })} />
      {canFeel ? (
        <Switch
          label="Felt: the phone shakes on each beat"
          isOn={own.isFelt}
          onTurn={(isFelt) => change({ isFelt })}
        />
      ) : (
        <p className="text-base text-quiet">This device cannot shake on the beat.</p>
      )}
      <fieldset className="grid min-w-0 gap-2">
        <legend>Sounds too early or too late against the podium</legend>
        <div className="flex max-w-[26rem] items-center gap-2 sm:gap-3">
          <Nudge by={-10} own={own} onChange={change} />
          <Nudge by={-1} own={own} onChange={change} />
          <output
            className="numeral min-w-0 flex-1 text-center text-xl font-bold whitespace-nowrap sm:text-2xl"
            data-testid="correction"
          >
            {`${own.correctionMs}`.replace('-', '−')} ms
          </output>
          <Nudge by={1} own={own} onChange={change} />
          <Nudge by={10} own={own} onChange={change} />
        </div>
        <span className="text-base text-quiet">
          While the click runs, turn it up until podium and stand are one click. Sound takes 3 ms a metre:
          hold the phone near the podium. Headphones without a cable are often 100 to 300 ms late and do not
          say so.
        </span>
      </fieldset>
      <Switch
        label="Light for a bright hall"
        isOn={own.look === 'desk'}
        onTurn={(isDesk) => change({ look: isDesk ? 'desk' : 'hall' })}
      />
      {onLeave && (
        <button type="button" className="min-h-11 justify-self-start text-quiet underline" onClick={onLeave}>
          Leave this rehearsal
        </button>
      )}
    </div>
  );
}

interface SwitchProps {
  readonly label: string;
  readonly isOn: boolean;
  readonly onTurn: (isOn: boolean) => void;
}

function Switch({ label, isOn, onTurn }: SwitchProps) {
  return (
    <label className="flex min-h-11 items-center gap-4">
      <input
        type="checkbox"
        className="size-6 shrink-0 accent-entry"
        checked={isOn}
        onChange={({ target }) => onTurn(target.checked)}
      />
      {label}
    </label>
  );
}

interface NudgeProps {
  readonly by: number;
  readonly own: OwnSettings;
  readonly onChange: (changes: Partial<OwnSettings>) => void;
}

/** A positive correction lets this device sound earlier: it is late by so much. */
function Nudge({ by, own, onChange }: NudgeProps) {
  const inside = (value: number) => Math.min(MOST_CORRECTION_MS, Math.max(-MOST_CORRECTION_MS, value));
  return (
    <button
      type="button"
      aria-label={`${Math.abs(by)} ms ${by < 0 ? 'less' : 'more'} late`}
      className="numeral min-w-11 shrink-0 rounded-xl border-2 border-faint px-2 py-2 font-bold sm:min-w-14"
      onClick={() => onChange({ correctionMs: inside(own.correctionMs + by) })}
    >
      {by > 0 ? `+${by}` : `−${-by}`}
    </button>
  );
}
