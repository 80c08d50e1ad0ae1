import { Readable } from 'node:stream';
import { chance } from '@isochron/core/analysis';
import { BUILT_IN_PASSAGES, writeWav } from '@isochron/core/material';
import { afterTake, newPracticeConfig, startTempo } from '@isochron/core/planning';
import {
  DAY_MS,
  DEFAULT_SETTINGS,
  dayAt,
  dayIndex,
  dayStartMs,
  localDay,
  now,
  ownZone,
  type Passage,
  type PracticeConfig,
  practiceConfigKey,
} from '@isochron/core/schema';
import { enterBlock, practiceSessionAt } from '@isochron/core/strategy';
import type { Store } from '../database/open';
import { shelve, storeMissingPassages } from '../passages';
import { changeStoredConfig } from '../practice-configs';
import { putPracticeSession } from '../practice-sessions';
import { putRecording } from '../recordings';
import { changePlayerSettings } from '../settings';
import { putSolution } from '../solutions';
import { putNote, putTake } from '../takes';
import { bringBand } from './accompaniment';
import { demoSkill, practise } from './practice';
import { TIDEWHEEL } from './tidewheel';
import { tidewheelStudy } from './tidewheel-study';

const SEED = 20260914;
const WEEKS = 10;
/** Under this key it is noted whether the demo data are whole. */
const MARK = 'demo';
/** Takes of the last days have sound. */
const DAYS_WITH_SOUND = 2;

/** A reproducible UUID (version 4 in form) from a seed. */
const idFrom = (seed: number): string => {
  const { uniform } = chance(seed);
  const hex = Array.from({ length: 32 }, () => Math.floor(uniform() * 16).toString(16)).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20)}`;
};

/** Tags by passage, as the demo player would set them. */
const TAGS: Record<string, string[]> = {
  'tidewheel-wave': ['Tidewheel', 'marimba'],
  tidewheel: ['Tidewheel', 'marimba'],
  'five-steps': ['warm-up'],
  'rolling-threes': ['marimba'],
  'long-short-walk': ['bass clarinet'],
};

/** The reed's walk is practised from both sides; everything else as a new player would. */
const strategyFor = (passageId: string) => (passageId === 'long-short-walk' ? 'from-both-sides' : DEFAULT_SETTINGS.strategyId);

/** What the demo player found out, by passage and bars. */
const FOUND = [
  {
    passageId: 'tidewheel-wave',
    fromBar: 1,
    toBar: 1,
    daysAgo: 24,
    text: 'The left hand was late coming down. Lower the left stick before the turn, not in it.',
  },
  {
    passageId: 'tidewheel-wave',
    fromBar: 2,
    toBar: 2,
    daysAgo: 9,
    text: 'B flat with the edge of the bar: less way to go. Then it stays even up to 96.',
  },
  {
    passageId: 'five-steps',
    fromBar: 1,
    toBar: 1,
    daysAgo: 15,
    text: 'Breathe out on the way down; the turn at the top stops rushing.',
  },
];

/** What the demo player wrote about takes, by passage and days ago. */
const NOTED: Record<string, string> = {
  'tidewheel-wave/1': 'Looser in the wrists. The turn came by itself when I breathed out before it.',
  'tidewheel-wave/3': 'Tired; stopped before it got tight.',
  'tidewheel-wave/12': 'Softer sticks: the left hand is easier to hear.',
};

/** A day that the demo player has in mind for the hard bars, in days from today. */
const GOAL_IN_DAYS = 40;

/** How the demo player plays what is easy: nothing slips. */
const LOOSE = { spreadMs: 4, missedShare: 0, extraShare: 0, habitsMs: {} };

/** Tags and notebook of the demo player. */
const stockLibrary = async (store: Store, today: Date): Promise<void> => {
  for (const [id, tags] of Object.entries(TAGS)) await shelve(store, id, { tags });
  for (const [k, { daysAgo, ...entry }] of FOUND.entries()) {
    const writtenAt = new Date(today.getTime() - daysAgo * DAY_MS).toISOString();
    await putSolution(store, { id: idFrom(SEED + 9000 + k), ...entry, writtenAt, editedAt: writtenAt, removed: false });
  }
};

/**
 * Fills an empty store with ten weeks of made-up practice that ended yesterday: a marimba and bass-clarinet player who
 * prepares "Tidewheel", an invented study. Everything is played by the simulated player from one seed. Does nothing
 * where takes are stored already, and begins anew where it was broken off.
 */
export const seedDemo = async (store: Store, say: (line: string) => void, today = now(), weeks = WEEKS): Promise<void> => {
  const { settings, takes, sessions, practiceConfigs } = store.models;
  const mark = (done: boolean) =>
    store.write((transaction) => settings.upsert({ key: MARK, document: { done } }, { transaction }));
  const begun = (await settings.findByPk(MARK))?.get('document') as { done: boolean } | undefined;
  if (begun?.done === false) {
    // A start that was broken off: what it made goes, so that the ten weeks are whole.
    for (const table of [takes, sessions, practiceConfigs] as const) await (table as typeof takes).destroy({ where: {} });
  } else if ((await takes.count()) > 0) return;
  await mark(false);
  say('Making the demo data: ten weeks of made-up practice …');
  const study = tidewheelStudy();
  await storeMissingPassages(store, [TIDEWHEEL, study]);
  await stockLibrary(store, today);
  await bringBand(store, idFrom(SEED + 9100), SEED, today);
  // Whoever looks at the demo has no instrument at hand: the first begin works without one.
  await changePlayerSettings(store, { input: 'simulated' });
  const material: Passage[] = [TIDEWHEEL, ...BUILT_IN_PASSAGES];
  const configs = new Map<string, PracticeConfig>();
  const { uniform } = chance(SEED);
  const days = weeks * 7;
  // By the calendar here: the last evening of it is yesterday's wherever it is shown.
  const midnight = dayStartMs(ownZone(), localDay(today));
  for (let day = 0; day < days; day += 1) {
    const ago = days - day;
    const rests = uniform() < 0.35 && ago > DAYS_WITH_SOUND;
    if (rests) continue;
    const startedAt = new Date(midnight - ago * DAY_MS + (18 * 60 + Math.floor(uniform() * 90)) * 60_000);
    const sessionId = idFrom(SEED + day * 10 + 1);
    let session = practiceSessionAt(null, startedAt, () => sessionId);
    await putPracticeSession(store, session);
    const chosen = [
      ...material.filter((_, k) => k === 0 || (k + day) % 3 === 0),
      // The whole of it now and then, since the middle of the ten weeks.
      ...(day > days / 2 && day % 7 === 3 ? [study] : []),
    ];
    for (const [k, passage] of chosen.entries()) {
      const config =
        configs.get(passage.id) ?? newPracticeConfig(passage, { ...DEFAULT_SETTINGS, strategyId: strategyFor(passage.id) });
      const start = startTempo(config.goalBpm, config.last?.summary ?? null);
      const seed = SEED + day * 10 + k + 2;
      const at = new Date(startedAt.getTime() + k * 9 * 60_000);
      const { take, recording, sampleRateHz } = practise({
        takeId: idFrom(seed),
        sessionId,
        startedAt: at,
        passage,
        config,
        startBpm: start.bpm,
        // The whole study is kept at an easy tempo, as music.
        skill: { ...demoSkill(passage, day / days), ...(passage === study ? LOOSE : {}) },
        seed,
        patience: passage === study ? 2 : 7 + Math.floor(uniform() * 8),
        withSound: ago <= DAYS_WITH_SOUND && passage !== study,
      });
      configs.set(passage.id, afterTake(config, take));
      session = enterBlock(
        session,
        { config: practiceConfigKey(config), methodId: config.methodId, strategyId: config.strategyId },
        take.id,
        at,
      );
      await putTake(store, take);
      const note = NOTED[`${passage.id}/${ago}`];
      if (note) await putNote(store, take.id, note);
      if (recording) await putRecording(store, take.id, Readable.from([Buffer.from(writeWav(recording, sampleRateHz))]));
    }
    await putPracticeSession(store, session);
  }
  const goalDay = dayAt(dayIndex(localDay(today)) + GOAL_IN_DAYS);
  await changeStoredConfig(store, practiceConfigKey(newPracticeConfig(TIDEWHEEL, DEFAULT_SETTINGS)), { goalDay });
  await mark(true);
  say(`${await takes.count()} takes are in the Ledger.`);
};
