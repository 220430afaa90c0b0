/** What becomes of a piece of an archive that is brought back. */
export interface ArchivedPiecePreview {
  readonly title: string;
  /** "goes on": its newer revisions are put on. "beside": here it went on otherwise, so it comes in as a piece of its own. */
  readonly does: 'new' | 'goes on' | 'beside' | 'same';
  /** How many revisions come in. */
  readonly revisions: number;
}

/** Of rows of one kind: how many come in, are here already, or are here otherwise and stay so. */
export interface ArchivedCount {
  readonly new: number;
  readonly same: number;
  readonly kept: number;
}

/** What bringing an archive back would do, or did. */
export interface ArchivePreview {
  readonly ensemble: string;
  /** ISO 8601, UTC. */
  readonly madeAt: string;
  readonly isNewEnsemble: boolean;
  readonly newSections: readonly string[];
  readonly pieces: readonly ArchivedPiecePreview[];
  readonly drills: ArchivedCount;
  readonly runs: ArchivedCount;
  readonly dates: ArchivedCount;
  /** Names just this outcome: bringing back is refused where it would be another. */
  readonly digest: string;
}
