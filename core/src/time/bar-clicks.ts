import { beats } from '../schema/beats';
import type { ClickPlan } from '../schema/grid';
import type { Click } from './click';
import { clickedPositions, clickKindAt, isSilentBar } from './click-plan';

/** A bar that nothing is written in: what is clicked in it, of how many beats it is, and how fast they go. */
export interface BareBar {
  click: ClickPlan;
  beatsPerBar: number;
  bpm: number;
}

/** How long such a bar lasts, in seconds. */
export const bareBarS = ({ beatsPerBar, bpm }: Pick<BareBar, 'beatsPerBar' | 'bpm'>): number => (60 / bpm) * beatsPerBar;

/**
 * The clicks of one bar after another of which nothing is played. Where notes would be clicked, beats are; where the click falls silent, it
 * does so by bars.
 *
 * @param bar counted from 0
 * @param startS when it begins, in seconds
 */
export const barClicks = ({ click, beatsPerBar, bpm }: BareBar, bar: number, startS: number): Click[] => {
  if (isSilentBar(click, bar)) return [];
  const whole = beats(beatsPerBar);
  const onBeats = () => Array.from({ length: beatsPerBar }, (_, k) => beats(k));
  return clickedPositions(click, { bar, beats: whole, unitBeats: beats(1), notes: onBeats }).map((inBar) => ({
    timeS: startS + (60 / bpm) * inBar.valueOf(),
    kind: clickKindAt(click, inBar),
  }));
};
