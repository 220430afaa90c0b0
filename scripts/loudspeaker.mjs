/**
 * Runs in a page, before anything else of it: gives it a loudspeaker as devices have them, whose clock goes on by itself, by so many
 * millionths faster than the page's own. The one of a browser without a sound card is a timer that leaves out whatever it comes too
 * late for, on busy cores up to a third of all sound. `window.loseSound(seconds)` leaves the page without sound for so long, as a
 * device does that is busy elsewhere.
 */
export function steadyLoudspeaker({ fasterPpm }) {
  const BLOCK_FRAMES = 128;
  const LATENCY_SECONDS = 0.03;
  // Somebody may hold the page's own clock still later on.
  const pageMs = performance.now.bind(performance);
  const clocks = new WeakMap();
  let silentUntilMs = 0;

  const secondsOf = (context, nowMs = pageMs()) => {
    const clock = clocks.get(context) ?? { seconds: 0, sinceMs: null };
    if (!clocks.has(context)) context.addEventListener('statechange', () => secondsOf(context));
    clocks.set(context, clock);
    if (clock.sinceMs !== null) {
      const fromMs = Math.max(clock.sinceMs, Math.min(silentUntilMs, nowMs));
      clock.seconds += ((nowMs - fromMs) / 1000) * (1 + fasterPpm / 1e6);
    }
    clock.sinceMs = context.state === 'running' ? nowMs : null;
    return clock.seconds;
  };
  window.loseSound = (seconds) => {
    silentUntilMs = pageMs() + seconds * 1000;
  };

  const ownTime = Object.getOwnPropertyDescriptor(BaseAudioContext.prototype, 'currentTime').get;
  const define = (type, name, get) =>
    Object.defineProperty(type.prototype, name, { configurable: true, get });
  define(BaseAudioContext, 'currentTime', function () {
    if (!(this instanceof AudioContext)) return ownTime.call(this);
    const blocks = Math.floor((secondsOf(this) * this.sampleRate) / BLOCK_FRAMES);
    return (blocks * BLOCK_FRAMES) / this.sampleRate;
  });
  define(AudioContext, 'baseLatency', () => 0);
  define(AudioContext, 'outputLatency', () => LATENCY_SECONDS);
  AudioContext.prototype.getOutputTimestamp = function () {
    // One look at one clock: a page that is held up between two would put its sound as much later.
    const nowMs = pageMs();
    return { contextTime: Math.max(0, secondsOf(this, nowMs) - LATENCY_SECONDS), performanceTime: nowMs };
  };
}
