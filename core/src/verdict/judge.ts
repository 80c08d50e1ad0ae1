import type { Reason, Verdict } from '../schema/verdict';
import { CHECKS, type Judged } from './checks';

/** A check that fails by less than this share of its limit is close. */
const CLOSE_SHARE = 1 / 3;

/** With fewer notes than this, a clean repetition is said to rest on little. */
const FEW_NOTES = 6;

/**
 * The verdict of a repetition: the first check that fails gives the reason. It is close only where nothing fails by a
 * third of its limit or more, or where so few notes were played that the failure may be chance.
 */
export const judge = (judged: Judged): Verdict => {
  const failed = CHECKS.map((check) => ({ check, excess: check.excess(judged) })).filter(({ excess }) => excess > 1e-9);
  const first = failed[0];
  if (!first) {
    const sentence =
      judged.noteCount < FEW_NOTES
        ? `Every note inside the window, as far as ${judged.noteCount} notes can say.`
        : 'Every note inside the window, and even.';
    return { outcome: 'clean', reason: 'none', sentence };
  }
  const { check } = first;
  const isNear = ({ check: one, excess }: (typeof failed)[number]) =>
    excess < CLOSE_SHARE || (one.mayBeChance?.(judged) ?? false);
  const isClose = failed.every((one) => !one.check.hard && isNear(one));
  const doubt = isClose && first.excess >= CLOSE_SHARE ? ` ${judged.noteCount} notes are too few to be sure.` : '';
  const outcome = check.outcome ?? (isClose ? 'close' : 'not-yet');
  return { outcome, reason: check.reason, sentence: `${check.sentence(judged)}${doubt}` };
};

type NotJudged = Extract<Reason, 'gap' | 'silence' | 'bleed'>;

const NOT_JUDGED: Record<NotJudged, string> = {
  gap: 'The sound broke off for a moment, so this repetition is not judged.',
  silence: 'No notes were heard. Check that the input in Setup is the right one and that it is not muted.',
  bleed:
    'The click sounds as loud as your notes and could not be taken out, so this is not judged. Wear headphones for the click.',
};

/** The verdict of a repetition that cannot be judged, and is not held against the player. */
export const notJudged = (reason: NotJudged): Verdict => ({
  outcome: 'not-judged',
  reason,
  sentence: NOT_JUDGED[reason],
});
