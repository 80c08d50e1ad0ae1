import type { StateStorage } from 'zustand/middleware';

const quietly = <Result>(work: () => Result): Result | undefined => {
  try {
    return work();
  } catch {
    return undefined;
  }
};

/** The browser's small storage; where it is full or closed, what is kept lasts as long as the page, and practice goes on. */
export const patientStorage: StateStorage = {
  getItem: (name) => quietly(() => localStorage.getItem(name)) ?? null,
  setItem: (name, value) => quietly(() => localStorage.setItem(name, value)),
  removeItem: (name) => quietly(() => localStorage.removeItem(name)),
};
