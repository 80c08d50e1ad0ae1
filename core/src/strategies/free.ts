import { z } from 'zod';
import { makeReason } from '../schema/reason';
import type { TempoStrategy } from './strategy';

const Nothing = z.object({}) as z.ZodType<Record<string, never>>;

/** The tempo is the player's: it stays until it is changed by hand. */
export const FREE: TempoStrategy<Record<string, never>, Record<string, never>> = {
  id: 'free',
  leavesTempo: true,
  name: 'Free',
  about: 'The tempo is yours: it stays where it is until you change it. Isochron measures and advises.',
  options: Nothing,
  fields: [],
  state: Nothing,
  begin: () => ({}),
  close: (state) => state,
  next: (state, { tempo, bpm, verdict }) => ({
    state,
    action: 'hold',
    tempo,
    why: makeReason(verdict.outcome === 'clean' ? 'free-clean' : 'free-same', { bpm }),
  }),
};
