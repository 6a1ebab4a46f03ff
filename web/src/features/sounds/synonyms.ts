/** Words of the trade for one thing: whoever looks for one of a row finds what is called by any other of it. */
const ROWS: readonly (readonly string[])[] = [
  ['accordion', 'squeezebox', 'musette', 'concertina', 'bellows'],
  ['harmonium', 'reed organ', 'pump organ'],
  ['electric piano', 'ep', 'tines', 'reeds', 'suitcase'],
  ['piano', 'grand', 'upright', 'keys'],
  ['organ', 'drawbar', 'drawbars', 'tonewheel', 'pipes'],
  ['strings', 'violins', 'fiddle', 'section', 'ensemble', 'orchestra'],
  ['pizzicato', 'pizz', 'plucked'],
  ['brass', 'horns', 'trumpets', 'trombones'],
  ['bells', 'chimes', 'glockenspiel', 'celesta', 'carillon'],
  ['marimba', 'vibes', 'vibraphone', 'xylophone', 'mallets'],
  ['kalimba', 'thumb piano'],
  ['bass', 'sub', 'upright bass', 'bass guitar'],
  ['pad', 'pads', 'choir', 'voices', 'atmosphere', 'drone'],
  ['lead', 'synth', 'solo', 'saw', 'square'],
  ['drums', 'kit', 'percussion', 'timpani', 'kettle', 'hits', 'toms'],
  ['flute', 'whistle', 'piccolo', 'pipe'],
];

const byWord = new Map<string, ReadonlySet<string>>();
for (const row of ROWS)
  for (const word of row)
    byWord.set(word, new Set([...(byWord.get(word) ?? []), ...row.filter((other) => other !== word)]));

/** Other words for what was typed, all of it; none where the trade has no other. */
export const otherWordsFor = (typed: string): readonly string[] => [...(byWord.get(typed.trim().toLowerCase()) ?? [])];
