/** What some work takes of the processors, in ms: wall time lies on a machine that is busy elsewhere. */
export function cpuMs(work: () => void): number {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1000;
}
