export { Player, SCHEDULE_AHEAD_SECONDS } from './player.ts';
export type { ScheduledSound, SoundOutput, WakeTimer } from './ports.ts';
export { QUIET_LEVEL, WebAudioOutput } from './webAudioOutput.ts';
export { clickSamples, toneSamples } from './voices.ts';
export { CEILING, limited, limiterCurve, LIMITER_RANGE } from './limiter.ts';
export { fittingWordMaybe } from './words.ts';
export type { SpokenWord, WordIndex } from './words.ts';
