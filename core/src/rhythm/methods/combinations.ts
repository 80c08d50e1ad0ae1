/** All ways to choose `count` of the numbers 0 … `of` − 1, each ascending, in lexical order: of! / (count! (of − count)!) of them. */
export const combinations = (of: number, count: number, from = 0): number[][] => {
  if (count === 0) return [[]];
  return Array.from({ length: Math.max(0, of - count - from + 1) }, (_, k) => from + k).flatMap((first) =>
    combinations(of, count - 1, first + 1).map((rest) => [first, ...rest]),
  );
};
