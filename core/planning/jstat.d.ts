declare module 'jstat' {
  export const jStat: { normal: { inv: (p: number, mean: number, deviation: number) => number } };
}
