import * as abcjs from 'abcjs';
import { beats } from '../../schema/beats';
import type { Clef } from '../../schema/notation';
import { abcKey } from './abc-key';
import { forPackage } from './abc-lines';
import { inPlayOrder, playOrder } from './abc-play-order';
import { abcClef } from './abc-printed';
import type { AbcTune } from './abc-tune';
import { type AccidentalReach, clefOctaves, exact, meterFrom, VoiceReader } from './abc-voice';
import { type Score, type ScoreBar, UnreadableScore } from './score';
import { chosenPart, leftOut, offered, type ScorePart, toldApart } from './score-parts';

// A package of the older kind: bundlers see its functions by name, Node behind its default.
const { parseOnly } = (abcjs as { default?: typeof abcjs }).default ?? abcjs;

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

/** A tune of a file with all its voices, or one voice of it. */
interface AbcPart extends ScorePart {
  tune: AbcTune;
  /** The staff and the voice on it, from 0; null for all of them. */
  only: { staff: number; voice: number } | null;
}

/** What can be taken of a file: each tune, and each voice of one that has several. */
const partsIn = (tunes: readonly AbcTune[]): AbcPart[] =>
  toldApart(
    tunes.flatMap((tune, k) => {
      const counts = new Map<string, { staff: number; voice: number; name: string; notes: number }>();
      for (const { staff: staves = [] } of tune.lines)
        staves.forEach(({ voices, title }, staff) => {
          voices.forEach((elements, voice) => {
            const id = `${k}/${staff}/${voice}`;
            const own = counts.get(id) ?? { staff, voice, name: title?.[voice] ?? `voice ${counts.size + 1}`, notes: 0 };
            own.notes += elements.filter(({ el_type: type, pitches }) => type === 'note' && pitches).length;
            counts.set(id, own);
          });
        });
      const voices = [...counts].filter(([, { notes }]) => notes > 0);
      const name = typeof tune.metaText.title === 'string' && tune.metaText.title ? tune.metaText.title : `tune ${k + 1}`;
      const all: AbcPart = { id: `${k}`, name, notes: voices.reduce((sum, [, { notes }]) => sum + notes, 0), tune, only: null };
      const each = voices.map(
        ([id, { staff, voice, notes, ...own }]): AbcPart => ({
          id,
          name: `${name}: ${own.name.trim()} alone`,
          notes,
          tune,
          only: { staff, voice },
        }),
      );
      return [all, ...(each.length > 1 ? each : [])];
    }),
  ).filter(({ notes }) => notes > 0);

/**
 * Reads a tune of an ABC text, up to two staves with their voices, or one of its voices. Source: the ABC music standard 2.1; read by the
 * abcjs package. Throws {@link UnreadableScore}.
 *
 * @param partId which tune, or which voice of it; the first tune where nothing is said
 */
export const readAbc = (text: string, partId?: string): Score => {
  if (!/^\s*X:/m.test(text) && !/^K:/m.test(text))
    throw new UnreadableScore(
      'This is not an ABC tune: it has no line that begins with X: or K:. Check the file and try once more.',
    );
  checkOpen(text);
  let tunes: AbcTune[];
  try {
    tunes = parseOnly(forPackage(text)) as unknown as AbcTune[];
  } catch {
    throw new UnreadableScore('This ABC text cannot be read. Check it and try once more.');
  }
  if (tunes.length === 0) throw new UnreadableScore('There is no tune in this file. Choose another one.');
  const parts = partsIn(tunes);
  if (parts.length === 0) throw new UnreadableScore('There are no notes in this tune. Choose another one.');
  const taken = chosenPart(parts, partId);
  const { tune, only } = taken;
  const simplified = new Set<string>();
  // A tune with all its voices leaves nothing out but other tunes.
  if (only || tunes.length > 1)
    for (const sentence of leftOut(parts, taken, only ? 'tunes and voices' : 'tunes')) simplified.add(sentence);
  const readers = new Map<string, VoiceReader>();
  const clefs: Clef[] = [];
  const reach = (/^%%propagate-accidentals\s+(not|octave|pitch)/m.exec(text)?.[1] ?? 'pitch') as AccidentalReach;
  /** The octave sign of the first clef, and the shift that it names. */
  let firstOctaves = 0;
  let transposition = 0;
  let meter = { count: 4, unit: 4 };
  let number = 0;
  for (const { staff: staves = [] } of tune.lines) {
    staves.forEach((staff, place) => {
      if (only && only.staff !== place) return;
      const s = only ? 0 : place;
      if (s > 1) {
        simplified.add('Of more than two staves the first two are taken.');
        return;
      }
      const clefType = staff.clef?.type ?? 'treble';
      if (s === 0 && clefs.length === 0) {
        firstOctaves = clefOctaves(clefType);
        transposition = (staff.clef?.transpose ?? 0) + 12 * firstOctaves;
      }
      const clef = abcClef(clefType, staff.clef?.clefPos);
      clefs[s] ??= clef;
      const stated = staff.meter && meterFrom(staff.meter.value, staff.meter.type);
      if (stated) meter = stated;
      const key = abcKey(staff.key?.accidentals, staff.key?.root);
      staff.voices.forEach((elements, v) => {
        if (only && only.voice !== v) return;
        const name = `${s}/${v}`;
        let reader = readers.get(name);
        if (!reader) {
          number += 1;
          reader = new VoiceReader(
            s === 1 ? 2 : 1,
            Math.min(8, number),
            meter,
            key,
            clefType,
            clef,
            firstOctaves,
            reach,
            simplified,
          );
          readers.set(name, reader);
        }
        // A line begins with the clef that holds there.
        if (staff.clef) reader.changeClef(clef, clefType);
        if (stated) reader.meter = stated;
        if (staff.key) reader.key = key;
        for (const element of elements) reader.read(element);
      });
    });
  }
  const all = [...readers.values()];
  const order = playOrder(tune.metaText.partOrder ?? '');
  // The letters of parts stand above the first voice.
  const starts = all[0]?.parts ?? [];
  const voices = all.map((reader) => (order && starts.length ? inPlayOrder(reader.end(), starts, order) : reader.end()));
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
    transposition,
    ...(tempo?.bpm ? { bpm: tempo.bpm, ...(unit ? { bpmUnit: exact(unit).toFraction() } : {}) } : {}),
    bars: numbered(first),
    ...offered(parts),
    simplified: [...simplified],
  };
};

/** Bars by their numbers on the page: a pickup is 0. */
const numbered = (bars: ScoreBar[]): ScoreBar[] => {
  const [first] = bars;
  const isPickup = first && first.length.compare(beats(`${first.meter.count}/${first.meter.unit}`)) < 0;
  return bars.map((bar, k) => ({ ...bar, number: k + (isPickup ? 0 : 1) }));
};
