import type { Finding } from '@rackle/core/soundcheck';

/** What was found firing twice in the last run of a timeline. */
export const twiceFindings = (twice: readonly { port: string; song: string; patch: string; at: string }[]): Finding[] =>
  twice.map(({ port, song, patch, at }) => ({
    severity: 'warning',
    code: 'fires-twice',
    where: `${song}, ${at}`,
    message: `${patch} is recalled by a cue and called by ${port}`,
    why: 'Both came within a beat when it last ran, so the second undoes what hands have done between. Switch the cue off on Timeline, or the call off in the other player.',
  }));
