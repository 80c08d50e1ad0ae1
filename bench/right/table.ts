/** A table of docs/right.md. */
export interface Table {
  title: string;
  /** What the figures mean, and what is wanted. */
  about: string;
  head: readonly string[];
  rows: readonly (readonly string[])[];
}

export const pct = (share: number): string => (Number.isNaN(share) ? '–' : `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`);

/** The share of seeds 1…count for which something is so. */
export const shareOf = (count: number, isSo: (seed: number) => boolean): number => {
  let found = 0;
  for (let seed = 1; seed <= count; seed += 1) if (isSo(seed)) found += 1;
  return found / count;
};

export const asMarkdown = ({ title, about, head, rows }: Table): string =>
  [`## ${title}`, about, [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n')].join('\n\n');
