import * as abcjs from 'abcjs';
import { beats } from '../../schema/beats';
import type { Clef } from '../../schema/notation';
import { type AbcTune, exact, fifthsFrom, meterFrom, VoiceReader } from './abc-voice';
import { type Score, type ScoreBar, UnreadableScore } from './score';

// A package of the older kind: bundlers see its functions by name, Node behind its default.
const { parseOnly } = (abcjs as { default?: typeof abcjs }).default ?? abcjs;

const CLEFS: Record<string, Clef> = { treble: 'treble', bass: 'bass', alto: 'alto', tenor: 'tenor', perc: 'percussion' };

/** So many groups of grace notes left open, voices over one another, or fields in a line are in no music; the package takes the square of them. */
const MAX_OPEN = 100;

/** Throws where a line has more open than music has. */
const checkOpen = (text: string): void => {
  for (const [k, line] of text.split(/\r?\n/).entries()) {
    const times = (sign: string) => line.split(sign).length - 1;
    if (times('{') - times('}') > MAX_OPEN || times('&') > MAX_OPEN || (line.match(/\[[A-Za-z]:/g)?.length ?? 0) > MAX_OPEN)
      throw new UnreadableScore(
        `Line ${k + 1} of this ABC text has hundreds of signs {, & or [K: that no music needs: it is damaged. Check it and try once more.`,
      );
  }
};

/**
 * Reads the first tune of an ABC text, up to two staves with their voices. Source: the ABC music standard 2.1; read by the abcjs package.
 * Throws {@link UnreadableScore}.
 */
export const readAbc = (text: string): Score => {
  if (!/^\s*X:/m.test(text) && !/^K:/m.test(text))
    throw new UnreadableScore(
      'This is not an ABC tune: it has no line that begins with X: or K:. Check the file and try once more.',
    );
  checkOpen(text);
  let tune: AbcTune | undefined;
  let tunes = 0;
  try {
    const parsed = parseOnly(text) as unknown as AbcTune[];
    tunes = parsed.length;
    tune = parsed[0];
  } catch {
    throw new UnreadableScore('This ABC text cannot be read. Check it and try once more.');
  }
  if (!tune) throw new UnreadableScore('There is no tune in this file. Choose another one.');
  const simplified = new Set<string>();
  if (tunes > 1) simplified.add(`Of ${tunes} tunes the first is taken.`);
  const readers = new Map<string, VoiceReader>();
  const clefs: Clef[] = [];
  let meter = { count: 4, unit: 4 };
  let number = 0;
  for (const { staff: staves = [] } of tune.lines) {
    staves.forEach((staff, s) => {
      if (s > 1) {
        simplified.add('Of more than two staves the first two are taken.');
        return;
      }
      clefs[s] ??= CLEFS[staff.clef?.type ?? 'treble'] ?? 'treble';
      const stated = staff.meter && meterFrom(staff.meter.value, staff.meter.type);
      if (stated) meter = stated;
      const fifths = fifthsFrom(staff.key?.accidentals);
      staff.voices.forEach((elements, v) => {
        const name = `${s}/${v}`;
        let reader = readers.get(name);
        if (!reader) {
          number += 1;
          reader = new VoiceReader(s === 1 ? 2 : 1, Math.min(8, number), meter, fifths, simplified);
          readers.set(name, reader);
        }
        if (stated) reader.meter = stated;
        if (staff.key) reader.fifths = fifths;
        for (const element of elements) reader.read(element);
      });
    });
  }
  const voices = [...readers.values()].map((reader) => reader.end());
  const [first, ...others] = voices;
  if (!first?.length) throw new UnreadableScore('There are no notes in this tune. Choose another one.');
  for (const voice of others)
    voice.forEach((bar, k) => {
      const own = first[k];
      if (!own) return;
      own.notes.push(...bar.notes);
      if (bar.length.compare(own.length) > 0) own.length = bar.length;
    });
  // A tune that repeats with an upbeat ends short by as much as it began with: its last bar is that of the page.
  const [pickup] = first;
  const last = first.at(-1);
  const full = last && beats(`${last.meter.count}/${last.meter.unit}`);
  if (pickup && last && full && first.length > 1 && last.length.add(pickup.length).equals(full) && !last.endsRepeat)
    last.length = full;
  const { tempo } = tune.metaText;
  const unit = tempo?.duration?.reduce((sum, one) => sum + one, 0);
  return {
    title: typeof tune.metaText.title === 'string' ? tune.metaText.title : '',
    clefs: clefs.length ? clefs : ['treble'],
    transposition: 0,
    ...(tempo?.bpm ? { bpm: tempo.bpm, ...(unit ? { bpmUnit: exact(unit).toFraction() } : {}) } : {}),
    bars: numbered(first),
    simplified: [...simplified],
  };
};

/** Bars by their numbers on the page: a pickup is 0. */
const numbered = (bars: ScoreBar[]): ScoreBar[] => {
  const [first] = bars;
  const isPickup = first && first.length.compare(beats(`${first.meter.count}/${first.meter.unit}`)) < 0;
  return bars.map((bar, k) => ({ ...bar, number: k + (isPickup ? 0 : 1) }));
};
