/** What was stored under another name before version 0.2, and its name now. */
const NAME_NOW: ReadonlyMap<string, string> = new Map([
  ['school', 'strategy'],
  ['schools', 'strategies'],
  ['schoolId', 'strategyId'],
  ['schoolOptions', 'strategyOptions'],
  ['course', 'config'],
  ['sitting', 'session'],
  ['sittingId', 'sessionId'],
  ['standing', 'snapshot'],
  ['closing', 'summary'],
  ['way', 'repetitionKind'],
  ['sure', 'confidence'],
  ['demand', 'toleranceUsage'],
  ['wobble', 'unsteadiness'],
  ['wobbleMs', 'unsteadinessMs'],
  ['doubledMs', 'doubleAttackMs'],
  ['leastRepetitions', 'minRepetitions'],
  ['alongLevel', 'playAlongLevel'],
]);

/** `along` is a practice mode as well, whose name stays: the recording is told by what it holds. */
const isPlayAlong = (value: unknown): boolean =>
  value === null || (typeof value === 'object' && 'accompanimentId' in (value as object));

/** A document as it is read today, of one that a browser kept or a database held under the names of before. */
export const withPresentNames = (document: unknown): unknown => {
  if (Array.isArray(document)) return document.map(withPresentNames);
  if (typeof document !== 'object' || document === null) return document;
  return Object.fromEntries(
    Object.entries(document).map(([name, value]) => [
      name === 'along' && isPlayAlong(value) ? 'playAlong' : (NAME_NOW.get(name) ?? name),
      withPresentNames(value),
    ]),
  );
};
