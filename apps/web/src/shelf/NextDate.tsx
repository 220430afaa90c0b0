import { useState } from 'react';
import { Link } from 'react-router';
import { dateToShow, momentOf, whenText } from '../rehearse/season.ts';
import { useListDatesQuery } from '../store/seasonApi.ts';

/** The next rehearsal and the next concert, with the way to the plan; nothing where there is neither. */
export function NextDate({ ensembleId }: { readonly ensembleId: string }) {
  const { data = [] } = useListDatesQuery(ensembleId);
  const [nowMs] = useState(() => Date.now());
  const next = dateToShow(data, nowMs);
  const concert = data.find((date) => date.kind === 'concert' && momentOf(date) >= nowMs);
  if (!next || momentOf(next) + next.minutes * 60_000 < nowMs) return null;
  return (
    <p className="mt-1">
      <Link to={`/rehearse?date=${next.id}`} className="font-semibold underline pointer-coarse:py-2.5">
        {whenText(next)}: the plan
      </Link>
      {concert && (
        <span className="text-quiet">
          {' '}
          · {concert.title || 'concert'} {whenText(concert)}
        </span>
      )}
    </p>
  );
}
