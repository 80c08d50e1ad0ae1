import type { Solution } from '../schema/library';
import { localDay } from '../time/day';

/** The notebook as plain text: passage after passage, bars in order, each entry with its day. */
export const notebookText = (solutions: readonly Solution[], titleOf: (passageId: string) => string): string => {
  const byPassage = new Map<string, Solution[]>();
  for (const one of solutions) if (!one.removed) byPassage.set(one.passageId, [...(byPassage.get(one.passageId) ?? []), one]);
  return [...byPassage]
    .map(([id, own]) => ({
      title: titleOf(id),
      own: [...own].sort((a, b) => a.fromBar - b.fromBar || a.writtenAt.localeCompare(b.writtenAt)),
    }))
    .sort((a, b) => a.title.localeCompare(b.title))
    .map(({ title, own }) => {
      const lines = own.map(({ fromBar, toBar, writtenAt, text }) => {
        const bars = fromBar === toBar ? `Bar ${fromBar}` : `Bars ${fromBar} to ${toBar}`;
        return `${bars} (${localDay(new Date(writtenAt))})\n${text.trim()}\n`;
      });
      return `${title}\n${'='.repeat(title.length)}\n\n${lines.join('\n')}`;
    })
    .join('\n');
};
