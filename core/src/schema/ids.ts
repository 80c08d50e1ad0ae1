import { z } from 'zod';

/** Exact beats as text, see beats.ts. What is no fraction is looked at no further. */
export const BeatsSchema = z
  .string()
  .regex(/^-?\d{1,9}(\/[1-9]\d{0,8})?$/, { error: 'Write beats as a whole number or a fraction, like 3/2.', abort: true });

/** Ids of what the player makes and names: short, lower case, fit for an address. */
export const NameIdSchema = z.string().regex(/^[a-z0-9-]{1,64}$/, 'An id has lower-case letters, digits and hyphens only.');
/** Identifiers that the browser makes: lower-case UUIDs. */
export const IdSchema = z.uuid();
/** A moment, ISO 8601 in UTC. */
export const MomentSchema = z.iso.datetime();
