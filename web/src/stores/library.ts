import { type Exercise, type StartTempo, startTempo, type TakeSummary } from '@isochron/core';
import { create } from 'zustand';
import { getExercises, getTakes } from '../api/client';

interface Library {
  status: 'loading' | 'ready' | 'unreachable';
  message: string;
  exercises: Exercise[];
  /** Newest first. */
  takes: TakeSummary[];
  load(): Promise<void>;
}

/** What is stored on the server: exercises and takes. */
export const useLibrary = create<Library>((set) => ({
  status: 'loading',
  message: '',
  exercises: [],
  takes: [],
  async load() {
    try {
      const [exercises, takes] = await Promise.all([getExercises(), getTakes()]);
      set({ status: 'ready', exercises, takes, message: '' });
    } catch (error) {
      set({ status: 'unreachable', message: (error as Error).message });
    }
  },
}));

/** The last take on an exercise, or undefined. */
export const lastTakeOf = (takes: readonly TakeSummary[], exerciseId: string): TakeSummary | undefined =>
  takes.find((take) => take.exerciseId === exerciseId && take.closing !== null);

/** Where to begin an exercise today, given what the Ledger says of it. */
export const startTempoOf = (takes: readonly TakeSummary[], exercise: Exercise, goalBpm: number): StartTempo =>
  startTempo(goalBpm, lastTakeOf(takes, exercise.id)?.closing?.closingBpm ?? null);
