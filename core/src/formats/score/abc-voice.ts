import Fraction from 'fraction.js';
import { STEPS } from '../../rhythm/pitch';
import { beats } from '../../schema/beats';
import type { Clef, Pitch } from '../../schema/notation';
import { type AbcKey, ACCIDENTALS, abcKey } from './abc-key';
import { abcClef, abcPrinted } from './abc-printed';
import type { AbcElement, AbcPitch } from './abc-tune';
import { readJumpWords } from './jump-words';
import { MAX_BARS, type ScoreBar, type ScoreNote, UnreadableScore } from './score';

const DYNAMICS = new Set(['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff', 'sfz']);

/** How many octaves a clef is written away from what sounds. */
export const clefOctaves = (type = ''): number => (type.endsWith('-8') ? -1 : type.endsWith('+8') ? 1 : 0);

/** How far an accidental reaches in its bar: its step in every octave (the standard's default), in its own, or its note alone. */
export type AccidentalReach = 'pitch' | 'octave' | 'not';

/** A time signature; null where what is there is none. */
export const meterFrom = (
  value: readonly { num: string; den?: string }[] | undefined,
  type?: string,
): { count: number; unit: number } | null => {
  if (type === 'common_time') return { count: 4, unit: 4 };
  if (type === 'cut_time') return { count: 2, unit: 2 };
  const [first] = value ?? [];
  const count = (first?.num ?? '').split('+').reduce((sum, one) => sum + Number(one), 0);
  const unit = Number(first?.den ?? 4);
  return Number.isInteger(count) && count > 0 && unit > 0 ? { count, unit } : null;
};

/** In whole notes: shorter than any that is written, and than what can be told from a number in good time. */
const MIN_DURATION = 1 / 4096;

/**
 * A duration, in whole notes, as the fraction that the file has: the package hands on what is left of it as a number.
 * @throws UnreadableScore for one that is no note value: looking for the fraction of 1e-100 takes ten million steps.
 */
export const exact = (duration: number): Fraction => {
  if (duration > 0 && duration < MIN_DURATION)
    throw new UnreadableScore(
      'A note in this tune is shorter than a 4096th. Check its L: line and the lengths after its notes, then choose it again.',
    );
  return new Fraction(duration).simplify(1e-9);
};

const isCompound = ({ count, unit }: { count: number; unit: number }): boolean => count > 3 && count % 3 === 0 && unit >= 8;

const readJumps = ({ decoration = [], chord = [] }: AbcElement, bar: ScoreBar): void => {
  for (const words of [...decoration, ...chord.map(({ name }) => name)]) readJumpWords(words, bar);
};

/** How one voice stands while it is read. */
export class VoiceReader {
  bars: ScoreBar[] = [];
  private at = beats(0);
  private bar: ScoreBar | null = null;
  private altered = new Map<string, number>();
  /** How notes that are tied on are altered. */
  private tied = new Map<string, number>();
  /** Where parts of the tune begin, by bar from 0. */
  readonly parts: { name: string; bar: number }[] = [];
  /** The clef, where it is not the one that the staff began with. */
  private clef: Clef | null = null;
  /** The clef's octave sign, against the one that the tune began with. */
  private octaves: number;
  private tuplet: { normal: number; actual: number; left: number } | null = null;
  private endings: number[] | undefined;
  private startsRepeat = false;
  private slurs = 0;
  private open: string[] = [];
  private count = 0;

  constructor(
    private readonly staff: 1 | 2,
    private readonly voice: number,
    public meter: { count: number; unit: number },
    public key: AbcKey,
    clefType: string,
    private readonly firstClef: Clef,
    private readonly firstOctaves: number,
    private readonly reach: AccidentalReach,
    private readonly simplified: Set<string>,
  ) {
    this.octaves = clefOctaves(clefType) - firstOctaves;
  }

  private here(): ScoreBar {
    if (!this.bar) {
      this.count += 1;
      this.bar = {
        number: this.count,
        length: beats(0),
        meter: this.meter,
        fifths: this.key.fifths,
        notes: [],
        ...(this.endings ? { endings: this.endings } : {}),
        ...(this.startsRepeat ? { startsRepeat: true } : {}),
      };
      this.startsRepeat = false;
      this.bars.push(this.bar);
    }
    return this.bar;
  }

  private close(): void {
    if (this.bar) this.bar.length = this.at;
    this.bar = null;
    this.at = beats(0);
    this.altered.clear();
  }

  private pitch({ pitch, accidental, startTie, endTie }: AbcPitch): Pitch {
    const octave = 4 + Math.floor(pitch / 7);
    const step = STEPS[((pitch % 7) + 7) % 7] as Pitch['step'];
    const own = `${step}${octave}`;
    const reached = this.reach === 'pitch' ? step : own;
    if (accidental !== undefined) {
      if (!(accidental in ACCIDENTALS)) this.simplified.add('Quarter tones are taken as the nearest semitone.');
      // An accidental holds to the end of its bar.
      if (this.reach !== 'not') this.altered.set(reached, ACCIDENTALS[accidental] ?? 0);
    }
    const alter =
      accidental !== undefined
        ? (ACCIDENTALS[accidental] ?? 0)
        : ((endTie ? this.tied.get(own) : undefined) ?? this.altered.get(reached) ?? this.key.alters[step]);
    if (startTie) this.tied.set(own, alter);
    return { step, octave: octave + this.octaves, alter };
  }

  read(element: AbcElement): void {
    switch (element.el_type) {
      case 'bar':
        this.barLine(element);
        break;
      case 'note':
        this.note(element);
        break;
      case 'key':
      case 'keySignature':
        this.key = abcKey(element.accidentals, element.root);
        if (this.at.equals(0) && this.bar) this.bar.fifths = this.key.fifths;
        break;
      case 'meter':
      case 'timeSignature': {
        this.meter = meterFrom(element.value, element.type) ?? this.meter;
        if (this.at.equals(0) && this.bar) this.bar.meter = this.meter;
        break;
      }
      case 'part':
        if (element.title) this.parts.push({ name: element.title, bar: this.bars.length });
        break;
      case 'clef':
        this.changeClef(abcClef(element.type, element.clefPos), element.type);
        break;
    }
  }

  /** From here on notes stand in another clef. */
  changeClef(clef: Clef, type?: string): void {
    this.octaves = clefOctaves(type) - this.firstOctaves;
    this.clef = clef === this.firstClef ? null : clef;
  }

  private barLine(element: AbcElement): void {
    const { type = '', startEnding, endEnding } = element;
    if (this.bar) readJumps(element, this.bar);
    if (this.bar && (type === 'bar_right_repeat' || type === 'bar_dbl_repeat')) this.bar.endsRepeat = 2;
    if (this.at.compare(0) > 0) this.close();
    if (endEnding || type === 'bar_thin_thick') this.endings = undefined;
    if (startEnding) {
      const numbers = startEnding
        .split(/[,\-. ]+/)
        .map(Number)
        .filter((one) => Number.isInteger(one) && one > 0);
      this.endings = numbers.length ? numbers : [1];
    }
    if (type === 'bar_left_repeat' || type === 'bar_dbl_repeat') this.startsRepeat = true;
  }

  private note(element: AbcElement): void {
    if (element.startTriplet) {
      const actual = element.startTriplet;
      const stated = Math.round((element.tripletMultiplier ?? 2 / 3) * actual);
      // Five, seven or nine stand for three in a compound meter, for two else: the package knows no meter (standard, 4.13).
      const normal = [5, 7, 9].includes(actual) && stated === 2 && isCompound(this.meter) ? 3 : stated;
      this.tuplet = { actual, normal, left: element.tripletR ?? actual };
    }
    if (element.rest?.type === 'multimeasure') {
      this.wholeBars(element.rest.text ?? 1);
      return;
    }
    const written = exact(element.duration ?? 0);
    const length = this.tuplet ? written.mul(this.tuplet.normal).div(this.tuplet.actual) : written;
    const bar = this.here();
    const decorations = element.decoration ?? [];
    const printed = abcPrinted(element, this.simplified);
    const clef = this.clef ? { clef: this.clef } : {};
    readJumps(element, bar);
    for (const grace of element.gracenotes ?? [])
      bar.notes.push({
        offset: this.at,
        length: beats(0),
        pitch: this.pitch(grace),
        staff: this.staff,
        voice: this.voice,
        grace: true,
        marks: {},
        ...(this.clef ? { printed: clef } : {}),
      });
    element.pitches?.forEach((one, k) => {
      const fingers = decorations.filter((name) => /^[0-5]$/.test(name));
      const dynamic = decorations.find((name) => DYNAMICS.has(name));
      const own = { ...(k === 0 ? printed : {}), ...clef };
      const made: ScoreNote = {
        offset: this.at,
        length,
        pitch: this.pitch(one),
        staff: this.staff,
        voice: this.voice,
        marks: {
          ...(fingers[k] ? { finger: fingers[k] } : {}),
          ...(decorations.includes('upbow') ? { stroke: 'up' as const } : {}),
          ...(decorations.includes('downbow') ? { stroke: 'down' as const } : {}),
          ...(decorations.includes('breath') ? { breath: true } : {}),
        },
        ...(one.startTie ? { tie: true } : {}),
        ...(Object.keys(own).length > 0 ? { printed: own } : {}),
        ...(decorations.some((name) => name === 'accent' || name === 'emphasis' || name === 'umarcato')
          ? { accent: true }
          : {}),
        ...(decorations.includes('staccato') ? { articulation: 'staccato' as const } : {}),
        ...(decorations.includes('tenuto') ? { articulation: 'tenuto' as const } : {}),
        ...(dynamic && k === 0 ? { dynamic: dynamic as ScoreNote['dynamic'] } : {}),
      };
      const stops = (one.endSlur?.length ?? 0) + (k === 0 && Array.isArray(element.endSlur) ? element.endSlur.length : 0);
      for (let n = 0; n < stops; n += 1) made.slurStops = [...(made.slurStops ?? []), ...this.open.splice(-1)];
      const starts =
        (one.startSlur?.length ?? 0) + (k === 0 && Array.isArray(element.startSlur) ? element.startSlur.length : 0);
      for (let n = 0; n < starts; n += 1) {
        this.slurs += 1;
        const name = `${this.staff}/${this.voice}/${this.slurs}`;
        this.open.push(name);
        made.slurStarts = [...(made.slurStarts ?? []), name];
      }
      bar.notes.push(made);
    });
    this.at = this.at.add(length);
    if (this.tuplet) {
      this.tuplet.left -= 1;
      if (this.tuplet.left <= 0) this.tuplet = null;
    }
  }

  /** Bars of rest, of the meter that holds: the package counts them in the meter of the beginning. */
  private wholeBars(count: number): void {
    if (this.at.compare(0) > 0) this.close();
    for (let k = 0; k < Math.min(count, MAX_BARS + 1); k += 1) {
      this.here();
      this.at = beats(`${this.meter.count}/${this.meter.unit}`);
      if (k < count - 1) this.close();
    }
  }

  end(): ScoreBar[] {
    if (this.at.compare(0) > 0) this.close();
    return this.bars;
  }
}
