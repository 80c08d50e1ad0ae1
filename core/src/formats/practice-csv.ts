import Papa from 'papaparse';
import type { LoggedTempo } from '../schema/api';
import { AppError } from '../schema/app-error';
import type { PracticeDay } from '../schema/practice';
import { TempoSchema } from '../schema/tempo';
import { writeCsv } from './write-csv';

/** Days of practice as CSV, a line for each configuration and day, for spreadsheets. Times in minutes. */
export const practiceCsv = (days: readonly PracticeDay[], titleOf: (passageId: string) => string): string =>
  writeCsv(
    days.map((one) => ({
      day: one.day,
      passage: titleOf(one.passageId),
      variant: one.variantId,
      section: one.sectionId,
      takes: one.takes,
      repetitions: one.repetitions,
      clean: one.clean,
      minutes: (one.playedS / 60).toFixed(2),
      fastMinutes: (one.fastS / 60).toFixed(2),
      firstBpm: one.openBpm ?? '',
      firstClean: one.openClean === null ? '' : one.openClean ? 'yes' : 'no',
      bestCleanBpm: one.bestCleanBpm ?? '',
    })),
  );

/** What was read of a log, and which lines could not be, with the reason. */
export interface ReadLog {
  tempos: LoggedTempo[];
  refused: { line: number; why: string }[];
}

const DAY_HEADS = ['day', 'date', 'when'];
const TEMPO_HEADS = ['bestcleanbpm', 'bpm', 'tempo', 'mm', 'speed'];
const NOTE_HEADS = ['note', 'notes', 'comment', 'remarks'];

const two = (text: string | undefined): string => (text ?? '').padStart(2, '0');

/** A day as it is written by hand, as YYYY-MM-DD: year first, or day and month in the player's order; null where it is none. */
const readDay = (text: string, dayFirst: boolean): string | null => {
  const iso = /^(\d{4})[-./](\d{1,2})[-./](\d{1,2})$/.exec(text);
  const own = /^(\d{1,2})[-./ ](\d{1,2})[-./ ](\d{4})$/.exec(text);
  const [year, month, day] = iso
    ? [iso[1], iso[2], iso[3]]
    : own
      ? dayFirst
        ? [own[3], own[2], own[1]]
        : [own[3], own[1], own[2]]
      : [];
  if (!year) return null;
  const written = `${year}-${two(month)}-${two(day)}`;
  const moment = new Date(`${written}T00:00:00Z`);
  return !Number.isNaN(moment.getTime()) && moment.toISOString().startsWith(written) ? written : null;
};

const head = (text: string): string => text.toLowerCase().replaceAll(/[^a-z]/g, '');

/**
 * Reads a log of tempos from CSV (any of comma, semicolon, tab): a column of days and one of tempos, by their heads or else the first
 * two. A line that cannot be read is named, and keeps none of the others from being read. Throws where no line can be.
 */
export const readTempoLog = (text: string, dayFirst: boolean): ReadLog => {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const heads = (data[0] ?? []).map(head);
  const place = (names: readonly string[]) => heads.findIndex((one) => names.includes(one));
  const isHeaded = place(DAY_HEADS) >= 0 && place(TEMPO_HEADS) >= 0;
  const [dayAt, tempoAt, noteAt] = isHeaded ? [place(DAY_HEADS), place(TEMPO_HEADS), place(NOTE_HEADS)] : [0, 1, 2];
  const tempos: LoggedTempo[] = [];
  const refused: ReadLog['refused'] = [];
  for (const [k, cells] of data.slice(isHeaded ? 1 : 0).entries()) {
    const line = k + (isHeaded ? 2 : 1);
    const day = readDay((cells[dayAt] ?? '').trim(), dayFirst);
    const bpm = TempoSchema.safeParse(Number((cells[tempoAt] ?? '').trim().replace(',', '.') || Number.NaN));
    if (!day) refused.push({ line, why: `“${cells[dayAt] ?? ''}” is not a day` });
    else if (!bpm.success) refused.push({ line, why: `“${cells[tempoAt] ?? ''}” is not a tempo` });
    else tempos.push({ day, bpm: bpm.data, note: (cells[noteAt] ?? '').trim().slice(0, 4000) });
  }
  if (tempos.length === 0)
    throw new AppError(
      'No line of this file has a day and a tempo. It needs a column of days and one of tempos, such as “2026-03-02, 84”.',
    );
  return { tempos: tempos.sort((a, b) => a.day.localeCompare(b.day)), refused };
};
