import {
  CorrectionSchema,
  IdSchema,
  TakeNoteSchema,
  TakeQuerySchema,
  TakeSchema,
  withPresentNames,
} from '@isochron/core/schema';
import { type Request, Router } from 'express';
import { z } from 'zod';
import type { Store } from '../database/open';
import { checkSound, getRecording, NO_TAKE, putRecording, type RecordingPart, wholeRecording } from '../recordings';
import { RequestError } from '../request-error';
import { listTakes } from '../take-lists';
import { earlierAnalyses, getTake, putNote, putRepetition, putTake } from '../takes';
import { zoneOf } from '../zone';

/** A piece of an upload says which, from where, and of how much. */
const PartSchema = z.object({
  upload: IdSchema,
  from: z.coerce.number().int().min(0),
  of: z.coerce.number().int().min(1),
});

/** A recording that is damaged is handed out only to who asks for what is left of it. */
const AsIsSchema = z.object({ asIs: z.literal('1').optional() });

/** The checksum of a request's body, sent in the form of RFC 9530, in hexadecimal; null where there is none. */
const sha256Of = (request: Request): string | null => {
  const header = request.get('Content-Digest');
  if (header === undefined) return null;
  const found = /^sha-256=:([A-Za-z0-9+/]{43}=):$/.exec(header)?.[1];
  if (!found) throw new RequestError(400, 'The checksum of the recording cannot be read. Send sha-256, or none.');
  return Buffer.from(found, 'base64').toString('hex');
};

/** What a request says of the recording, or the piece of one, that it brings. */
const partOf = (request: Request): RecordingPart => {
  const announced = request.get('Content-Length');
  const body = { announcedBytes: announced === undefined ? null : Number(announced), sha256: sha256Of(request) };
  if (Object.keys(request.query).length === 0) return { ...wholeRecording(), ...body };
  const { upload: uploadId, from, of } = PartSchema.parse(request.query);
  return { uploadId, from, of, ...body };
};

/** `/api/takes`: list, read, store, remove, and the recording of each. */
export const takeRoutes = (store: Store): Router => {
  const routes = Router();
  routes.param('id', (_request, _response, next, id) => {
    IdSchema.parse(id);
    next();
  });
  routes.get('/', async (request, response) => {
    response.json(await listTakes(store, TakeQuerySchema.parse(request.query), zoneOf(request)));
  });
  routes.get('/:id', async (request, response) => {
    const take = await getTake(store, request.params.id);
    if (!take) throw new RequestError(404, 'There is no such take.');
    response.json(take);
  });
  routes.put('/:id', async (request, response) => {
    const take = TakeSchema.parse(withPresentNames(request.body));
    if (take.id !== request.params.id) throw new RequestError(400, 'The take and its address do not agree.');
    response.json({ revision: await putTake(store, take) });
  });
  routes.put('/:id/repetitions/:index', async (request, response) => {
    const correction = CorrectionSchema.parse(request.body);
    if (String(correction.repetition.index) !== request.params.index)
      throw new RequestError(400, 'The repetition and its address do not agree.');
    response.json({ revision: await putRepetition(store, request.params.id, correction) });
  });
  routes.put('/:id/note', async (request, response) => {
    const { note } = TakeNoteSchema.parse(request.body);
    await putNote(store, request.params.id, note);
    response.json({ note });
  });
  routes.get('/:id/earlier', async (request, response) => {
    response.json(await earlierAnalyses(store, request.params.id));
  });
  routes.put('/:id/recording', async (request, response) => {
    if ((await store.models.takes.count({ where: { id: request.params.id } })) === 0) throw new RequestError(404, NO_TAKE);
    if (request.is('json')) throw new RequestError(415, 'A recording is sent as WAV (audio/wav), not as JSON.');
    response.json(await putRecording(store, request.params.id, request, partOf(request)));
  });
  routes.get('/:id/recording', async (request, response) => {
    const recording = await getRecording(store, request.params.id);
    if (!recording) throw new RequestError(404, 'This take has no recording.');
    checkSound(recording.state, AsIsSchema.parse(request.query).asIs !== undefined);
    response.type('audio/wav').sendFile(recording.path, { dotfiles: 'allow' });
  });
  return routes;
};
