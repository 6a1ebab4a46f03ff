import { filesOf, knownInstrument, type Layer } from '../../../show';
import type { Found, Place } from '../../finding';
import { counts, type EveningRule, type SongRule } from '../../rule';
import { inSong, onPage, type Around } from '../../tonight';

/** What is missing of a layer's sound. */
function missingOf({ name, source, sound }: Layer, place: Place, { instruments, here }: Around): Found[] {
  if (source.kind === 'live') return [];
  const known = knownInstrument(sound.instrumentId, (id) => instruments.get(id));
  const found = (cause: string, message: string): Found[] => [
    {
      severity: 'willFail',
      cause: `${cause} ${sound.instrumentId} ${cause === 'preset' ? sound.presetId : ''}`,
      place,
      message,
      why: 'The layer is silent.',
    },
  ];
  if (known === null) return found('instrument', `${name} plays an instrument that is not there`);
  if (!known.presets.some(({ id }) => id === sound.presetId))
    return found('preset', `${name} plays a preset that ${known.name} does not have`);
  const instrument = instruments.get(sound.instrumentId);
  if (instrument === undefined || here.files === null) return [];
  const needed =
    instrument.kind === 'recordings'
      ? instrument.presets.filter(({ id }) => id === sound.presetId).map(({ file }) => file as string)
      : filesOf(instrument);
  return needed.every((file) => here.files!.has(file))
    ? []
    : found('file', `the file that ${known.name} plays is not in this data folder`);
}

/** Every layer of a song has something to sound with. */
export const soundMissing: SongRule = {
  id: 'sound-missing',
  group: 'sound',
  sure: 'instrument, preset and file of every layer are there',
  per: 'song',
  counts: counts.layers,
  find: ({ song }, around) => song.layers.flatMap((layer) => missingOf(layer, inSong(song), around)),
};

/** The same for what stands through the whole setlist. */
export const standingSoundMissing: EveningRule = {
  id: 'standing-sound-missing',
  group: 'sound',
  sure: 'instrument, preset and file of every standing layer are there',
  per: 'evening',
  counts: (tonight) => [tonight.setlist.layers.length, 'layer', 'layers'],
  find: ({ setlist, around }) =>
    setlist.layers.flatMap((layer) => missingOf(layer, onPage(setlist.name, 'setlist'), around)),
};
