import type { Method, MethodNeed } from '../rhythm/methods/method';
import type { Drill } from '../schema/grid';

const FOR_WHOM: Record<MethodNeed, string> = {
  'two-hands': 'For passages in which both hands play.',
  'several-notes': 'For keyboards, mallets and plucked strings.',
  'two-limbs': 'For keyboards, mallets and drums.',
  'held-note': 'For bows, winds and voices.',
  length: 'For every instrument whose notes can be held.',
  rebound: 'For sticks, mallets and bows.',
};

/** For whom a practice method is: what it asks of the passage and the instrument. */
export const forWhom = ({ needs }: Pick<Method, 'needs'>): string => (needs ? FOR_WHOM[needs] : 'For every instrument.');

/** How a drill is judged, in one sentence made of what its verdict will look at. */
export const judgedHow = ({ judging, listen, tempo, click, distraction }: Drill): string => {
  const what = listen === 'pulses' ? 'each wave of pitch' : listen === 'claps' ? 'each clap' : 'each note';
  const ruled = judging.ownTempo
    ? 'how even it is at the tempo you play, which may be any'
    : tempo
      ? `${what} against the click, which changes its tempo`
      : click.kind === 'none'
        ? `${what} against the tempo, without a click`
        : `${what} against the click`;
  const also = [
    judging.articulation === 'short' && 'whether notes are short, where that can be heard',
    judging.articulation === 'connected' && 'whether notes reach the next, where that can be heard',
    judging.dynamic && 'whether soft is softer than loud',
  ].filter((part) => typeof part === 'string');
  const ignored = [
    judging.leftOut.includes('drift') && !judging.ownTempo && 'getting faster or slower does not count',
    judging.leftOut.includes('accents') && 'accents do not count',
    distraction && 'what you answer to the task does not count',
  ].filter((part) => typeof part === 'string');
  const judged = `Judged by ${[ruled, ...also].join(', and by ')}${ignored.length > 0 ? `; ${ignored.join(', and ')}` : ''}.`;
  return click.gap ? `${judged} How far you are off when the click comes back is shown beside.` : judged;
};
