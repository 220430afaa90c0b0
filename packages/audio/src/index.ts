export { Player, SCHEDULE_AHEAD_SECONDS } from './player.ts';
export type { ScheduledSound, SoundOutput, WakeTimer } from './ports.ts';
export { MOST_GROUP_LEVEL, QUIET_LEVEL, SOUND_GROUPS, WebAudioOutput } from './webAudioOutput.ts';
export type { SoundGroup } from './webAudioOutput.ts';
export { clickSamples, toneSamples } from './voices.ts';
export { CEILING, limited, limiterCurve, LIMITER_RANGE } from './limiter.ts';
export { fittingWordMaybe } from './words.ts';
export type { SpokenWord, WordIndex } from './words.ts';
export { renderSamples } from './renderSamples.ts';
