import { HEARINGS, hearingOf, type Hearing, type RoomState } from '@anchorbeat/core';
import type { EnsembleResponse, RoomResponse, StandPresence } from '@anchorbeat/contract';
import { useState } from 'react';
import { toast } from '../ui/toast.ts';
import { useRoom, useRoomView } from '../room/RoomContext.tsx';
import { problemText } from '../store/api.ts';
import {
  useChangeRoomCodeMutation,
  useDirects,
  useEndRoomMutation,
  useListRoomsQuery,
  useOpenRoomMutation,
  useRemoveStandMutation,
} from '../store/peopleApi.ts';
import { AskFirst } from '../ui/AskFirst.tsx';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { JoinCard } from './JoinCard.tsx';
import { presenceWords, sectionsIn, standsWords } from './presence.ts';
import { Elsewhere, NextUp, TakeHome, TapsAlong, Words, type Say } from './ToStands.tsx';

const HEARING_NAMES: Readonly<Record<Hearing, string>> = {
  pulse: 'the pulse',
  anchors: 'anchors only',
  carry: 'the carry',
  spoken: 'the count, spoken',
  nothing: 'nothing',
};

interface TogetherDialogProps {
  readonly ensemble: EnsembleResponse;
  readonly onClose: () => void;
}

/** The rehearsal's stands: who is there and how well locked, what each section hears, and words for them. */
export function TogetherDialog({ ensemble, onClose }: TogetherDialogProps) {
  const { response, view } = useRoomView();
  // One may have been opened on another device meanwhile.
  const { data: rooms, isFetching } = useListRoomsQuery(ensemble.id, { refetchOnMountOrArgChange: true });
  const isComing = response !== null || (rooms?.length ?? 0) > 0;
  return (
    <DialogShell
      title="All together"
      description={
        response
          ? 'Every stand follows what you run, on one clock. What sounds goes on when a network drops.'
          : 'Phones and tablets on the stands follow what you run here, each with what its section needs.'
      }
      width="widest"
      focusesFirst={false}
      onClose={onClose}
    >
      {response && view?.room ? (
        <Rehearsal ensemble={ensemble} response={response} room={view.room} stands={view.stands} />
      ) : isComing || isFetching ? (
        <p className="mt-6 text-lg text-quiet">
          {isComing ? 'Coming into the rehearsal …' : 'Looking for a rehearsal …'}
        </p>
      ) : (
        <OpenRehearsal ensembleId={ensemble.id} />
      )}
    </DialogShell>
  );
}

function OpenRehearsal({ ensembleId }: { readonly ensembleId: string }) {
  const room = useRoom();
  const [openRoom, { isLoading }] = useOpenRoomMutation();
  const [problem, setProblem] = useState('');
  const open = () => {
    openRoom(ensembleId)
      .unwrap()
      .then((response) => room.enter(response))
      .catch((error: unknown) => setProblem(problemText(error)));
  };
  return (
    <div className="mt-6 grid justify-items-start gap-4">
      <Button filled autoFocus className="px-8 py-4 text-xl" disabled={isLoading} onClick={open}>
        Open a rehearsal
      </Button>
      <p role="alert" className="min-h-6 text-problem">
        {problem}
      </p>
    </div>
  );
}

interface RehearsalProps {
  readonly ensemble: EnsembleResponse;
  readonly response: RoomResponse;
  readonly room: RoomState;
  readonly stands: readonly StandPresence[];
}

function Rehearsal({ ensemble, response, room, stands }: RehearsalProps) {
  const hand = useRoom();
  const say = (event: string, message: object) =>
    void hand.say(event, message).catch((error: unknown) => toast((error as Error).message));
  const directs = useDirects(ensemble.id);
  const sections = sectionsIn(ensemble.sections, stands);
  return (
    <div className="mt-5 grid gap-x-10 gap-y-6 lg:grid-cols-[20rem_minmax(0,1fr)]">
      <div className="grid content-start gap-4">
        <JoinCard response={response} />
        <RoomEnds response={response} />
      </div>
      <div className="min-w-0">
        <div className="flex flex-wrap items-center gap-3">
          <h3 className="w-full font-display text-xl font-bold sm:w-auto" data-testid="stands-there">
            {standsWords(stands)}
          </h3>
          <Button
            className="sm:ml-auto"
            aria-pressed={room.isMuted}
            onClick={() => say('settings', { isMuted: !room.isMuted })}
          >
            {room.isMuted ? 'Let all sound' : 'Mute all'}
          </Button>
          {directs ? (
            <Button
              aria-pressed={room.coDirectorsLead}
              title="Start, stop, tempo and cues, for those who lead this ensemble beside its director"
              onClick={() => say('settings', { coDirectorsLead: !room.coDirectorsLead })}
            >
              {room.coDirectorsLead ? 'Co-directors lead too' : 'Only you lead'}
            </Button>
          ) : (
            <span className="text-quiet">
              {room.coDirectorsLead ? 'You lead too' : 'The director leads; you follow'}
            </span>
          )}
          {room.alone !== null && (
            <Button onClick={() => say('settings', { alone: null })}>All sections again</Button>
          )}
        </div>
        <Elsewhere mayShow={directs || room.coDirectorsLead} say={say} />
        <TapsAlong room={room} say={say} />
        <Words sections={sections} say={say} />
        <NextUp room={room} say={say} />
        <TakeHome room={room} say={say} />
        {/* Last: it grows with every stand that comes, and what is about to be pressed keeps its place. */}
        <ul className="mt-5 border-t border-faint">
          {sections.map((section) => (
            <SectionRow
              key={section}
              section={section}
              room={room}
              roomId={response.id}
              stands={stands.filter((stand) => stand.section === section)}
              say={say}
            />
          ))}
        </ul>
      </div>
    </div>
  );
}

interface SectionRowProps {
  readonly section: string;
  readonly room: RoomState;
  readonly roomId: string;
  readonly stands: readonly StandPresence[];
  readonly say: Say;
}

function SectionRow({ section, room, roomId, stands, say }: SectionRowProps) {
  const [removeStand] = useRemoveStandMutation();
  const isAlone = room.alone?.includes(section) ?? false;
  const others = room.alone ?? [];
  const alone = isAlone ? others.filter((name) => name !== section) : [...others, section];
  const isSilent = hearingOf(room, section) === 'nothing';
  return (
    <li className="grid gap-1.5 border-b border-faint py-2.5" data-testid={`section ${section}`}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <b className={`min-w-28 text-lg ${isSilent ? 'text-quiet' : ''}`}>{section}</b>
        <label className="flex items-center gap-2 text-quiet">
          hears
          <select
            aria-label={`What ${section} hear`}
            className="rounded-lg border-2 border-faint bg-ground px-2 py-1 text-ink"
            value={room.hearings[section] ?? 'pulse'}
            onChange={({ target }) => say('hear', { section, hearing: target.value })}
          >
            {HEARINGS.map((hearing) => (
              <option key={hearing} value={hearing}>
                {HEARING_NAMES[hearing]}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          aria-pressed={isAlone}
          className={`rounded-lg border-2 px-3 py-1 ${isAlone ? 'border-ink bg-selection font-semibold' : 'border-faint text-quiet'}`}
          onClick={() => say('settings', { alone: alone.length > 0 ? alone : null })}
        >
          {room.alone === null ? 'alone' : isAlone ? 'sounds' : 'add'}
        </button>
      </div>
      {stands.length === 0 ? (
        <p className="text-quiet">no stand yet</p>
      ) : (
        <ul className="flex flex-wrap gap-x-6 gap-y-1">
          {stands.map((stand) => {
            const { words, isWell } = presenceWords(stand);
            return (
              <li key={stand.standId} className="flex items-baseline gap-2">
                <span className={isWell ? 'text-carry-text' : 'text-problem'} aria-hidden>
                  {isWell ? '●' : '▲'}
                </span>
                <span>{stand.name || 'a stand'}</span>
                <span className={isWell ? 'text-quiet' : 'text-problem'}>{words}</span>
                <button
                  type="button"
                  aria-label={`Take ${stand.name || 'this stand'} out of the rehearsal`}
                  className="text-quiet underline"
                  onClick={() =>
                    void removeStand({ roomId, standId: stand.standId })
                      .unwrap()
                      .catch((error: unknown) => toast(problemText(error)))
                  }
                >
                  out
                </button>
              </li>
            );
          })}
        </ul>
      )}
    </li>
  );
}

function RoomEnds({ response }: { readonly response: RoomResponse }) {
  const room = useRoom();
  const [changeCode] = useChangeRoomCodeMutation();
  const [endRoom] = useEndRoomMutation();
  const fail = (error: unknown) => void toast(problemText(error));
  return (
    <div className="flex flex-wrap gap-3">
      <Button
        onClick={() =>
          void changeCode(response.id)
            .unwrap()
            .then((changed) => room.enter(changed))
            .catch(fail)
        }
      >
        New code
      </Button>
      <AskFirst
        words="End the rehearsal"
        question="All stands leave."
        yes="End it"
        no="Go on"
        does={() =>
          void endRoom(response.id)
            .unwrap()
            .then(() => room.leave())
            .catch(fail)
        }
      />
    </div>
  );
}
