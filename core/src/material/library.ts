import { lastPlayedAt } from '../plan/practice-config';
import type { PassageSummary, Solution } from '../schema/library';
import type { Passage } from '../schema/passage';
import type { PracticeConfig } from '../schema/practice-config';
import { hasEveryWord } from './every-word';

/** What of a passage the library shows. */
export const summaryOf = (
  passage: Passage,
  place: Pick<PassageSummary, 'tags' | 'archivedAt' | 'editedAt'>,
): PassageSummary => ({
  id: passage.id,
  revision: passage.revision,
  title: passage.title,
  about: passage.about,
  goalBpm: passage.goalBpm,
  beatUnit: passage.beatUnit,
  bars: passage.bars,
  noteCount: passage.notes.filter(({ grace }) => !grace).length,
  meter: passage.meters[0] ?? null,
  variants: passage.variants.map(({ id, name }) => ({ id, name })),
  sections: passage.sections,
  isPattern: passage.generator !== undefined,
  ...(passage.instrumentId ? { instrumentId: passage.instrumentId } : {}),
  ...place,
});

/** A passage on the library with what was played of it. */
export interface LibraryEntry {
  passage: PassageSummary;
  /** When it was played last, in any of its parts; empty where never. */
  playedAt: string;
  goalBpm: number;
  /** The fastest that was clean in its last take. */
  cleanBpm: number | null;
  /** Where it began to be hard, as its strategy remembers; null where it does not say. */
  edgeBpm: number | null;
}

/** By what the library can be sorted. */
export const LIBRARY_ORDERS = [
  { id: 'played', name: 'played last' },
  { id: 'left', name: 'left the longest' },
  { id: 'title', name: 'title' },
  { id: 'edited', name: 'changed last' },
  { id: 'goal', name: 'nearest to its goal' },
] as const;
export type LibraryOrder = (typeof LIBRARY_ORDERS)[number]['id'];

/** Entries of the library with the configurations of all their parts. */
export const libraryEntries = (
  passages: readonly PassageSummary[],
  practiceConfigs: readonly PracticeConfig[],
): LibraryEntry[] => {
  const byPassage = new Map<string, PracticeConfig[]>();
  for (const config of practiceConfigs) byPassage.set(config.passageId, [...(byPassage.get(config.passageId) ?? []), config]);
  return passages.map((passage) => {
    const own = byPassage.get(passage.id) ?? [];
    const latest = [...own].sort((a, b) => lastPlayedAt(b).localeCompare(lastPlayedAt(a)))[0];
    return {
      passage,
      playedAt: lastPlayedAt(latest),
      goalBpm: latest?.goalBpm ?? passage.goalBpm,
      cleanBpm: latest?.last?.summary.bestCleanBpm ?? null,
      edgeBpm: edgeOf(latest),
    };
  });
};

/** The tempo at which a configuration got hard, where its strategy keeps one. */
const edgeOf = (config: PracticeConfig | undefined): number | null => {
  const edge = config?.strategies[config.strategyId]?.state?.edgeBpm;
  return typeof edge === 'number' ? edge : null;
};

/** What of a passage is searched: its title, description, tags, sections and notebook. */
const searchedText = ({ passage }: LibraryEntry, notes: string): string =>
  [passage.title, passage.about, ...passage.tags, ...passage.sections.map(({ name }) => name), notes].join(' ');

const share = ({ cleanBpm, goalBpm }: LibraryEntry): number => (cleanBpm ?? 0) / goalBpm;

const COMPARE: Record<LibraryOrder, (a: LibraryEntry, b: LibraryEntry) => number> = {
  played: (a, b) => b.playedAt.localeCompare(a.playedAt),
  // What was never played has been left the longest.
  left: (a, b) => a.playedAt.localeCompare(b.playedAt),
  title: (a, b) => a.passage.title.localeCompare(b.passage.title),
  edited: (a, b) => (b.passage.editedAt ?? '').localeCompare(a.passage.editedAt ?? ''),
  goal: (a, b) => share(b) - share(a),
};

/** The library as it is asked for: searched in titles, descriptions, tags and notebook, chosen by tag, sorted; ties by title. */
export const searchLibrary = (
  entries: readonly LibraryEntry[],
  asked: { text: string; tag: string | null; archived: boolean; order: LibraryOrder },
  solutions: readonly Solution[] = [],
): LibraryEntry[] => {
  const matches = hasEveryWord(asked.text);
  const notes = new Map<string, string>();
  for (const { passageId, text } of solutions) notes.set(passageId, `${notes.get(passageId) ?? ''} ${text}`);
  return entries
    .filter(({ passage }) => (passage.archivedAt !== null) === asked.archived)
    .filter(({ passage }) => asked.tag === null || passage.tags.includes(asked.tag))
    .filter((entry) => matches(searchedText(entry, notes.get(entry.passage.id) ?? '')))
    .sort((a, b) => COMPARE[asked.order](a, b) || COMPARE.title(a, b));
};

/** The entries of the notebook that are about bars of a section, or of the whole; newest first. */
export const solutionsFor = (
  solutions: readonly Solution[],
  passageId: string,
  bars: { fromBar: number; toBar: number } | null = null,
): Solution[] =>
  solutions
    .filter((one) => !one.removed && one.passageId === passageId)
    .filter((one) => !bars || (one.fromBar <= bars.toBar && one.toBar >= bars.fromBar))
    .sort((a, b) => b.editedAt.localeCompare(a.editedAt));
