import {
  LEAST_GOAL_PERCENT,
  MOST_GOAL_PERCENT,
  type PieceResponse,
  type SaveDateRequest,
} from '@anchorbeat/contract';
import { TextField } from '../ui/TextField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { tempoSet, withToggled, type PieceTempo } from './season.ts';

interface ProgrammeFieldsProps {
  readonly pieces: readonly PieceResponse[];
  readonly fields: SaveDateRequest;
  readonly onChange: (changes: Partial<SaveDateRequest>) => void;
}

/** What is played, in which order and how fast. */
export function ProgrammeFields({ pieces, fields, onChange }: ProgrammeFieldsProps) {
  const { pieceIds, tempi } = fields;
  const titleOf = (id: string) => pieces.find((piece) => piece.id === id)?.piece.title ?? 'Untitled';
  // Where none is chosen all are played, in the order of the shelf; their tempi can be set all the same.
  const played = pieceIds.length > 0 ? pieceIds : pieces.map(({ id }) => id);
  const moveUp = (index: number) => {
    const order = [...pieceIds];
    order.splice(index - 1, 0, ...order.splice(index, 1));
    onChange({ pieceIds: order });
  };
  return (
    <>
      <ToggleGroup
        label="Programme (none chosen: every piece)"
        options={pieces.map(({ id }) => ({ value: id, name: titleOf(id) }))}
        isOn={(id) => pieceIds.includes(id)}
        onToggle={(id) => onChange({ pieceIds: withToggled(pieceIds, id) })}
      />
      <ol aria-label="In this order" className="border-t border-faint">
        {played.map((id, index) => (
          <li key={id} className="flex flex-wrap items-end gap-x-4 gap-y-1 border-b border-faint py-1.5">
            <span className="min-w-40 flex-1 self-center text-lg">
              <span className="numeral mr-3 text-quiet">{index + 1}</span>
              {titleOf(id)}
            </span>
            <PieceTempi
              title={titleOf(id)}
              isConcert={fields.kind === 'concert'}
              tempo={(tempi ?? []).find(({ pieceId }) => pieceId === id)}
              usual={fields.goalPercent}
              onTempo={(change) => onChange({ tempi: tempoSet(tempi, id, change) })}
            />
            {pieceIds.length > 1 && (
              <button
                type="button"
                aria-label={`${titleOf(id)}: earlier`}
                disabled={index === 0}
                onClick={() => moveUp(index)}
                className="rounded-lg border-2 border-faint px-3 py-1.5 hover:border-ink disabled:opacity-45 pointer-coarse:min-h-11"
              >
                ↑
              </button>
            )}
          </li>
        ))}
      </ol>
    </>
  );
}

interface PieceTempiProps {
  readonly title: string;
  readonly isConcert: boolean;
  readonly tempo: PieceTempo | undefined;
  /** The goal of whatever has none of its own. */
  readonly usual: number;
  readonly onTempo: (change: Partial<PieceTempo>) => void;
}

/** How fast a piece is to be in the concert, and in this rehearsal; empty is as for the rest. */
function PieceTempi({ title, isConcert, tempo, usual, onTempo }: PieceTempiProps) {
  const field = (name: keyof Omit<PieceTempo, 'pieceId'>, label: string, placeholder: string) => (
    <span className="w-28">
      <TextField
        labelStands="above"
        label={label}
        aria-label={`${title}: ${label}`}
        type="number"
        inputMode="numeric"
        min={LEAST_GOAL_PERCENT}
        max={MOST_GOAL_PERCENT}
        step={1}
        placeholder={placeholder}
        value={tempo?.[name] ?? ''}
        onText={(text) => onTempo({ [name]: text.trim() === '' ? null : Math.round(Number(text)) })}
      />
    </span>
  );
  return (
    <>
      {field('goalPercent', 'Goal, %', String(usual))}
      {!isConcert && field('practicePercent', 'Today, %', 'plan')}
    </>
  );
}
