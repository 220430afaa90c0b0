import type { RunSession } from '../run/session.ts';
import type { RunSettings } from '../run/settings.ts';

/** What a section hears of a run: just what the podium clicks, only what it needs, or nothing. */
export const HEARINGS = ['pulse', 'anchors', 'carry', 'spoken', 'nothing'] as const;
export type Hearing = (typeof HEARINGS)[number];

/** The same run as one section hears it. Its beats are the same; only what sounds of them differs. */
export function heardSession(session: RunSession, hearing: Hearing): RunSession {
  return {
    settings: { ...session.settings, ...heardSettings(hearing, session.settings) },
    commands: session.commands.map((command) =>
      command.kind === 'change'
        ? { ...command, settings: { ...command.settings, ...heardSettings(hearing, command.settings) } }
        : command,
    ),
  };
}

/** What of some settings is heard otherwise; settings that say nothing of it are not given any. */
function heardSettings(hearing: Hearing, { clickOn, spoken }: Partial<RunSettings>): Partial<RunSettings> {
  if (hearing === 'spoken') return spoken === undefined ? {} : { spoken: 'everything' };
  if (hearing === 'pulse' || hearing === 'nothing' || clickOn === undefined) return {};
  return { clickOn: hearing };
}
