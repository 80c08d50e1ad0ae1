import {
  API,
  type Course,
  courseId,
  RefusalSchema,
  type Repetition,
  type Settings,
  type Sitting,
  type Take,
} from '@isochron/core';
import type { z } from 'zod';

/** The server refused, or could not be reached (`status` 0). The message is a sentence for the player. */
export class ApiTrouble extends Error {
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
    response = await fetch(`/api${path}`, init);
  } catch {
    throw new ApiTrouble(0, UNREACHABLE);
  }
  if (response.ok) return response;
  const refusal = RefusalSchema.safeParse(await response.json().catch(() => null));
  throw new ApiTrouble(response.status, refusal.success ? refusal.data.message : UNREACHABLE);
};

const read = async <Schema extends z.ZodType>(path: string, schema: Schema): Promise<z.output<Schema>> =>
  schema.parse(await (await send(path)).json());

/** `keepalive` lets a small request outlive the page that sent it. */
const put = async (path: string, body: unknown, keepalive = false): Promise<void> => {
  await send(path, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body), keepalive });
};

export const getHealth = () => read('/health', API.health);
export const getPassages = () => read('/passages', API.passages);
export const getCourses = () => read('/courses', API.courses);
export const getTakes = (passageId?: string) =>
  read(passageId ? `/takes?passageId=${encodeURIComponent(passageId)}` : '/takes', API.takes);
export const getTake = (id: string): Promise<Take> => read(`/takes/${id}`, API.take);
export const getEarlier = (id: string) => read(`/takes/${id}/earlier`, API.earlier);
export const getReanalysis = () => read('/reanalysis', API.reanalysis);
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

export const putSettings = (settings: Settings) => put('/settings', settings, true);
export const putCourse = (course: Course) => put(`/courses/${courseId(course)}`, course);
export const putSitting = (sitting: Sitting) => put(`/sittings/${sitting.id}`, sitting);
export const putTake = (take: Take) => put(`/takes/${take.id}`, take);
/** Stores one repetition of a take, corrected by hand. */
export const putRepetition = (takeId: string, repetition: Repetition) =>
  put(`/takes/${takeId}/repetitions/${repetition.index}`, repetition);

/** Where a take's recording can be heard. */
export const recordingAddress = (takeId: string): string => `/api/takes/${takeId}/recording`;

export const putRecording = async (takeId: string, wav: Uint8Array<ArrayBuffer>): Promise<void> => {
  await send(`/takes/${takeId}/recording`, { method: 'PUT', headers: { 'Content-Type': 'audio/wav' }, body: wav });
};
