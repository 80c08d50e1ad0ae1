/** Kinds of sound source that begin their notes alike. The order is part of the trained judge's input. */
export const FAMILIES = ['struck', 'plucked', 'bowed', 'blown', 'brass', 'drum', 'voice'] as const;
export type Family = (typeof FAMILIES)[number];
