import { z } from 'zod';
import { median } from '../stats/summary';
import { hold } from './answers';
import { HALF_SPEED_CLIMB } from './half-speed-climb';
import type { TempoStrategy } from './strategy';

const Options = HALF_SPEED_CLIMB.options.and(
  z.object({ every: z.union([z.literal(3), z.literal(5), z.literal(8)]).default(5) }),
);
const State = z.object({
  climb: HALF_SPEED_CLIMB.state.default(HALF_SPEED_CLIMB.state.parse({})),
  /** Repetitions since the last bursts. */
  since: z.number().int().min(0).default(0),
  /** Bursts of this turn. */
  bursts: z.number().int().min(0).default(0),
  /** The tempos of the last bursts that were clean. */
  burstBpm: z.array(z.number()).max(5).default([]),
});
type BothState = z.infer<typeof State>;

/** So many single bursts each time. */
const BURSTS = 3;

/** The tempo of the last clean bursts; null before any. */
export const burstTempo = ({ burstBpm }: Pick<BothState, 'burstBpm'>): number | null =>
  burstBpm.length === 0 ? null : median(burstBpm);

/**
 * A slow structured climb, and between its repetitions single bursts at full speed without a click: two tempos that close in on each
 * other. Common practice, no source.
 */
export const FROM_BOTH_SIDES: TempoStrategy<z.infer<typeof Options>, BothState> = {
  id: 'from-both-sides',
  name: 'From both sides',
  about: 'A structured climb, with a few bursts at full speed in between: the two tempos close in on each other.',
  options: Options,
  fields: [
    ...HALF_SPEED_CLIMB.fields,
    { key: 'every', label: 'Bursts after every', choices: [3, 5, 8].map((count) => ({ value: count, name: `${count}` })) },
  ],
  state: State,
  repetitionKinds: ['burst'],
  begin: (options, kept) => ({
    climb: HALF_SPEED_CLIMB.begin(options, kept?.climb ?? null),
    since: 0,
    bursts: 0,
    burstBpm: kept?.burstBpm ?? [],
  }),
  close: (state) => state,
  repetitionKind: ({ since }, { every }) => (since >= every ? 'burst' : 'asked'),
  next(state, played, options, target) {
    if (played.repetitionKind === 'burst') {
      const isEven = played.verdict.outcome === 'clean' || played.verdict.outcome === 'close';
      const burstBpm = isEven && played.ownBpm ? [...state.burstBpm, played.ownBpm].slice(-5) : state.burstBpm;
      const bursts = state.bursts + 1;
      const done = bursts >= BURSTS;
      const next = { ...state, burstBpm, bursts: done ? 0 : bursts, since: done ? 0 : state.since };
      const bpm = burstTempo(next);
      return bpm === null
        ? hold(next, played.bpm, 'burst-none')
        : hold(next, played.bpm, 'burst-gap', { burst: Math.round(bpm) });
    }
    const { state: climb, ...answer } = HALF_SPEED_CLIMB.next(state.climb, played, options, target);
    return { ...answer, state: { ...state, climb, since: state.since + 1 } };
  },
};
