/** One line of the table that nothing stands beside. */
export interface Row {
  readonly work: string;
  readonly ours: string;
  readonly wanted: string;
}

/** The table that all measurements write to. */
const rows: { work: string; ours: string; peer: string; ratio: string; wanted: string }[] = [];

const ms = (t: number): string => (t < 10 ? `${t.toFixed(2)} ms` : `${Math.round(t)} ms`);

/** A line of the table: our time, and a peer's beside it, in ms. */
export const note = (work: string, ours: number, peer: number | null, wanted: string, peerName = ''): void => {
  rows.push({
    work,
    ours: ms(ours),
    peer: peer === null ? '—' : `${ms(peer)} ${peerName}`,
    ratio: peer === null ? '—' : `${(peer / ours).toFixed(2)} ×`,
    wanted,
  });
};

/** A line of what has no time of a peer beside it. */
export const say = ({ work, ours, wanted }: Row) => void rows.push({ work, ours, peer: '—', ratio: '—', wanted });

/** The best of some runs, in ms: what the code can do, with the least of what the machine does besides. */
export function best(run: () => void, times = 5): number {
  let least = Infinity;
  for (let i = 0; i < times; i++) {
    const began = performance.now();
    run();
    least = Math.min(least, performance.now() - began);
  }
  return least;
}

export function printTable(): void {
  console.log('| work | ours | beside it | ratio | wanted |\n|---|---|---|---|---|');
  for (const r of rows) console.log(`| ${r.work} | ${r.ours} | ${r.peer} | ${r.ratio} | ${r.wanted} |`);
}
