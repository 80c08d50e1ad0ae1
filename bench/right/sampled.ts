/**
 * Swing, loud and soft, and playing on into the count-in, by sounds that none of it was made with: sampled instruments of Debian's
 * musescore-general-soundfont (MIT) that nothing is trained on, rendered by fluidsynth. Says so and leaves the tables out where they are not installed.
 */
import { existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  createListener,
  type HeardRepetition,
  type Listener,
  mixInto,
  profileOf,
  SETTLED_OFFSET_S,
} from '@isochron/core/analysis';
import { constantTempo, planRepetition } from '@isochron/core/material';
import { firstDrill } from '@isochron/core/planning';
import { type Drill, TOLERANCE_PRESETS } from '@isochron/core/schema';
import { passageOfScore, readText } from '@isochron/core/score';
import { renderPlaying, STRUCK_BAR } from '@isochron/core/simulation';
import { SAMPLED, type SampledInstrument } from '../onsets/instruments';
import { RATE, type SampledNote, sampledNotes } from '../onsets/notes';
import { playerOf } from '../players/players';
import { chanceOf } from '../players/random';
import { pct, type Table } from './table';

type Dynamic = NonNullable<Drill['judging']['dynamic']>;

const FONT = '/usr/share/sounds/sf3/MuseScore_General_Full.sf3';
const NAMES = ['xylophone', 'old piano', 'steel guitar', 'viola', 'ocarina', 'muted trumpet', 'congas'];
const BLOCK = 512;
const LEAD_S = 0.3;
const TIMES = 10;

const notesCache = new Map<string, readonly SampledNote[]>();
const notesOf = (instrument: SampledInstrument): readonly SampledNote[] => {
  const notes =
    notesCache.get(instrument.name) ?? sampledNotes(instrument, 'held', join(tmpdir(), 'isochron-onset-bench'), 'musescore');
  notesCache.set(instrument.name, notes);
  return notes;
};

interface Played {
  drill: Drill;
  bpm: number;
  instrument: SampledInstrument;
  /** When notes sound, in seconds after the first downbeat's time. */
  timesS: readonly number[];
  /** Of the samples' velocities, from the softest (0) to the loudest (2). */
  velocity?: number;
  bleed?: number;
  seed: number;
  listener?: Listener;
  otherLevel?: { dynamic: Dynamic; levelDb: number } | null;
}

/** One repetition as the app hears it. */
const hear = ({
  drill,
  bpm,
  instrument,
  timesS,
  velocity,
  bleed,
  seed,
  listener,
  otherLevel,
}: Played): HeardRepetition['analysed'] => {
  const tempo = constantTempo(bpm);
  const plan = planRepetition({ drill, tempo, startS: LEAD_S });
  const sound = renderPlaying({
    played: [],
    grid: drill.grid,
    tempo,
    instrument: STRUCK_BAR,
    sampleRateHz: RATE,
    lengthS: plan.endS + 1,
    seed,
    noiseDb: -66,
    bleed: bleed ? { clicks: plan.clicks, gain: bleed, delayS: 0.01 } : undefined,
  });
  const all = notesOf(instrument);
  const { uniform } = chanceOf(seed, 5);
  const start = Math.floor(uniform() * (all.length / 3));
  timesS.forEach((timeS, k) => {
    // A few neighbouring pitches up and down, each with its three velocities.
    const pitch = (start + ([0, 1, 2, 1][k % 4] as number)) % (all.length / 3);
    const { samples } = all[3 * pitch + (velocity ?? Math.floor(3 * uniform()))] as SampledNote;
    const next = timesS[k + 1] ?? timeS + 0.5;
    const own = samples.slice(0, Math.round(Math.min(next - timeS + 0.03, 1.4) * RATE));
    const fade = Math.min(own.length, Math.round(0.03 * RATE));
    for (let n = 0; n < fade; n += 1) own[own.length - 1 - n] = ((own[own.length - 1 - n] as number) * n) / fade;
    mixInto(sound, 0, { frame: Math.round((plan.downbeatS + timeS) * RATE), samples: own });
  });
  const ear = listener ?? createListener(RATE);
  ear.expect({
    repetition: 0,
    drill,
    plan,
    tolerance: TOLERANCE_PRESETS.settling,
    latencyS: null,
    offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
    hearsClicks: Boolean(bleed),
    profile: profileOf(instrument.family),
    ...(otherLevel ? { otherLevel } : {}),
  });
  for (let at = 0; at < sound.length; at += BLOCK) {
    const heard = ear.push(sound.slice(at, at + BLOCK), at);
    if (heard) return heard.analysed;
  }
  throw new Error('The listener never had enough.');
};

const BAR = 'x/8 x x x x x x x |';
const drillOf = (swing: 'own' | null): Drill => {
  const { passage } = passageOfScore(readText(`${swing ? `swing: ${swing}\n` : ''}${BAR}\n${BAR}\nx/4 x x r |`), 'typed');
  return firstDrill(passage);
};

/** When the notes of a drill sound in a ratio of swing, unsteady by so many ms. */
const swungS = (drill: Drill, bpm: number, ratio: number, unsteadyMs: number, seed: number): number[] => {
  const beats = drill.grid.events.map(({ at }) => Number(at.split('/')[0]) / Number(at.split('/')[1] ?? 1));
  const even = beats.map((beat) => (beat % 1 === 0.5 ? Math.floor(beat) + ratio / (1 + ratio) : beat));
  const timesS = even.map((beat) => (beat * 60) / bpm);
  const off = playerOf('two-level').deviationsMs({ timesS, sdMs: timesS.map(() => unsteadyMs), seed });
  return timesS.map((timeS, k) => timeS + (off[k] as number) / 1000);
};

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] as number;

const swingRow = (instrument: SampledInstrument): string[] => [
  instrument.name,
  ...[1, 1.3, 1.6, 2, 2.6].map((ratio) => {
    const drill = drillOf('own');
    const told = Array.from({ length: TIMES }, (_, seed) => {
      const bpm = 80 + 8 * seed;
      const { measures, verdict } = hear({ drill, bpm, instrument, timesS: swungS(drill, bpm, ratio, 6, seed + 1), seed });
      return { swing: measures.swing, isClean: verdict.outcome === 'clean' };
    });
    const inside = told.filter(({ swing }) => swing && (swing.low ?? 9) <= ratio && ratio <= (swing.high ?? 0)).length;
    const values = told.flatMap(({ swing }) => swing?.value ?? []);
    return `${values.length ? median(values).toFixed(2) : '–'}; ${inside} in range, ${told.filter(({ isClean }) => isClean).length} clean`;
  }),
];

/** How far a loud repetition is told to lie from a soft one, in dB, and how often that passes. */
const levelRow = (instrument: SampledInstrument): string[] => {
  const plain = drillOf(null);
  const at = (dynamic: Dynamic): Drill => ({ ...plain, judging: { ...plain.judging, dynamic } });
  const levelOf = (notes: readonly { levelDb: number | null }[]) => median(notes.flatMap(({ levelDb }) => levelDb ?? []));
  const told = (soft: number, loud: number) =>
    Array.from({ length: TIMES }, (_, seed) => {
      const play = (drill: Drill, velocity: number, otherLevel: { dynamic: Dynamic; levelDb: number } | null) =>
        hear({ drill, bpm: 90, instrument, timesS: swungS(drill, 90, 1, 5, seed + 1), velocity, seed, otherLevel });
      const before = play(at('p'), soft, null);
      const { measures, verdict } = play(at('f'), loud, { dynamic: 'p', levelDb: levelOf(before.notes) });
      return { db: measures.dynamicDb ?? Number.NaN, isRefused: verdict.reason === 'dynamics' };
    });
  const cell = (all: ReturnType<typeof told>) =>
    `${median(all.map(({ db }) => db)).toFixed(1)} dB, ${pct(all.filter(({ isRefused }) => isRefused).length / TIMES)} refused`;
  return [instrument.name, cell(told(0, 2)), cell(told(1, 1))];
};

/** What is said of the second of two repetitions with a click that bleeds: as it should be, or played on into its count-in. */
const playedOnRow = (instrument: SampledInstrument): string[] => {
  const drill = drillOf(null);
  const bpm = 90;
  const said = (isOn: boolean, bleed: number) =>
    Array.from({ length: TIMES }, (_, seed) => {
      const timesS = swungS(drill, bpm, 1, 5, seed + 1);
      const listener = createListener(RATE);
      hear({ drill, bpm, instrument, timesS, bleed, seed: seed + 50, listener });
      const on = [-2.5, -2, -1.5, -1, -0.5].map((beat) => (beat * 60) / bpm);
      const played = isOn ? [...on, ...timesS.slice(4)] : timesS;
      return hear({ drill, bpm, instrument, timesS: played, bleed, seed, listener }).verdict.reason === 'played-on';
    }).filter(Boolean).length / TIMES;
  return [instrument.name, ...[0.02, 0.1].flatMap((bleed) => [pct(said(true, bleed)), pct(said(false, bleed))])];
};

export const sampledTables = (): Table[] => {
  if (!existsSync(FONT)) {
    console.error(
      'Debian’s musescore-general-soundfont and fluidsynth are not installed: the tables by sampled sounds are left out.',
    );
    return [];
  }
  const instruments = SAMPLED.filter(({ name }) => NAMES.includes(name));
  const about = `Sampled instruments that nothing was trained on, ${TIMES} each.`;
  return [
    {
      title: 'A swing of one’s own, by sampled sounds',
      about: `${about} Eighths from 80 to 152, unsteady by 6 ms: the ratio that is told, in how many its 95 % range holds the one that was played, and how many are clean (tolerance “settling”).`,
      head: ['instrument', ...[1, 1.3, 1.6, 2, 2.6].map((ratio) => `${ratio} to 1`)],
      rows: instruments.map(swingRow),
    },
    {
      title: 'Loud after soft, by sampled sounds',
      about: `${about} Soft at velocity 55 and loud at 120, and both at 92, which must be refused.`,
      head: ['instrument', 'soft, then loud', 'both alike'],
      rows: instruments.map(levelRow),
    },
    {
      title: 'Playing on into the count-in, by sampled sounds',
      about: `${about} The second repetition with a click in the sound, at a fiftieth and a tenth of full scale: share said to be played on into.`,
      head: ['instrument', 'click 0.02, played on', 'not', 'click 0.1, played on', 'not'],
      rows: instruments.map(playedOnRow),
    },
  ];
};
