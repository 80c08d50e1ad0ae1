import type Fraction from 'fraction.js';
import { beats, writeBeats } from '../../schema/beats';
import { meterBeats } from '../../schema/frame';
import type { Marks, MeterChange } from '../../schema/notation';
import { type Passage, type PassageNote, PassageSchema } from '../../schema/passage';
import { FIRST_VARIANT } from '../../schema/practice-config';
import { TEMPO_RANGE_BPM } from '../../schema/tempo';
import { asMeter } from './meter-of-length';
import { MAX_NOTES, type Score, type ScoreBar, type ScoreNote, UnreadableScore } from './score';
import type { ScorePart } from './score-parts';
import { settledTies } from './settled-ties';
import { unfoldedOrder } from './unfold';

/** A passage made from a file, and what was simplified on the way, one sentence each. */
export interface ReadPassage {
  passage: Passage;
  simplified: string[];
  /** What the part is called that was taken, where the file says so. */
  partName?: string;
  /** What can be taken of the file instead, this among it; empty where there is nothing to choose. */
  parts: readonly ScorePart[];
}

/** The beat that a meter is counted in: dotted values in compound meters, else its own unit, quarters at least for whole and half notes. */
const beatUnitOf = ({ count, unit }: { count: number; unit: number }): string =>
  unit >= 8 && count % 3 === 0 && count > 3 ? beats(`3/${unit}`).toFraction() : `1/${unit}`;

/** A bar in the order of playing. */
interface PlayedBar {
  bar: ScoreBar;
  /** How often this bar of the page has been played before. */
  time: number;
}

const whole = ({ count, unit }: { count: number; unit: number }): Fraction => beats(`${count}/${unit}`);

/** Two part bars that make a whole one together become one: a repeat in mid-bar, or an upbeat taken up again. */
const joined = (bars: readonly PlayedBar[]): PlayedBar[] => {
  const out: PlayedBar[] = [];
  for (const played of bars) {
    const last = out.at(-1);
    const { bar } = played;
    const isPart = (one: ScoreBar) => one.length.compare(whole(one.meter)) < 0;
    const makesWhole = last && isPart(last.bar) && isPart(bar) && last.bar.length.add(bar.length).equals(whole(last.bar.meter));
    // The pickup of the whole is no part of a bar before it.
    if (last && makesWhole && out.length > 1) {
      const moved = bar.notes.map((note) => ({ ...note, offset: note.offset.add(last.bar.length), time: played.time }));
      const notes: (ScoreNote & { time?: number })[] = [...last.bar.notes, ...moved];
      out[out.length - 1] = { ...last, bar: { ...last.bar, length: whole(last.bar.meter), notes } };
    } else out.push(played);
  }
  // A last bar that lacks the pickup is written short: it is filled up with silence.
  const [first, last] = [out[0]?.bar, out.at(-1)];
  if (first && last && out.length > 1 && last.bar.length.add(first.length).equals(whole(last.bar.meter)))
    out[out.length - 1] = { ...last, bar: { ...last.bar, length: whole(last.bar.meter) } };
  return out;
};

const UNITS = new Set([1, 2, 4, 8, 16, 32]);

/**
 * The passage that a score is: repeats written out with the numbers of the page, a first bar that is not full as pickup, other bars of
 * odd length under a time signature of their own. Throws {@link UnreadableScore} where there is nothing to play, or far too much.
 */
export const passageOfScore = (score: Score, id: string): ReadPassage => {
  const simplified = [...score.simplified];
  const order = unfoldedOrder(score.bars);
  const times = new Map<number, number>();
  const played = order.map((k): PlayedBar => {
    const time = (times.get(k) ?? 0) + 1;
    times.set(k, time);
    return { bar: score.bars[k] as ScoreBar, time };
  });
  const bars = joined(played);
  if (order.length > score.bars.length) simplified.push('Repeats are written out; bars keep the numbers of the page.');
  const firstBar = bars[0]?.bar;
  if (!firstBar) throw new UnreadableScore('There are no bars in this file. Choose another one.');
  const hasPickup = bars.length > 1 && firstBar.length.compare(whole(firstBar.meter)) < 0 && firstBar.length.compare(0) > 0;
  const meter = bars[hasPickup ? 1 : 0]?.bar.meter ?? firstBar.meter;
  const beatUnit = beatOf(score, meter);
  const unit = beats(beatUnit);
  const inBeats = (wholeNotes: Fraction) => wholeNotes.div(unit);

  const notes: PassageNote[] = [];
  const marks: Record<string, Marks> = {};
  const meters: MeterChange[] = [];
  const keys: { at: string; fifths: number }[] = [];
  const pageBars: number[] = [];
  const openSlurs = new Map<string, PassageNote>();
  let start = hasPickup ? inBeats(firstBar.length).neg() : beats(0);
  const numberOf = new Map<ScoreNote, number>();
  let count = 0;
  for (const [place, { bar, time }] of bars.entries()) {
    const isPickup = hasPickup && place === 0;
    const isOdd = !isPickup && !bar.length.equals(whole(bar.meter)) && bar.length.compare(0) > 0;
    const own = isOdd
      ? asMeter(bar.length)
      : UNITS.has(bar.meter.unit)
        ? (bar.meter as MeterChange)
        : asMeter(whole(bar.meter));
    if (!own)
      throw new UnreadableScore(`Bar ${bar.number} has a length that no time signature says. Correct it and try again.`);
    if (isOdd && time === 1)
      simplified.push(
        `Bar ${bar.number} is not as long as its time signature says; it is counted as ${own.count}/${own.unit}.`,
      );
    const at = isPickup ? '0' : writeBeats(start);
    const lastMeter = meters.at(-1);
    if (!isPickup && (lastMeter?.count !== own.count || lastMeter.unit !== own.unit))
      meters.push({ at, count: own.count, unit: own.unit as MeterChange['unit'] });
    if (!isPickup && keys.at(-1)?.fifths !== bar.fifths) keys.push({ at, fifths: bar.fifths });
    if (!isPickup) pageBars.push(bar.number);
    for (const note of [...bar.notes].sort((a, b) => a.offset.compare(b.offset))) {
      const known = numberOf.get(note) ?? 0;
      if (!known) {
        count += 1;
        numberOf.set(note, count);
      }
      const number = known || count;
      const again = (note as ScoreNote & { time?: number }).time ?? time;
      const made: PassageNote = {
        id: again === 1 ? `n${number}` : `n${number}-${again}`,
        at: writeBeats(start.add(inBeats(note.offset))),
        length: writeBeats(inBeats(note.length)),
        pitch: note.pitch,
        staff: note.staff,
        voice: note.voice,
        ...(note.tie ? { tie: true } : {}),
        ...(note.grace ? { grace: true } : {}),
        ...(note.accent ? { accent: true } : {}),
        ...(note.articulation ? { articulation: note.articulation } : {}),
        ...(note.dynamic ? { dynamic: note.dynamic } : {}),
        ...(note.printed ? { printed: note.printed } : {}),
      };
      for (const slur of note.slurStops ?? []) {
        const from = openSlurs.get(slur);
        if (from && from !== made) from.slurTo = made.id;
        openSlurs.delete(slur);
      }
      for (const slur of note.slurStarts ?? []) openSlurs.set(slur, made);
      if (Object.keys(note.marks).length > 0) marks[made.id] = note.marks;
      notes.push(made);
    }
    start = isPickup ? beats(0) : start.add(isOdd ? inBeats(bar.length) : meterBeats(own, beatUnit));
  }
  if (notes.every((note) => note.grace)) throw new UnreadableScore('There are no notes in this file. Choose another one.');
  if (notes.length > MAX_NOTES)
    throw new UnreadableScore(`This has ${notes.length} notes; up to ${MAX_NOTES} are taken. Take a part of it.`);
  const wholeBars = bars.length - (hasPickup ? 1 : 0);
  const isPlainCount = pageBars.every((number, k) => number === (pageBars[0] as number) + k);
  const end = start;
  const document = {
    id,
    revision: 1,
    title: score.title.slice(0, 120) || 'Untitled',
    about: '',
    beatUnit,
    pickup: hasPickup ? writeBeats(inBeats(firstBar.length)) : '0',
    meters: meters.length ? meters : [{ at: '0', count: meter.count, unit: meter.unit }],
    keys: keys.length ? keys : [{ at: '0', fifths: 0 }],
    staves: score.clefs.slice(0, 2).map((clef) => ({ clef })),
    bars: wholeBars,
    notes: settledTies(notes, end, simplified),
    variants: Object.keys(marks).length ? [{ id: FIRST_VARIANT, name: 'as written', marks }] : [],
    sections: [],
    firstBarNumber: pageBars[0] ?? 1,
    ...(isPlainCount ? {} : { pageBars }),
    ...(score.transposition ? { transposition: score.transposition } : {}),
    ...(score.swing === undefined ? {} : { swing: score.swing }),
    goalBpm: goalOf(score, beatUnit),
  };
  const parsed = PassageSchema.safeParse(document);
  if (!parsed.success) {
    const message = parsed.error.issues[0]?.message ?? '';
    throw new UnreadableScore(
      message.endsWith('.') ? message : 'This cannot be read as a passage: it is damaged, or not for one player.',
    );
  }
  const { parts = [], partName } = score;
  return { passage: parsed.data, simplified: [...new Set(simplified)], parts, ...(partName ? { partName } : {}) };
};

/** The beat that the file names, where bars are whole numbers of it; else the one that its meter is counted in. */
const beatOf = ({ beatUnit }: Score, meter: { count: number; unit: number }): string =>
  beatUnit && whole(meter).div(beats(beatUnit)).d === 1n ? beatUnit : beatUnitOf(meter);

/** The tempo that the file names as one of the beat; 100 where it names none. */
const goalOf = ({ bpm, bpmUnit }: Score, beatUnit: string): number => {
  const own =
    bpm === undefined
      ? 100
      : bpm *
        beats(bpmUnit ?? beatUnit)
          .div(beats(beatUnit))
          .valueOf();
  return Math.min(TEMPO_RANGE_BPM.max, Math.max(TEMPO_RANGE_BPM.min, Math.round(own * 10) / 10));
};
