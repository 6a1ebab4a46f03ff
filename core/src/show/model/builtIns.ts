import type { InstrumentId, PresetId } from './ids';
import { GENERAL_MIDI_KITS, GENERAL_MIDI_PROGRAMS } from './shippedBank';

/** An instrument that ships with the application; its recipes of sound are on the web side, under the same ids. */
export interface BuiltIn {
  id: InstrumentId;
  name: string;
  about: string;
  /**
   * Memory that all of it takes once loaded, in MB (of Cargo: its largest preset), and the time that its slowest preset
   * takes, in ms, as measured (`npm run figures -- --sound`): figures for the loading plan. 0: it is made as it is played.
   */
  memoryMb: number;
  loadMs: number;
  presets: { id: PresetId; name: string }[];
}

const make = (
  id: string,
  name: string,
  about: string,
  memoryMb: number,
  loadMs: number,
  presets: string[],
): BuiltIn => ({
  id: id as InstrumentId,
  name,
  about,
  memoryMb,
  loadMs,
  presets: presets.map((preset) => ({
    id: `${id}/${preset
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/-$/, '')}` as PresetId,
    name: preset,
  })),
});

/** The built-in instrument whose presets are as many kinds of things: all of General MIDI. */
export const OF_EVERY_KIND = 'cargo';

/** The instruments that Rackle brings, with their presets. */
export const BUILT_INS: readonly BuiltIn[] = [
  make('causeway', 'Causeway', 'electric piano', 14, 300, [
    'Late Boat',
    'Wet Planks',
    'Tin Cup',
    'Harbour Bar',
    'Felt Oar',
    'Morning Gull',
    'Bright Rail',
    'Slack Water',
    'Rope Bridge',
    'Coal Quay',
    'Glass Tide',
    'Old Ferry',
  ]),
  make('parlour', 'Parlour', 'soft piano', 68, 1500, [
    'Front Room',
    'Lid Down',
    'Upright Aunt',
    'Sunday',
    'Glass Door',
    'Far Corner',
    'Music Room',
    'Felt Strip',
    'Tack Row',
    'Cellar Door',
    'Two Rooms',
    'Late Guest',
  ]),
  make('drawbar-house', 'Drawbar House', 'organ', 0, 0, [
    'Chapel Row',
    'Full House',
    'Small Stop',
    'Reed Stop',
    'Cellar Pipes',
    'Bright Mixture',
    'Evening Service',
    'Flute Loft',
    'Dance Night',
    'Quiet Bench',
    'Tin Whistles',
    'Hollow Stop',
  ]),
  make('bellows', 'Bellows', 'accordion and harmonium', 5, 220, [
    'Musette',
    'Harmonium',
    'Two Reeds',
    'Bass Side',
    'Dry Squeeze',
    'Pump Organ',
    'Street Corner',
    'Soft Reed',
    'Concert Hands',
    'Chapel Pedals',
    'Button Box',
    'Mouth Reeds',
  ]),
  make('bowline', 'Bowline', 'strings', 42, 750, [
    'Slow Tide',
    'Ensemble',
    'Plucked',
    'Short Bows',
    'Low Section',
    'Single Fiddle',
    'Whole Hall',
    'Held Breath',
    'Trembling',
    'Small Pluck',
    'Old Cello',
    'On the Bridge',
  ]),
  make('quayside', 'Quayside', 'brass', 31, 300, [
    'Stabs',
    'Swell Section',
    'Soft Horns',
    'Town Band',
    'Low Brass',
    'Muted',
    'One Cornet',
    'Evening Flugel',
    'Falling off',
    'Wide Section',
    'Tuba Walk',
    'Saxes',
  ]),
  make('bellrope', 'Bellrope', 'bells and music box', 5, 30, [
    'Music Box',
    'Bell Buoy',
    'Chapel Bell',
    'Handbells',
    'Glass Chime',
    'Ship Bell',
    'Night Watch',
    'Spoons',
    'Toy Piano',
    'Vibes',
    'Frost',
    'Low Gong',
  ]),
  make('keelson', 'Keelson', 'bass', 25, 180, [
    'Round',
    'Upright',
    'Picked',
    'Sub',
    'Growl',
    'Rubber',
    'Fretless',
    'Organ Feet',
    'Slapped',
    'Muted Thumb',
    'Square Hold',
    'Biting Tide',
  ]),
  make('fogbank', 'Fogbank', 'pads', 0, 0, [
    'Harbour',
    'Low Cloud',
    'Dawn',
    'Choir of Gulls',
    'Warm Hold',
    'Ice',
    'Undertow',
    'Tin Roof Rain',
    'Slow Lamp',
    'Brass Mist',
    'Open Water',
    'Glass Harbour',
  ]),
  make('slipway', 'Slipway', 'marimba and kalimba', 4, 50, [
    'Marimba',
    'Kalimba',
    'Boat Ribs',
    'Bottle',
    'Wet Wood',
    'Pebbles',
    'Soft Mallets',
    'Low Planks',
    'Rosewood',
    'Steel Tub',
    'Thumb Box',
    'Dripping',
  ]),
  make('wicklight', 'Wicklight', 'leads', 0, 0, [
    'Flame',
    'Whistle',
    'Square Lantern',
    'Reedy',
    'Fifth Lamp',
    'Thin Beam',
    'Long Wick',
    'Two Lamps',
    'Slate Flute',
    'Spark',
    'Sub Beam',
    'Singing Saw',
  ]),
  make('deckhand', 'Deckhand', 'drums and hits', 16, 210, [
    'Boots and Boxes',
    'Foghorn',
    'Brushes',
    'Hand Drums',
    'Big Hits',
    'Clicks',
    'Dance Floor',
    'Rope and Chain',
    'Engine Room',
    'Shakers',
    'Stage Boards',
    'Thunder Sheet',
  ]),
  make(OF_EVERY_KIND, 'Cargo', 'all of General MIDI', 70, 1500, [
    ...GENERAL_MIDI_PROGRAMS,
    ...GENERAL_MIDI_KITS.map(({ name }) => name),
  ]),
];

const byId = new Map(BUILT_INS.map((instrument) => [instrument.id as string, instrument]));

/** A built-in instrument by its id. */
export const builtIn = (id: string): BuiltIn | null => byId.get(id) ?? null;
