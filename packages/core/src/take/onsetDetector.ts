/**
 * Finds onsets in sound as it comes in: claps, taps, clicks, tongued notes. Two bands are listened to, one above what our
 * own clicks are made of and one where tones are; an onset is where the energy of the last milliseconds rises over what was
 * there just before. Where one of our own clicks may be heard by the microphone, only what is louder than that click was
 * while nobody played is an onset.
 *
 * After the energy-based detectors compared in Bello et al. 2005, "A tutorial on onset detection in music signals".
 */
export class OnsetDetector {
  private readonly hop: number;
  private readonly bands: readonly [Band, Band];
  private highEnergy = 0;
  private lowEnergy = 0;
  private inHop = 0;
  private hopCount = 0;
  /** Until there is something that was before, nothing is new. */
  private lastOnsetHop = 0;
  private waiting: Waiting | null = null;
  private ownClicks: OwnClick[] = [];
  /** The most energy in each band of those clicks that were heard while nobody played. */
  private readonly leaks: [number, number] = [0, 0];
  private hasLearned = false;

  constructor(private readonly sampleRate: number) {
    this.hop = Math.max(16, Math.round(sampleRate * HOP_SECONDS));
    this.bands = [
      new Band(highPass(HIGH_FROM_HERTZ, sampleRate), highPass(HIGH_FROM_HERTZ, sampleRate), HIGH_RISE),
      new Band(highPass(LOW_FROM_HERTZ, sampleRate), lowPass(LOW_TO_HERTZ, sampleRate), LOW_RISE),
    ];
  }

  /** Tells of a click of ours that the microphone may hear. While nobody plays it shows how loud they come in. */
  expectClick(click: OwnClick): void {
    this.ownClicks.push(click);
  }

  /** Takes in samples from −1 to 1; gives the onsets that are sure by now, in seconds from the first sample on. */
  push(samples: Float32Array): readonly number[] {
    const onsets: number[] = [];
    const [high, low] = this.bands;
    // Called for every sample of what is heard.
    for (let index = 0; index < samples.length; index++) {
      const sample = samples[index] as number;
      const a = high.filtered(sample);
      const b = low.filtered(sample);
      this.highEnergy += a * a;
      this.lowEnergy += b * b;
      if (++this.inHop < this.hop) continue;
      high.took(this.highEnergy / this.hop);
      low.took(this.lowEnergy / this.hop);
      this.highEnergy = 0;
      this.lowEnergy = 0;
      this.inHop = 0;
      const onset = this.hopEnded();
      if (onset !== null) onsets.push(onset);
    }
    return onsets;
  }

  private hopEnded(): number | null {
    const hop = this.hopCount++;
    const click = this.clickAt(hop);
    if (click?.isLearning) this.learn();
    const done = this.waiting;
    if (done && hop - done.hop >= LOOK_AHEAD_HOPS) {
      this.waiting = null;
      const startHop = done.hop - done.band.hopsBack(hop - done.hop);
      return ((startHop + 0.5) * this.hop) / this.sampleRate;
    }
    if (done || hop - this.lastOnsetHop < LEAST_GAP_HOPS) return null;
    const index = this.bands.findIndex((band, at) => band.rises(click ? this.leastOver(at, click) : 0));
    const band = this.bands[index];
    if (!band) return null;
    this.lastOnsetHop = hop;
    this.waiting = { hop, band };
    return null;
  }

  /** What must be passed in a band while a click of ours may be heard. */
  private leastOver(band: number, click: OwnClick): number {
    if (click.isLearning) return Infinity;
    // Without knowing how loud they come in, tones beside a click are not told from it.
    if (!this.hasLearned) return band === 1 ? Infinity : 0;
    return (this.leaks[band] ?? 0) * OVER_LEAK;
  }

  private learn(): void {
    this.hasLearned = true;
    this.bands.forEach((band, at) => (this.leaks[at] = Math.max(this.leaks[at] ?? 0, band.fast())));
  }

  private clickAt(hop: number): OwnClick | null {
    const seconds = (hop * this.hop) / this.sampleRate;
    const past = seconds - AFTER_CLICK_SECONDS;
    while (this.ownClicks[0] && this.ownClicks[0].seconds < past) this.ownClicks.shift();
    const next = this.ownClicks[0];
    return next && next.seconds - BEFORE_CLICK_SECONDS <= seconds ? next : null;
  }
}

/** A click of ours, in seconds from the first sample on, by when the microphone hears it. */
export interface OwnClick {
  readonly seconds: number;
  /** Nobody plays with it: a count-off. */
  readonly isLearning: boolean;
}

interface Waiting {
  readonly hop: number;
  readonly band: Band;
}

const HOP_SECONDS = 0.001;
const HIGH_FROM_HERTZ = 6500;
const LOW_FROM_HERTZ = 180;
const LOW_TO_HERTZ = 5000;
/** Energy of the last three hops over that of what was just before. */
const HIGH_RISE = 5;
const LOW_RISE = 6;
const FAST_HOPS = 3;
/** What was just before: so many hops, with some between. */
const BEFORE_HOPS = 30;
const BETWEEN_HOPS = 6;
const LOOK_AHEAD_HOPS = 8;
/** No two onsets of one hand are nearer. */
const LEAST_GAP_HOPS = 60;
const BEFORE_CLICK_SECONDS = 0.004;
const AFTER_CLICK_SECONDS = 0.045;
/** Louder than a click of ours comes in, by energy. */
const OVER_LEAK = 2.5;
/** Quieter than this, by energy, is nothing: −66 dB. */
const LEAST_ENERGY = 2.5e-7;
/** Where an onset begins: the share of its peak that is reached. */
const BEGINS_AT = 0.12;
const MOST_BACK_HOPS = 14;

/** What is heard of one band, hop by hop. */
class Band {
  private readonly energies = new Float64Array(HISTORY_HOPS);
  private at = 0;
  private before = 0;
  private floor = LEAST_ENERGY;

  constructor(
    private readonly first: Filter,
    private readonly second: Filter,
    private readonly rise: number,
  ) {}

  filtered(sample: number): number {
    return this.second.next(this.first.next(sample));
  }

  took(energy: number): void {
    this.energies[this.at++ % HISTORY_HOPS] = energy;
    let sum = 0;
    for (let back = 0; back < BEFORE_HOPS; back++) sum += this.back(BETWEEN_HOPS + back);
    this.before = sum / BEFORE_HOPS;
    // The noise of the room: follows down at once, up within seconds.
    this.floor = Math.max(LEAST_ENERGY, Math.min(this.before, this.floor * 1.002));
  }

  /** Mean energy of the last hops. */
  fast(): number {
    let sum = 0;
    for (let back = 0; back < FAST_HOPS; back++) sum += this.back(back);
    return sum / FAST_HOPS;
  }

  rises(least: number): boolean {
    const fast = this.fast();
    return fast > this.rise * this.before && fast > this.rise * this.floor && fast > least;
  }

  /** How many hops before `ago` hops back the onset began that was noticed then. */
  hopsBack(ago: number): number {
    let peak = 0;
    for (let back = 0; back <= ago + 2; back++) peak = Math.max(peak, this.back(back));
    const begins = this.before + BEGINS_AT * (peak - this.before);
    let back = ago + MOST_BACK_HOPS;
    while (back > 0 && this.back(back) < begins) back--;
    return back - ago;
  }

  private back(hops: number): number {
    const index = this.at - 1 - hops;
    return index < 0 ? 0 : (this.energies[index % HISTORY_HOPS] as number);
  }
}

const HISTORY_HOPS = 64;

/** A filter of second order (Butterworth), as in R. Bristow-Johnson's audio EQ cookbook. */
class Filter {
  private x1 = 0;
  private x2 = 0;
  private y1 = 0;
  private y2 = 0;

  constructor(
    private readonly b0: number,
    private readonly b1: number,
    private readonly a1: number,
    private readonly a2: number,
  ) {}

  next(x: number): number {
    const y = this.b0 * (x + this.x2) + this.b1 * this.x1 - this.a1 * this.y1 - this.a2 * this.y2;
    this.x2 = this.x1;
    this.x1 = x;
    this.y2 = this.y1;
    this.y1 = y;
    return y;
  }
}

function highPass(hertz: number, sampleRate: number): Filter {
  const { cos, alpha } = turn(hertz, sampleRate);
  const scale = 1 / (1 + alpha);
  const side = ((1 + cos) / 2) * scale;
  return new Filter(side, -2 * side, -2 * cos * scale, (1 - alpha) * scale);
}

function lowPass(hertz: number, sampleRate: number): Filter {
  const { cos, alpha } = turn(hertz, sampleRate);
  const scale = 1 / (1 + alpha);
  const side = ((1 - cos) / 2) * scale;
  return new Filter(side, 2 * side, -2 * cos * scale, (1 - alpha) * scale);
}

function turn(hertz: number, sampleRate: number): { readonly cos: number; readonly alpha: number } {
  const angle = (2 * Math.PI * Math.min(hertz, sampleRate * 0.45)) / sampleRate;
  return { cos: Math.cos(angle), alpha: Math.sin(angle) / Math.SQRT2 };
}
