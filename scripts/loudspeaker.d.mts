export function steadyLoudspeaker(loudspeaker: { readonly fasterPpm: number }): void;
