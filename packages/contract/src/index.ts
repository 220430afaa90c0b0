export { PROBLEM_TYPES } from './problem.ts';
export type { FieldProblem, ProblemDocument, StaleProblemDocument } from './problem.ts';
export { UpdateEnsembleRequest } from './ensembles/requests.ts';
export { IsPiece, pieceProblems } from './pieces/isPiece.ts';
export {
  CreatePieceRequest,
  MAX_EDIT_LENGTH,
  MAX_REVISION_EDITS,
  SaveRevisionRequest,
} from './pieces/requests.ts';
export type { EnsembleResponse, PieceResponse, RevisionResponse, SavedResponse } from './pieces/responses.ts';
export { LogRunRequest, SaveDrillRequest } from './drills/requests.ts';
export type { DrillResponse, RunResponse } from './drills/responses.ts';
