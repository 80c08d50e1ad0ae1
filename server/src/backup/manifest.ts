import { z } from 'zod';

/** The names within a backup: a ZIP file with the database as SQLite, the recordings as WAV, and what is played along with as it was brought. */
export const DATABASE_NAME = 'isochron.db';
export const MANIFEST_NAME = 'manifest.json';
export const recordingName = (file: string): string => `recordings/${file}`;

/** What a file of sound may be called: a name, and never a way to anywhere. */
export const SOUND_FILE = /^\w[\w.-]*\.(wav|sound)$/;

/** What a backup says of itself: every file in it with its length and checksum. */
export const ManifestSchema = z.object({
  isochronBackup: z.literal(1),
  madeAt: z.iso.datetime(),
  files: z
    .array(
      z.object({
        name: z.string().regex(/^(isochron\.db|recordings\/\w[\w.-]*\.(wav|sound))$/),
        bytes: z.number().int().min(0),
        sha256: z.string().regex(/^[0-9a-f]{64}$/),
      }),
    )
    .refine((files) => new Set(files.map(({ name }) => name)).size === files.length),
  /** Recordings that the database names and that were not there. */
  missing: z.array(z.string().regex(SOUND_FILE)),
  /** Recordings that were not as they had been stored. */
  damaged: z.array(z.string().regex(SOUND_FILE)).default([]),
});

export type Manifest = z.infer<typeof ManifestSchema>;

/** Told how far something has come, in bytes; may throw to stop it. */
export type OnProgress = (doneBytes: number, ofBytes: number) => void;
