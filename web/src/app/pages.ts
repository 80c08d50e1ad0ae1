import { AppError } from '@isochron/core/schema';
import type { ComponentType } from 'react';
import type { RouteObject } from 'react-router';
import { isAnyTakePlayed } from '../recorder/take-locks';
import { after, whenIdle } from './after';

/** A page: where it is, and what loads it. */
interface Page {
  path: string;
  load: () => Promise<ComponentType>;
}

/** Every page of every place. Each is loaded when it is opened first. */
export const PAGES: readonly Page[] = [
  { path: '/', load: async () => (await import('../places/today/TodayPlace')).TodayPlace },
  { path: '/first-day', load: async () => (await import('../places/first-day/FirstDayPage')).FirstDayPage },
  { path: '/bench', load: async () => (await import('../places/bench/BenchPlace')).BenchPlace },
  { path: '/bench/:passageId', load: async () => (await import('../places/bench/BenchPlace')).BenchPlace },
  { path: '/click', load: async () => (await import('../places/click/PlainClickPage')).PlainClickPage },
  { path: '/material', load: async () => (await import('../places/material/MaterialPlace')).MaterialPlace },
  { path: '/material/patterns', load: async () => (await import('../places/material/PatternsPage')).PatternsPage },
  { path: '/material/record', load: async () => (await import('../places/material/RecordPage')).RecordPage },
  { path: '/material/along', load: async () => (await import('../places/play-along/PlayAlongPlace')).PlayAlongPlace },
  {
    path: '/material/along/:accompanimentId',
    load: async () => (await import('../places/play-along/PlayAlongPage')).PlayAlongPage,
  },
  { path: '/material/:passageId', load: async () => (await import('../places/material/PassagePage')).PassagePage },
  { path: '/ledger', load: async () => (await import('../places/ledger/LedgerPlace')).LedgerPlace },
  { path: '/ledger/measure-a-file', load: async () => (await import('../places/ledger/ImportPage')).ImportPage },
  { path: '/ledger/tempo/:passageId', load: async () => (await import('../places/ledger/TempoPage')).TempoPage },
  { path: '/ledger/day', load: async () => (await import('../places/ledger/DayPage')).DayPage },
  { path: '/ledger/day/:day', load: async () => (await import('../places/ledger/DayPage')).DayPage },
  { path: '/ledger/:takeId', load: async () => (await import('../places/ledger/TakePage')).TakePage },
  { path: '/ledger/:takeId/beside', load: async () => (await import('../places/ledger/ComparePage')).ComparePage },
  { path: '/setup', load: async () => (await import('../places/setup/SetupPlace')).SetupPlace },
  { path: '/setup/:partId', load: async () => (await import('../places/setup/SetupPlace')).SetupPlace },
];

/** A page as the router takes it. */
export const pageRoute = ({ path, load }: Page): RouteObject => ({
  path,
  lazy: async () => ({
    Component: await load().catch(() => {
      throw new AppError('This page could not be loaded. See that Isochron is still running, then reload the page.');
    }),
  }),
});

const LOOK_AGAIN_MS = 5000;

/**
 * Loads the pages that were not opened yet, one after the other: the server may be stopped while the page is open, and a take begins
 * all the same. Only while nothing is played: on a small machine the notes of a take are heard late meanwhile. Rejects for a page that
 * cannot be loaded.
 */
export const loadAllPages = async (): Promise<void> => {
  for (const { load } of PAGES) {
    await whenIdle(LOOK_AGAIN_MS);
    while (await isAnyTakePlayed()) await after(LOOK_AGAIN_MS);
    await load();
  }
};
