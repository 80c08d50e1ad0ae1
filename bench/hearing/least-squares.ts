/** Solves a small linear system by elimination. */
export const solve = (matrix: readonly (readonly number[])[], right: readonly number[]): number[] => {
  const rows = matrix.map((row, k) => [...row, right[k] as number]);
  const n = rows.length;
  for (let k = 0; k < n; k += 1) {
    const pivot = rows[k] as number[];
    for (let r = k + 1; r < n; r += 1) {
      const row = rows[r] as number[];
      const share = (row[k] as number) / (pivot[k] as number);
      for (let c = k; c <= n; c += 1) row[c] = (row[c] as number) - share * (pivot[c] as number);
    }
  }
  const out = new Array<number>(n).fill(0);
  for (let k = n - 1; k >= 0; k -= 1) {
    const row = rows[k] as number[];
    let sum = row[n] as number;
    for (let c = k + 1; c < n; c += 1) sum -= (row[c] as number) * (out[c] as number);
    out[k] = sum / (row[k] as number);
  }
  return out;
};
