import {
  type Accompaniment,
  API,
  AppError,
  type Correction,
  type LibraryChange,
  type LoggedTempo,
  MAX_FAULT_LENGTH,
  ownZone,
  type Passage,
  type PracticeConfigChange,
  type PracticeConfigKey,
  type PracticeQuery,
  type PracticeSession,
  type ProgressQuery,
  practiceConfigId,
  RequestErrorSchema,
  type Settings,
  type Solution,
  type Take,
  type TakeQuery,
} from '@isochron/core/schema';
import type { z } from 'zod';
import { playerMessage } from '../app/report-error';

/** The server refused, or could not be reached (`status` 0). The message is a sentence for the player. */
export class ApiError extends AppError {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const UNREACHABLE = 'The Isochron server does not answer. What you play is kept here and sent when it is back.';

const send = async (path: string, init?: RequestInit): Promise<Response> => {
  let response: Response;
  try {
    // Days are those of the player's calendar.
    response = await fetch(`/api${path}`, { ...init, headers: { 'Time-Zone': ownZone(), ...init?.headers } });
  } catch {
    throw new ApiError(0, UNREACHABLE);
  }
  if (response.ok) return response;
  const refusal = RequestErrorSchema.safeParse(await response.json().catch(() => null));
  throw new ApiError(response.status, refusal.success ? refusal.data.message : UNREACHABLE);
};

/** What the server answers, as its schema says it. */
const answered = async <Schema extends z.ZodType>(answer: Promise<Response>, schema: Schema): Promise<z.output<Schema>> =>
  schema.parse(await (await answer).json());

const read = <Schema extends z.ZodType>(path: string, schema: Schema) => answered(send(path), schema);

/** `keepalive` lets a small request outlive the page that sent it. */
const write = (method: 'PUT' | 'PATCH' | 'POST', path: string, body: unknown, keepalive = false): Promise<Response> =>
  send(path, { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body), keepalive });

/** Sends the details of a fault to the server's log. Where that cannot be, it stays in the browser's own. */
export const postFault = (details: string): void => {
  write('POST', '/faults', { details: details.slice(0, MAX_FAULT_LENGTH) }, true).catch(() => {});
};

/** What is asked for, as an address says it. */
const asAddress = (query: object): string =>
  String(new URLSearchParams(Object.entries(query).map(([name, value]) => [name, String(value)])));

export const getHealth = () => read('/health', API.health);
export const getPassages = () => read('/passages', API.passages);
export const getPassage = (id: string) => read(`/passages/${id}`, API.passage);
/** Stores a passage in place of a revision; gives back what is stored. */
export const putPassage = (passage: Passage, from: number) =>
  answered(write('PUT', `/passages/${passage.id}?from=${from}`, passage), API.passage);
export const patchLibrary = (id: string, change: LibraryChange) =>
  answered(write('PATCH', `/passages/${id}/library`, change), API.librarySummary);
export const getNotebook = () => read('/notebook', API.notebook);
export const putSolution = (solution: Solution) =>
  answered(write('PUT', `/notebook/${solution.id}`, solution, true), API.solution);
export const getPassageRepetitions = (passageId: string) => read(`/passages/${passageId}/repetitions`, API.passageRepetitions);
/** A part of a passage over its history, or over a stretch of it. */
export const getProgress = (passageId: string, query: ProgressQuery) =>
  read(`/passages/${passageId}/progress?${asAddress(query)}`, API.progress);
export const getHistory = (passageId: string) => read(`/passages/${passageId}/history`, API.history);
export const getPractice = (query: Partial<PracticeQuery>) => read(`/practice?${asAddress(query)}`, API.practice);
export const getPracticeTotals = ({ passageId, variantId, sectionId }: PracticeConfigKey) =>
  read(`/practice/totals?${asAddress({ passageId, variantId, sectionId })}`, API.configTotals);
/** Stores a log that was kept by hand; gives back how many of its lines are new. */
export const postLog = (passageId: string, tempos: readonly LoggedTempo[]) =>
  answered(write('POST', `/passages/${passageId}/log`, tempos), API.logged);
/** Writes the player's own words about a take. */
export const putNote = (takeId: string, note: string) => write('PUT', `/takes/${takeId}/note`, { note }, true);
export const getPracticeConfigs = () => read('/practice-configs', API.practiceConfigs);
/** A page of takes. */
export const getTakes = (query: Partial<TakeQuery>) => read(`/takes?${asAddress(query)}`, API.takes);
export const getTake = (id: string): Promise<Take> => read(`/takes/${id}`, API.take);
export const getEarlier = (id: string) => read(`/takes/${id}/earlier`, API.earlier);
export const getReanalysis = () => read('/reanalysis', API.reanalysis);
export const getIntegrity = () => read('/integrity', API.integrity);
/** Begins a check of everything that is stored. */
export const startCheck = async (): Promise<void> => {
  await send('/integrity', { method: 'POST' });
};
export const cancelCheck = async (): Promise<void> => {
  await send('/integrity', { method: 'DELETE' });
};
/** Sets files aside that belong to nothing, and has takes forget recordings whose file is gone. */
export const tidyUp = () => answered(send('/integrity/tidy', { method: 'POST' }), API.tidied);
export const getSettings = (): Promise<Settings> => read('/settings', API.settings);

/** Begins the re-analysis of one take, or of all that are due. */
export const startReanalysis = async (takeId?: string): Promise<void> => {
  await send('/reanalysis', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(takeId ? { takeId } : {}),
  });
};

export const cancelReanalysis = async (): Promise<void> => {
  await send('/reanalysis', { method: 'DELETE' });
};

/** Changes some of the settings; gives back all of them. */
export const patchSettings = (change: Partial<Settings>) => answered(write('PATCH', '/settings', change, true), API.settings);
/** Changes a part of a configuration; gives back the whole of it. */
export const patchPracticeConfig = (key: PracticeConfigKey, change: PracticeConfigChange) =>
  answered(write('PATCH', `/practice-configs/${practiceConfigId(key)}`, change), API.config);
export const putPracticeSession = (session: PracticeSession) => write('PUT', `/sessions/${session.id}`, session);
/** Stores a take in place of the revision that it changes; gives back the new one. */
export const putTake = (take: Take) => answered(write('PUT', `/takes/${take.id}`, take), API.stored);
/** Stores one repetition of a take, corrected by hand; gives back the take's new revision. */
export const putRepetition = (takeId: string, correction: Correction) =>
  answered(write('PUT', `/takes/${takeId}/repetitions/${correction.repetition.index}`, correction), API.stored);

/** Where a take's recording can be heard. */
/** Where a take's recording is; `asIs` for what is left of one that is damaged. */
export const recordingAddress = (takeId: string, asIs = false): string =>
  `/api/takes/${takeId}/recording${asIs ? '?asIs=1' : ''}`;
/** Null, or why a recording is not handed out, and whether what is left of it may be had: looked at by its first byte. */
export const recordingError = async (takeId: string): Promise<{ message: string; isDamaged: boolean } | null> => {
  try {
    await (await send(`/takes/${takeId}/recording`, { headers: { Range: 'bytes=0-0' } })).arrayBuffer();
    return null;
  } catch (error) {
    return { message: playerMessage(error), isDamaged: error instanceof ApiError && error.status === 422 };
  }
};

/** The checksum of a body, where the page may make one: pages of other machines may not. */
const digestOf = async (body: Uint8Array<ArrayBuffer>): Promise<Record<string, string>> => {
  if (!globalThis.crypto.subtle) return {};
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', body));
  return { 'Content-Digest': `sha-256=:${btoa(String.fromCharCode(...hash))}:` };
};

/** Stores a piece of a take's recording: which upload it belongs to, where it begins, and how long the whole is, in bytes. */
export const putRecordingPart = async (
  takeId: string,
  part: { upload: string; from: number; of: number },
  body: Uint8Array<ArrayBuffer>,
): Promise<void> => {
  const { upload, from, of } = part;
  const query = new URLSearchParams({ upload, from: String(from), of: String(of) });
  const headers = { 'Content-Type': 'audio/wav', ...(await digestOf(body)) };
  await answered(send(`/takes/${takeId}/recording?${query}`, { method: 'PUT', headers, body }), API.upload);
};

export const getAccompaniments = () => read('/accompaniments', API.accompaniments);
export const getAccompaniment = (id: string) => read(`/accompaniments/${id}`, API.accompaniment);
/** Stores a new recording to play along with, its sound as it is. */
export const postAccompaniment = (id: string, about: { title: string; lengthS: number }, sound: Blob) =>
  answered(
    send(`/accompaniments/${id}?${asAddress(about)}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: sound,
    }),
    API.accompaniment,
  );
/** Stores a recording's title and beats in place of the revision that they change. */
export const putAccompaniment = (accompaniment: Accompaniment) =>
  answered(write('PUT', `/accompaniments/${accompaniment.id}`, accompaniment), API.accompaniment);
export const deleteAccompaniment = (id: string) => send(`/accompaniments/${id}`, { method: 'DELETE' });
export const getAccompanimentSound = async (id: string): Promise<ArrayBuffer> =>
  (await send(`/accompaniments/${id}/sound`)).arrayBuffer();

export const getBackupState = () => read('/backup', API.backup);
/** Where everything can be had as one file, and all figures as JSON and CSV. */
export const backupAddress = '/api/backup/file';
export const exportAddress = '/api/backup/export';

/** Puts a backup in the place of everything; the browser reads the file as it is sent. */
export const putBackup = (file: File, signal: AbortSignal) =>
  answered(
    send('/backup', { method: 'PUT', headers: { 'Content-Type': 'application/zip' }, body: file, signal }),
    API.restored,
  );
