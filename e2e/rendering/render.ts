import {
  CEILING,
  clickSamples,
  limited,
  Player,
  toneSamples,
  WebAudioOutput,
  type WakeTimer,
} from '@anchorbeat/audio';
import {
  clicksIn,
  proofOf,
  readPiece,
  runFrom,
  PLAIN_RUN,
  soundsOf,
  type RunSettings,
} from '@anchorbeat/core';

const SAMPLE_RATE = 44_100;
const WAKE_SECONDS = 0.5;

export interface RenderReport {
  readonly clicks: number;
  readonly seconds: number;
  /** The most by which a rendered sample differs from the one that the core's times ask for. */
  readonly worstError: number;
  /** The same against times that are one sample late: how much a slip of one sample would show. */
  readonly errorIfOneSampleLate: number;
  readonly peak: number;
  readonly ceiling: number;
}

/** Plays a run with the app's own player and output into memory, and holds every sample against the core's times. */
export async function renderRun(
  document: unknown,
  settings: Partial<RunSettings>,
  level: number,
): Promise<RenderReport> {
  const reading = readPiece(document);
  if (!reading.ok) throw new Error(reading.problems[0]?.message);
  const proof = proofOf(reading.piece);
  const plan = runFrom(proof, 0, { ...PLAIN_RUN, spoken: 'nothing', ...settings });
  const lengthSeconds = Math.min(plan.lengthSeconds + 1, 150);
  const context = new OfflineAudioContext(1, Math.ceil(lengthSeconds * SAMPLE_RATE), SAMPLE_RATE);
  const output = new WebAudioOutput(context);
  output.setLevel(level);
  let wake = () => {};
  const timer: WakeTimer = { every: (_period, call) => ((wake = call), () => (wake = () => {})) };
  const player = new Player(output, timer);
  for (let at = WAKE_SECONDS; at < lengthSeconds; at += WAKE_SECONDS)
    void context.suspend(at).then(() => {
      wake();
      return context.resume();
    });
  await player.start(soundsOf(proof, plan), { onEnd: () => undefined });
  const clicks = clicksIn(proof, plan, { fromSeconds: 0, toSeconds: lengthSeconds });
  const rendered = (await context.startRendering()).getChannelData(0);
  const startSeconds = firstSoundSeconds(rendered) - (clicks[0]?.timeSeconds ?? 0);
  const due = clicks.filter(({ timeSeconds }) => startSeconds + timeSeconds < lengthSeconds - 1);
  const compare = (lateSamples: number) => {
    const wanted = new Float64Array(rendered.length);
    for (const { kind, pitch, timeSeconds } of due) {
      const samples = pitch === undefined ? clickSamples(kind, SAMPLE_RATE) : toneSamples(pitch, SAMPLE_RATE);
      const from = Math.round((startSeconds + timeSeconds) * SAMPLE_RATE) + lateSamples;
      samples.forEach((sample, index) => (wanted[from + index] = (wanted[from + index] ?? 0) + sample));
    }
    const settled = Math.round((startSeconds + 1.2) * SAMPLE_RATE);
    const until = Math.round((lengthSeconds - 1) * SAMPLE_RATE);
    let worst = 0;
    for (let index = settled; index < until; index++)
      worst = Math.max(worst, Math.abs(limited(level * (wanted[index] ?? 0)) - (rendered[index] ?? 0)));
    return worst;
  };
  return {
    clicks: due.length,
    seconds: lengthSeconds,
    worstError: compare(0),
    errorIfOneSampleLate: compare(1),
    peak: rendered.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0),
    ceiling: CEILING,
  };
}

function firstSoundSeconds(rendered: Float32Array): number {
  return rendered.findIndex((sample) => sample !== 0) / SAMPLE_RATE;
}

/** How loud a beat and a note over the bar come out in each ear, with both hands apart. */
export async function renderHands(): Promise<Readonly<Record<'beat' | 'overlay', readonly number[]>>> {
  const peaks = async (kind: 'beat' | 'overlay') => {
    const context = new OfflineAudioContext(2, SAMPLE_RATE, SAMPLE_RATE);
    const output = new WebAudioOutput(context);
    output.setHands(true);
    output.schedule({ kind, timeSeconds: 0 }, 0.1);
    const rendered = await context.startRendering();
    return [0, 1].map((ear) =>
      rendered.getChannelData(ear).reduce((peak, sample) => Math.max(peak, Math.abs(sample)), 0),
    );
  };
  return { beat: await peaks('beat'), overlay: await peaks('overlay') };
}
