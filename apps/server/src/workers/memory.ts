/** A process that takes more memory than this (bytes) ends itself before the machine suffers. */
export function endsItself(most: number): void {
  setInterval(() => process.memoryUsage().rss > most && process.exit(137), 50).unref();
}
