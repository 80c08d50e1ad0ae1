/** Rows of the settings in which the server remembers something for itself: of this place, and never of another. */
export const PROBE_KEY = 'probe';
export const CHECK_KEY = 'check';
export const RESTORE_KEY = 'restore';
export const OWN_KEYS = [PROBE_KEY, CHECK_KEY, RESTORE_KEY];
