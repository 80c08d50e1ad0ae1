import {
  beatsNumber,
  type Exercise,
  intervalMs,
  notesPerBeat,
  type Repetition,
  type Tolerance,
  toleranceWindowMs,
} from '@isochron/core';
import { scaleLinear } from 'd3-scale';

/** One note's stroke on the strip. */
export interface Stroke {
  index: number;
  /** Where the gridline is, and where the stroke is, in pixels. */
  gridX: number;
  x: number | null;
  /** Deviation shown: from the repetition's own placement unless latency is known. */
  shownMs: number | null;
  side: 'early' | 'late' | 'on';
}

export interface StripScale {
  width: number;
  /** x of a position in beats. */
  beatX: (beat: number) => number;
  /** Half-width of the tolerance band and the farthest a stroke is drawn from its gridline, in pixels. */
  bandPx: number;
  reachPx: number;
}

const GUTTER_LEFT = 96;
const GUTTER_RIGHT = 220;
const INSET = 26;

/** The horizontal layout of a strip: notes evenly by notated position, the tolerance a fixed share of the narrowest column. */
export const stripScale = (exercise: Exercise, width: number): StripScale => {
  const at = exercise.events.map((event) => beatsNumber(event.at));
  const beatX = scaleLinear()
    .domain([Math.min(...at), Math.max(...at)])
    .range([GUTTER_LEFT + INSET, width - GUTTER_RIGHT - INSET]);
  const column = beatX(1 / notesPerBeat(exercise)) - beatX(0);
  const narrow = Math.min(column, 90);
  return { width, beatX, bandPx: 0.26 * narrow, reachPx: 0.47 * narrow };
};

/** The strokes of one repetition. Deviations are drawn so that the window's edge is the band's edge. */
export const strokesOf = (
  repetition: Repetition,
  exercise: Exercise,
  scale: StripScale,
  tolerance: Tolerance,
  calibrated: boolean,
): Stroke[] => {
  const beatsAt = exercise.events.map((event) => beatsNumber(event.at)).sort((a, b) => a - b);
  const centre = calibrated ? 0 : (repetition.measures.placementMs?.value ?? 0);
  const windowMs = toleranceWindowMs(tolerance, intervalMs(repetition.tempoBpm, notesPerBeat(exercise)));
  return repetition.notes.map((note, k) => {
    const gridX = scale.beatX(beatsAt[k] ?? 0);
    if (note.deviationMs === null) return { index: note.index, gridX, x: null, shownMs: null, side: 'on' };
    const shownMs = note.deviationMs - centre;
    const px = Math.max(-scale.reachPx, Math.min(scale.reachPx, (shownMs / windowMs) * scale.bandPx));
    const side = Math.abs(shownMs) <= windowMs ? 'on' : shownMs < 0 ? 'early' : 'late';
    return { index: note.index, gridX, x: gridX + px, shownMs, side };
  });
};

/** Where the extra notes of a repetition lie, in pixels. */
export const extraXs = (repetition: Repetition, scale: StripScale): number[] =>
  repetition.extras.map((extra) => scale.beatX(((extra.timeS - repetition.downbeatS) * repetition.tempoBpm) / 60));
