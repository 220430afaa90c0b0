import type { EnsembleResponse } from '@anchorbeat/contract';

interface EnsembleNameProps {
  readonly ensemble: EnsembleResponse | undefined;
  readonly ensembles: readonly EnsembleResponse[];
  readonly onChoose: (ensembleId: string) => void;
}

/** Whose shelf this is; who leads several chooses here. */
export function EnsembleName({ ensemble, ensembles, onChoose }: EnsembleNameProps) {
  if (ensembles.length < 2 || !ensemble)
    return <h1 className="text-3xl font-bold">{ensemble?.name ?? 'Shelf'}</h1>;
  return (
    <h1 className="min-w-0 text-3xl font-bold">
      <select
        aria-label="Ensemble"
        value={ensemble.id}
        onChange={({ target }) => {
          onChoose(target.value);
          // Keys are the shelf's again.
          target.blur();
        }}
        className="max-w-full cursor-pointer truncate rounded-lg border-b-2 border-faint bg-ground font-display font-bold hover:border-ink"
      >
        {ensembles.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </h1>
  );
}
