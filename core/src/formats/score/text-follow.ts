import type { Passage } from '../../schema/passage';

/** What a page changes besides the notes: the word at the head of a text, what it says, and what holds where it is left out. */
const LINES: readonly { word: string; say(passage: Passage): string; unsaid: string }[] = [
  { word: 'title', say: ({ title }) => title, unsaid: 'Untitled' },
  { word: 'tempo', say: ({ goalBpm }) => String(goalBpm), unsaid: '100' },
  { word: 'swing', say: ({ swing = 'straight' }) => String(swing), unsaid: 'straight' },
];

const REMARK = /\s+\/\/.*$/;

/**
 * The text in which a passage is typed, with what was changed elsewhere on its page: else the next note that is typed would put the old title,
 * goal or swing back. Notes and remarks stay as they are.
 */
export const textFollowing = (text: string, passage: Passage): string => {
  const lines = text.split(/\r?\n/);
  for (const { word, say, unsaid } of LINES) {
    const said = say(passage);
    // Of two lines of a word the second one holds.
    const at = lines.findLastIndex((line) => new RegExp(`^\\s*${word}\\s*:`, 'i').test(line));
    const line = lines[at];
    if (line === undefined) {
      const headEnd = lines.findIndex((other) => !/^\s*[a-z]+\s*:/i.test(other));
      if (said !== unsaid) lines.splice(Math.max(0, headEnd), 0, `${word}: ${said}`);
      continue;
    }
    const [remark = ''] = REMARK.exec(line) ?? [];
    const value = line.slice(line.indexOf(':') + 1, line.length - remark.length).trim();
    if (value !== said) lines[at] = `${word}: ${said}${remark}`;
  }
  return lines.join('\n');
};
