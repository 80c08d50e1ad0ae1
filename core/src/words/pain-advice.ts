/** What is said wherever it hurts: the one wording. */
export const PAIN_ADVICE =
  'Rest. Pain, numbness or tingling that stays or comes back is for a doctor or physiotherapist who treats musicians; Isochron gives no diagnosis.';
