import { z } from 'zod';

/** Exact beats as text, see beats.ts. What is no fraction is looked at no further. */
export const BeatsSchema = z
  .string()
  .regex(/^-?\d{1,9}(\/[1-9]\d{0,8})?$/, { error: 'Write beats as a whole number or a fraction, like 3/2.', abort: true });

/** Ids of what the player makes and names: short, lower case, fit for an address. */
export const NameIdSchema = z.string().regex(/^[a-z0-9-]{1,64}$/, 'An id has lower-case letters, digits and hyphens only.');
/** Identifiers that the browser makes: lower-case UUIDs. */
export const IdSchema = z.uuid();
/** The name of a time zone, as the IANA database has it. */
export const ZoneSchema = z
  .string()
  .max(64)
  .refine((timeZone) => {
    try {
      new Intl.DateTimeFormat('en', { timeZone });
      return timeZone !== '';
    } catch {
      return false;
    }
  }, 'This time zone is not known.');

/** A machine whose clock lost its battery begins in 1970; what lies far outside would stand at an end of every list for good. */
const YEARS = [1970, 2199] as const;

/** A moment, ISO 8601 in UTC. */
export const MomentSchema = z.iso.datetime().refine((moment) => {
  const year = Number(moment.slice(0, 4));
  return year >= YEARS[0] && year <= YEARS[1];
}, 'This moment is of no year in which anybody practises. Set the clock of this device.');
