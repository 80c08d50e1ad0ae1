import { z } from 'zod';

/** A level as a player types it. */
export const LevelSchema = z.number({ message: 'A number from 0 to 100.' }).min(0, 'Not under 0.').max(100, 'Not over 100.');
