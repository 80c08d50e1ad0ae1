import { analyseRepetition, chance, detectOnsets, otherLevelFor, profileOf, SETTLED_OFFSET_S } from '@isochron/core/analysis';
import { constantTempo, headlineBpm, pitchSequence, type RepetitionPlan } from '@isochron/core/material';
import { drillOf } from '@isochron/core/planning';
import {
  type Drill,
  type Ease,
  type Onset,
  type Passage,
  type PracticeConfig,
  type Skill,
  STEADY,
  type Take,
  TOLERANCE_PRESETS,
} from '@isochron/core/schema';
import { atLevel, BLOWN_REED, type PlayedNote, renderPlaying, STRUCK_BAR, simulatePlaying } from '@isochron/core/simulation';
import {
  advance,
  beginStrategy,
  IDLE,
  type LoopState,
  makeTake,
  snapshotOf,
  withStrategyDrills,
} from '@isochron/core/strategy';

/** The demo player's latency stays unknown, as on a machine that was never calibrated; playing begins here. */
const RECORDING_LEAD_S = 0.4;
const SAMPLE_RATE_HZ = 44_100;

/** One evening of made-up practice on one passage. */
export interface Evening {
  takeId: string;
  sessionId: string;
  startedAt: Date;
  passage: Passage;
  config: PracticeConfig;
  startBpm: number;
  skill: Skill;
  seed: number;
  /** The most repetitions before the player stops. */
  patience: number;
  /** Whether the playing is rendered as sound and measured from it. */
  withSound: boolean;
}

/** How fast the demo player's bursts are, of the goal. */
const BURST_SHARE = 0.97;

const asOnsets = (played: readonly PlayedNote[]): Onset[] => played.map(({ timeS, levelDb }) => ({ timeS, levelDb }));

/** The demo player takes the bass clarinet for this one, the marimba for all others. */
const isForReed = (passage: Passage) => passage.id === 'long-short-walk';

const render = (
  evening: Evening,
  { grid }: Drill,
  plan: RepetitionPlan,
  played: readonly PlayedNote[],
  fromS: number,
): Float32Array =>
  renderPlaying({
    played: played.map((note) => ({ ...note, timeS: note.timeS - fromS })),
    grid,
    tempo: plan.tempo,
    instrument: isForReed(evening.passage) ? BLOWN_REED : STRUCK_BAR,
    sampleRateHz: SAMPLE_RATE_HZ,
    lengthS: plan.endS - fromS + 0.3,
    seed: evening.seed,
    noiseDb: -62,
  });

/** Bursts have no click: the demo player lets go at nearly the goal's tempo, from the first note on. */
const inBursts = (drill: Drill, played: PlayedNote[], { config }: Evening, plan: RepetitionPlan): PlayedNote[] => {
  const [first] = played;
  if (drill.repetitionKind !== 'burst' || !first) return played;
  const faster = Math.max(1, (BURST_SHARE * config.goalBpm) / headlineBpm(plan.tempo));
  return played.map((note) => ({ ...note, timeS: first.timeS + (note.timeS - first.timeS) / faster }));
};

/** How a repetition felt: harder as the tempo nears the limit of what is easy. */
const feeling = (skill: Skill, tempoBpm: number, uniform: () => number): Ease => {
  const load = tempoBpm / (skill.easyUpToBpm ?? 1000);
  if (load > 1.12) return uniform() < 0.3 ? 'tense' : 'working';
  return load > 0.95 || uniform() < 0.15 ? 'working' : 'easy';
};

/**
 * Plays one evening with the simulated player through the real loop: the same machine, detector, pairing, measures,
 * verdict and strategy as at the Bench.
 */
export const practise = (evening: Evening): { take: Take; recording: Float32Array | null; sampleRateHz: number } => {
  const { passage, config, startBpm, skill, seed } = evening;
  const drills = withStrategyDrills([drillOf(passage, config)], config.strategyId, startBpm);
  const target = { goalBpm: config.goalBpm, startBpm };
  const strategy = beginStrategy(config.strategyId, config.strategies[config.strategyId] ?? null);
  const { uniform } = chance(seed + 7);
  const profile = profileOf(isForReed(passage) ? 'blown' : 'struck');
  const begun = advance(IDLE, {
    type: 'begin',
    drills,
    target,
    strategy,
    tempo: constantTempo(startBpm),
    nowS: RECORDING_LEAD_S,
    recordingStartS: 0,
    offset: { nearS: 0, reachS: SETTLED_OFFSET_S },
  });
  let state: LoopState = begun.state;
  const pieces: { fromS: number; sound: Float32Array }[] = [];
  while (state.plan && state.repetitions.length < evening.patience) {
    const plan: RepetitionPlan = state.plan;
    const drill = state.drill as Drill;
    const count = state.repetitions.length;
    const played = inBursts(
      drill,
      simulatePlaying(plan.notes, atLevel(skill, drill), plan.tempo, seed * 1000 + count),
      evening,
      plan,
    );
    const fromS = plan.countInStartS;
    let onsets = asOnsets(played);
    if (evening.withSound) {
      const sound = render(evening, drill, plan, played, fromS);
      pieces.push({ fromS, sound });
      onsets = detectOnsets(sound, SAMPLE_RATE_HZ, { family: profile.family, score: pitchSequence(drill.grid) }).map(
        (onset) => ({
          ...onset,
          timeS: onset.timeS + fromS,
        }),
      );
    }
    const analysed = analyseRepetition(onsets, {
      drill,
      plan,
      profile,
      tolerance: TOLERANCE_PRESETS.secure,
      latencyS: null,
      offset: state.offset,
      gap: false,
      otherLevel: otherLevelFor(drill, drills, state.repetitions),
    });
    const nowS = (plan.notes.at(-1)?.timeS ?? plan.endS) + 0.1;
    state = advance({ ...state, phase: 'playing' }, { type: 'analysed', analysed, nowS }).state;
    state = advance(state, { type: 'ease', ease: feeling(skill, headlineBpm(plan.tempo), uniform), nowS: nowS + 0.5 }).state;
    if (state.phase === 'problem') break;
  }
  const endS = state.repetitions.at(-1)?.downbeatS ?? 0;
  const made = makeTake({
    id: evening.takeId,
    sessionId: evening.sessionId,
    passage,
    config,
    startedAt: evening.startedAt,
    endedAt: new Date(evening.startedAt.getTime() + (endS + 12) * 1000),
    input: 'simulated',
    ...target,
    strategy: snapshotOf(state.decisions.strategy),
    tolerance: TOLERANCE_PRESETS.secure,
    latencyS: null,
    profileId: profile.id,
    drills,
    repetitions: state.repetitions,
  });
  const take: Take = { ...made, hasRecording: evening.withSound };
  return { take, recording: evening.withSound ? joinPieces(pieces) : null, sampleRateHz: SAMPLE_RATE_HZ };
};

const joinPieces = (pieces: readonly { fromS: number; sound: Float32Array }[]): Float32Array => {
  const end = Math.max(...pieces.map(({ fromS, sound }) => Math.round(fromS * SAMPLE_RATE_HZ) + sound.length));
  const whole = new Float32Array(end);
  for (const { fromS, sound } of pieces) whole.set(sound, Math.round(fromS * SAMPLE_RATE_HZ));
  return whole;
};

/** The note that comes late every time, by passage, with how late at first; the others have none. */
const HABITS: Record<string, readonly [note: string, ms: number]> = {
  'five-steps': ['4', 16],
  'tidewheel-wave': ['9', 15],
  'in-on-the-upbeat': ['5', 14],
  'long-short-walk': ['6', 14],
};
const habitOf = (passageId: string, share: number): Record<string, number> => {
  const habit = HABITS[passageId];
  return habit ? { [habit[0]]: habit[1] * share } : {};
};

/** The demo player: a little ahead of the click, one weak turn, easy up to a tempo that rises over the weeks. */
export const demoSkill = (passage: Passage, progress: number): Skill => ({
  ...STEADY,
  placementMs: -6 + 2 * progress,
  spreadMs: 6.5 - 1.5 * progress,
  easyUpToBpm: passage.goalBpm * (0.46 + 0.4 * progress),
  habitsMs: habitOf(passage.id, 1 - 0.35 * progress),
  missedShare: 0.004 * (1 - progress),
  extraShare: 0.002,
  // Two mallets that are not quite together where the figure turns.
  doubledShare: passage.id === 'five-steps' ? { '8': 0.6 } : {},
});
