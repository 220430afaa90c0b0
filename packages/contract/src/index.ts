export { PROBLEM_TYPES } from './problem.ts';
export type { FieldProblem, ProblemDocument, StaleProblemDocument } from './problem.ts';
export { CreateEnsembleRequest, UpdateEnsembleRequest } from './ensembles/requests.ts';
export { pieceProblems } from './pieces/isPiece.ts';
export { CreatePieceRequest, SaveRevisionRequest, ShelvePieceRequest } from './pieces/requests.ts';
export type { EnsembleResponse, PieceResponse, RevisionResponse, SavedResponse } from './pieces/responses.ts';
export { LogRunRequest, SaveDrillRequest } from './drills/requests.ts';
export {
  LEAST_GOAL_PERCENT,
  MOST_GOAL_PERCENT,
  MOST_KEY_LENGTH,
  MOST_PAUSE_SECONDS,
  KeepDateRequest,
  SaveDateRequest,
} from './season/requests.ts';
export type { DateResponse } from './season/responses.ts';
export type { DrillResponse, RunResponse } from './drills/responses.ts';
export { archiveLines, changesAnything } from './archives/words.ts';
export type { ArchivedPiecePreview, ArchivePreview } from './archives/responses.ts';
export type { BackupResponse } from './backups/responses.ts';
export { ReportErrorRequest } from './reports/requests.ts';
export {
  ACCOUNT_HEADER,
  AddMemberRequest,
  ChangePasswordRequest,
  CreateAccountRequest,
  LONGEST_PASSWORD,
  MemberPartRequest,
  PASSWORD_WORDS,
  SHORTEST_PASSWORD,
  SignInRequest,
} from './accounts/requests.ts';
export type {
  MemberResponse,
  MemberRole,
  SessionResponse,
  SignedIn,
  SignInResponse,
} from './accounts/responses.ts';
export {
  HandOutMessage,
  SharePiecesMessage,
  HearingMessage,
  JoinRequest,
  MOST_HANDED_LINES,
  MOST_MESSAGE,
  OpenPieceMessage,
  RoomSettingsMessage,
  SayMessage,
  settingsIn,
  StandReportMessage,
  StartRunMessage,
  TakenMessage,
  TellMessage,
  UpdateStandRequest,
} from './rooms/requests.ts';
export { SOCKET_PATH } from './rooms/responses.ts';
export type {
  Answer,
  ClockStamps,
  JoinResponse,
  RoomEvents,
  RoomResponse,
  StandPresence,
  StandTake,
} from './rooms/responses.ts';
