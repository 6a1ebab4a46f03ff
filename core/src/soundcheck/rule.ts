import type { Found } from './finding';
import type { Around, SongTonight, Tonight } from './tonight';

/** What a rule is about: whether things are reached, whether they sound, whether they come in time. */
export type RuleGroup = 'reach' | 'sound' | 'time';

interface RuleAbout {
  id: string;
  group: RuleGroup;
  /** What it makes sure of, in a player's words: “no number stands twice”. */
  sure: string;
  /** How many things it looks at, and what they are called: one, many. */
  counts(tonight: Tonight): readonly [number, string, string];
}

/** Looks at each song by itself, so that an edit has only its song looked at again. */
export interface SongRule extends RuleAbout {
  per: 'song';
  find(song: SongTonight, around: Around): Found[];
}

/** Looks at the evening as a whole. */
export interface EveningRule extends RuleAbout {
  per: 'evening';
  find(tonight: Tonight): Found[];
}

export type Rule = SongRule | EveningRule;

const sum = (tonight: Tonight, of: (song: SongTonight) => number): number =>
  tonight.songs.reduce((total, song) => total + of(song), 0);

/** What many rules look at. */
export const counts = {
  songs: (tonight: Tonight) => [tonight.songs.length, 'song', 'songs'] as const,
  patches: (tonight: Tonight) => [sum(tonight, ({ song }) => song.patches.length), 'patch', 'patches'] as const,
  layers: (tonight: Tonight) =>
    [tonight.setlist.layers.length + sum(tonight, ({ song }) => song.layers.length), 'layer', 'layers'] as const,
  parts: (tonight: Tonight) =>
    [
      tonight.setlist.standing.length +
        sum(tonight, ({ song }) =>
          song.patches.reduce((total, patch) => total + patch.parts.length, song.standing.length),
        ),
      'zone',
      'zones',
    ] as const,
  steps: (tonight: Tonight) => [tonight.steps.length, 'step', 'steps'] as const,
  numbers: (tonight: Tonight) => [tonight.setlist.programs.length, 'number', 'numbers'] as const,
  roles: (tonight: Tonight) => [tonight.roles.length, 'role', 'roles'] as const,
  controls: (tonight: Tonight) => [tonight.around.gear.roles.length, 'control', 'controls'] as const,
  inputs: (tonight: Tonight) => [tonight.around.inputs.length, 'input', 'inputs'] as const,
  ports: (tonight: Tonight) => [tonight.around.inputs.length + tonight.around.outputs.length, 'port', 'ports'] as const,
  cues: (tonight: Tonight) => [sum(tonight, ({ song }) => song.cues.length), 'cue', 'cues'] as const,
};
