/** A text without accents and capitals, so that what is typed need not be exact. */
const plain = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** Tells which texts have every word that was typed, in any order; all of them where none was. */
export const hasEveryWord = (typed: string): ((text: string) => boolean) => {
  const words = plain(typed).split(/\s+/).filter(Boolean);
  return (text) => {
    const whole = plain(text);
    return words.every((word) => whole.includes(word));
  };
};
