declare module 'jstat' {
  interface Beta {
    pdf(x: number, alpha: number, beta: number): number;
    cdf(x: number, alpha: number, beta: number): number;
    sample(alpha: number, beta: number): number;
  }
  const jstat: { beta: Beta; setRandom(random: () => number): void };
  export default jstat;
}
