/** The part of jStat that is used here; the package ships no types. */
declare module 'jstat' {
  interface Distribution {
    inv(probability: number, degrees: number): number;
    cdf(value: number, degrees: number): number;
  }
  const jStat: {
    chisquare: Distribution;
    studentt: Distribution;
    centralF: { cdf(value: number, above: number, below: number): number };
    normal: { cdf(value: number, mean: number, sd: number): number };
    binomial: { cdf(value: number, count: number, probability: number): number };
  };
  export default jStat;
}
