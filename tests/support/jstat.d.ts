/** The parts of the reference library of statistics that tests use. */
declare module 'jstat' {
  const jstat: {
    normal: { inv(p: number, mean: number, deviation: number): number }
    chisquare: { inv(p: number, freedom: number): number }
    hypgeom: { pdf(k: number, all: number, marked: number, drawn: number): number }
  }
  export default jstat
}
