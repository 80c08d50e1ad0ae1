import { makeReason } from '../schema/reason';
import { type Check, FAIL, PASS } from './check';

/** Accents that stand out, where they are asked for. */
export const accents: Check = {
  reason: 'accents',
  hard: false,
  excess: ({ measures, tolerance, asksAccents }) =>
    asksAccents && measures.accentContrastDb !== null ? 1 - measures.accentContrastDb / tolerance.accentContrastDb : PASS,
  why: ({ measures, tolerance }, few) =>
    makeReason('accents', { db: measures.accentContrastDb ?? 0, asked: tolerance.accentContrastDb, ...few }),
};

/** Two levels are told apart from so many dB on: about one step of a dynamic (common practice, no source). */
const DYNAMIC_DB = 4;

/** Loud ones that were loud, beside soft ones that were soft. */
export const dynamics: Check = {
  reason: 'dynamics',
  hard: false,
  excess: ({ measures: { dynamicDb } }) => (dynamicDb === undefined ? PASS : 1 - dynamicDb / DYNAMIC_DB),
  why: ({ measures: { dynamicDb = 0 } }, few) => makeReason('dynamics', { db: dynamicDb, asked: DYNAMIC_DB, ...few }),
};

/** Held notes that were let go: the point of holding them. */
export const letGo: Check = {
  reason: 'let-go',
  hard: true,
  excess: ({ measures }) => ((measures.letGo ?? 0) > 0 ? FAIL : PASS),
  why: ({ measures }) => makeReason('let-go', { count: measures.letGo ?? 0 }),
};

/** Short notes sound up to so much of their step, connected ones at least so much, in % (our choice, no source). */
const ARTICULATION_PCT = { short: { most: 65 }, connected: { least: 85 } } as const;

/** Notes as long as they are to sound. */
export const articulation: Check = {
  reason: 'articulation',
  hard: false,
  excess: ({ measures: { articulationPct: pct }, articulation: asked }) => {
    if (!asked || pct === null || pct === undefined) return PASS;
    return asked === 'short' ? pct / ARTICULATION_PCT.short.most - 1 : 1 - pct / ARTICULATION_PCT.connected.least;
  },
  why: ({ measures, articulation: asked }, few) =>
    asked === 'short'
      ? makeReason('articulation', { pct: measures.articulationPct ?? 0, most: ARTICULATION_PCT.short.most, ...few })
      : makeReason('articulation', { pct: measures.articulationPct ?? 0, least: ARTICULATION_PCT.connected.least, ...few }),
};

/** What is struck at once may come so far apart, in ms, whatever the tempo: about as far as one hand of a pianist leads (from memory, no source). */
const TOGETHER_MS = 25;

/** Notes struck at once that sound at once. */
export const together: Check = {
  reason: 'together',
  hard: false,
  excess: (judged) => (judged.measures.chordSpreadMs ?? 0) / TOGETHER_MS - 1,
  why: (judged, few) => makeReason('together', { ms: judged.measures.chordSpreadMs ?? 0, limit: TOGETHER_MS, ...few }),
};

/** Hands that play at once, where they are asked to. */
export const hands: Check = {
  reason: 'hands',
  hard: false,
  excess: (judged) => Math.abs(judged.measures.rightHandMs ?? 0) / TOGETHER_MS - 1,
  why: (judged, few) => makeReason('hands', { ms: judged.measures.rightHandMs ?? 0, ...few }),
};
