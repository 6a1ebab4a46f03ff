import type { Recipe } from '../recipe';

/** What drum kits are made of; each key of General MIDI's percussion map plays one of them. */
const HITS = [
  'kick',
  'stick',
  'snare',
  'clap',
  'tom',
  'closedHat',
  'openHat',
  'crash',
  'ride',
  'hand',
  'shaker',
  'bell',
] as const;
type Hit = (typeof HITS)[number];

/** What is played in the place of what a kit does not have: the first of these that it has. */
const ELSE: Readonly<Record<Hit, readonly Hit[]>> = {
  kick: [],
  stick: ['snare'],
  snare: ['stick'],
  clap: ['snare'],
  tom: ['kick'],
  closedHat: ['stick', 'snare'],
  openHat: ['closedHat', 'snare'],
  crash: ['openHat', 'closedHat', 'snare'],
  ride: ['closedHat', 'snare'],
  hand: ['tom', 'snare'],
  shaker: ['closedHat', 'snare'],
  bell: ['stick', 'closedHat', 'snare'],
};

const FIRST_KEY = 35;
/** From key 35 on: the hit, and how many semitones higher it is than as it was made (General MIDI 1, percussion map). */
const KEYS: readonly (readonly [Hit, number])[] = [
  ['kick', -1],
  ['kick', 0],
  ['stick', 0],
  ['snare', 0],
  ['clap', 0],
  ['snare', 2],
  ['tom', 0],
  ['closedHat', 0],
  ['tom', 2],
  ['closedHat', -2],
  ['tom', 4],
  ['openHat', 0],
  ['tom', 6],
  ['tom', 8],
  ['crash', 0],
  ['tom', 10],
  ['ride', 0],
  ['crash', 3],
  ['ride', 4],
  ['shaker', 5],
  ['crash', 7],
  ['bell', 0],
  ['crash', 2],
  ['shaker', -7],
  ['ride', 1],
  ['hand', 7],
  ['hand', 4],
  ['hand', 5],
  ['hand', 2],
  ['hand', 0],
  ['hand', 9],
  ['hand', 6],
  ['bell', 7],
  ['bell', 2],
  ['shaker', 2],
  ['shaker', 0],
  ['bell', 14],
  ['bell', 13],
  ['shaker', -3],
  ['shaker', -5],
  ['stick', 7],
  ['stick', 4],
  ['stick', 0],
  ['hand', 11],
  ['hand', 3],
  ['bell', 17],
  ['bell', 19],
];

/** A kit of those hits that are given; others stand in for the rest. */
export function kitHits(hits: Readonly<Partial<Record<Hit, Recipe>> & { kick: Recipe }>): readonly Recipe[] {
  return HITS.map((hit) => [hit, ...ELSE[hit]].map((one) => hits[one]).find((recipe) => recipe) ?? hits.kick);
}

/** Place in a kit of what a key plays, and by how many semitones it is moved. */
export function hitOf(key: number): { place: number; semitones: number } {
  const [hit, semitones] = KEYS[Math.min(KEYS.length - 1, Math.max(0, key - FIRST_KEY))];
  return { place: HITS.indexOf(hit), semitones };
}
