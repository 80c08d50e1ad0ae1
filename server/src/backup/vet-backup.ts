import { fork } from 'node:child_process';
import { join } from 'node:path';
import { z } from 'zod';
import { fileSize } from '../file-size';
import { programAt } from '../program';
import { RequestError } from '../request-error';
import { DATABASE_NAME, SOUND_FILE } from './manifest';
import { damagedBackup } from './unpack';

/** What the process that looks through a backup is asked. */
export const VetRequestSchema = z.object({
  /** The folder into which it was unpacked. */
  folder: z.string(),
  /** The files of sound that came with it, and those that it says were missing. */
  files: z.array(z.string().regex(SOUND_FILE)),
  missing: z.array(z.string().regex(SOUND_FILE)),
  /** What the new names of its files of sound have in them. */
  mark: z.string().regex(/^[0-9a-f]{8}$/),
});
export type VetRequest = z.infer<typeof VetRequestSchema>;

/** What it answers: the new name of each file of sound, or what is wrong. */
const VetAnswerSchema = z.union([
  z.object({ renamed: z.array(z.object({ from: z.string().regex(SOUND_FILE), to: z.string().regex(SOUND_FILE) })) }),
  z.object({ refused: z.enum(['newer', 'damaged', 'not ours']) }),
]);
export type VetAnswer = z.infer<typeof VetAnswerSchema>;

const WORDS = {
  newer: 'This backup was made by a newer version of Isochron. Use that version to restore it. Nothing was changed.',
  damaged: 'The database in this backup is damaged. Nothing was changed. Take another copy of it.',
  'not ours': 'The database in this backup is not as Isochron makes it. Nothing was changed. Take another copy of it.',
  slow: 'The database in this backup takes longer to look through than any of Isochron’s. Nothing was changed.',
};

/** A minute, and more for a database of years. */
const MIN_MS = 60_000;
const MS_PER_MB = 500;

/**
 * Looks through an unpacked database before anything of it is used, and brings it up to date: in a process of its own, which may
 * neither take for ever nor take the server with it. Gives back the new names of its files of sound. Throws a RequestError.
 */
export const vetBackup = async (request: VetRequest, limitMs?: number): Promise<{ from: string; to: string }[]> => {
  const bytes = (await fileSize(join(request.folder, DATABASE_NAME))) ?? 0;
  const answer = await new Promise<VetAnswer>((resolve, reject) => {
    const child = fork(programAt('vet-unpacked'), { stdio: ['ignore', 'ignore', 'ignore', 'ipc'], execArgv: [] });
    const timer = setTimeout(
      () => {
        reject(new RequestError(400, WORDS.slow));
        child.kill('SIGKILL');
      },
      limitMs ?? MIN_MS + (bytes / 1e6) * MS_PER_MB,
    );
    child.once('message', (message) => {
      const parsed = VetAnswerSchema.safeParse(message);
      if (parsed.success) resolve(parsed.data);
    });
    // One that fails on a database has met what no database of ours has.
    child.once('exit', () => reject(new RequestError(400, WORDS.damaged)));
    child.once('error', reject);
    child.once('exit', () => clearTimeout(timer));
    child.send(request);
  });
  if ('refused' in answer) throw new RequestError(400, WORDS[answer.refused]);
  const came = new Set(request.files);
  if (answer.renamed.some(({ from }) => !came.has(from))) throw damagedBackup('it names files that are not in it');
  return answer.renamed;
};
