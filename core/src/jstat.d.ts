/** The part of jStat that is used here; the package ships no types. */
declare module 'jstat' {
  interface Distribution {
    inv(probability: number, degrees: number): number;
    cdf(value: number, degrees: number): number;
  }
  const jStat: {
    chisquare: Distribution;
    studentt: Distribution;
    binomial: { cdf(value: number, count: number, probability: number): number };
  };
  export default jStat;
}
