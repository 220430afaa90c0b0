import type { Act } from '../acts/act.ts';

/** Everything the podium answers to, each with its key; listed once. */
export const PODIUM_ACTS = {
  run: { key: ' ', name: 'count me in · stop', group: 'Run', pedal: 'right pedal' },
  again: { key: 'r', name: 'once more from the entry', group: 'Run' },
  onward: { key: 'j', name: 'go on from where it stopped', group: 'Run' },
  barEnd: { key: 'e', name: 'stop at the end of the bar', group: 'Run' },
  cue: {
    key: 'c',
    name: 'cue: out of a hold, on from an open repeat',
    group: 'Run',
    pedal: 'left pedal',
  },
  place: { key: 'g', name: 'go to a bar or mark (digits begin it too)', group: 'Run' },
  slower: { key: '[', name: 'slower by 5 %', group: 'Tempo' },
  faster: { key: ']', name: 'faster by 5 %', group: 'Tempo' },
  bitSlower: { key: ',', name: 'slower by 1 %', group: 'Tempo' },
  bitFaster: { key: '.', name: 'faster by 1 %', group: 'Tempo' },
  printed: { key: 'p', name: 'as printed', group: 'Tempo' },
  tap: { key: 't', name: 'tap the tempo', group: 'Tempo', isTimed: true },
  effect: { key: 'b', name: 'changes take effect on: beat · bar', group: 'Tempo' },
  click: {
    key: 'k',
    name: 'click on: pulse, subdivision, downbeats, anchors, carry, nothing',
    group: 'Click',
  },
  clickHere: {
    key: 'K',
    name: 'in the selected bars click on: as everywhere, subdivision, …',
    group: 'Click',
  },
  spoken: { key: 's', name: 'count aloud: nothing, the count-off, everything', group: 'Click' },
  overlay: { key: 'y', name: 'equal notes over the bar: 3, 4, 5, 7, 2, none', group: 'Click' },
  levels: { key: 'v', name: 'how loud each sound is', group: 'Click' },
  fade: { key: 'f', name: 'the click drops out', group: 'Click' },
  mute: { key: 'm', name: 'mute', group: 'Click' },
  louder: { key: 'ArrowUp', name: 'louder', group: 'Click' },
  softer: { key: 'ArrowDown', name: 'softer', group: 'Click' },
  loop: { key: 'l', name: 'loop: the selected bars, else four bars', group: 'Loop' },
  leaveOut: { key: 'X', name: 'leave the selected bars out today, or take them in again', group: 'Loop' },
  rounds: { key: 'o', name: 'count off each round', group: 'Loop' },
  earlier: { key: 'ArrowLeft', name: 'a bar earlier', group: 'Run' },
  later: { key: 'ArrowRight', name: 'a bar later', group: 'Run' },
  start: { key: 'Home', name: 'to the start', group: 'Run' },
  nextPiece: {
    key: 'z',
    name: 'on to the next piece of the programme or the shelf',
    group: 'Run',
  },
  along: {
    key: 'i',
    name: 'play along: nobody, every beat, every group, the carry, the notes',
    group: 'Run',
  },
  tryOn: { key: 'T', name: 'try it on simulated players, with a habit', group: 'Run' },
  microphone: { key: 'q', name: 'listen to takes with the microphone', group: 'Run' },
  together: { key: 'a', name: 'all together: the stands of this rehearsal', group: 'Room' },
  sections: { key: 'u', name: 'what the sections played along', group: 'Room' },
  school: { key: 'n', name: 'how the bar is counted', group: 'Screen' },
  hand: { key: 'h', name: 'show the hand, or not', group: 'Screen' },
  patterns: { key: 'd', name: 'how the hand goes in every meter', group: 'Screen' },
  pedal: { key: 'x', name: 'pedals on the screen', group: 'Screen' },
  full: { key: 'w', name: 'full screen', group: 'Screen' },
} as const satisfies Readonly<Record<string, Pick<Act, 'key' | 'name' | 'group' | 'pedal' | 'isTimed'>>>;

export type PodiumAct = keyof typeof PODIUM_ACTS;
export const PODIUM_ACT_NAMES = Object.keys(PODIUM_ACTS) as PodiumAct[];
