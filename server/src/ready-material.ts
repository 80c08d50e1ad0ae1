import type { Exercise } from '@isochron/core';
import type { Store } from './database/open';

/** Stores the exercises that are not there yet; what the player has changed stays. */
export const storeMissingExercises = async ({ models }: Store, exercises: readonly Exercise[]): Promise<void> => {
  for (const exercise of exercises) {
    await models.exercises.findOrCreate({
      where: { id: exercise.id },
      defaults: { id: exercise.id, title: exercise.title, document: exercise },
    });
  }
};
