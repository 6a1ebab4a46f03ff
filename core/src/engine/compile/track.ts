import type { Song } from '../../show';
import { compileTimeline, formatPosition, tempoMapOfSong, type Track } from '../../timeline';
import { addressFor } from '../recall/addresses';
import type { Registry } from '../state/registry';
import type { Address, CompiledPatch, CompileNote } from './compiled';
import type { SongSurroundings } from './surroundings';

const NO_MESSAGES: Parameters<typeof addressFor>[3] = [];

/** The track of a song: its timeline, with the engine's own numbers for what it names. */
export function compileTrack(
  song: Song,
  patches: readonly CompiledPatch[],
  around: SongSurroundings,
  registry: Registry,
  notes: CompileNote[],
): Track<Address> {
  const starts = startsOf(patches);
  const laneOf = (port: string, channel: number): number =>
    registry.destinations[registry.outputPort(port)].lane + channel - 1;
  const addresses = new Map<number, Address>();
  return compileTimeline<Address>(song, {
    placeOf: (patchId, blendId) => {
      const p = patches.findIndex((patch) => patch.patchId === patchId);
      const b = p < 0 ? -1 : patches[p].balances.findIndex((balance) => balance.blendId === blendId);
      return b < 0 ? -1 : starts[p] + b;
    },
    presetOf: (instrumentId, presetId, channel) => {
      const instrument = around.instrument(instrumentId);
      if (instrument?.kind !== 'outboard') return null;
      const { addresses, own } = around.shared.presets(instrument, presetId);
      const address = addresses[own] as Address | undefined;
      return address === undefined ? null : { lane: laneOf(instrument.port, channel ?? instrument.channel), address };
    },
    addressesOf: (place) => addressesOf(patches, starts, place),
    addressOf: (msb, lsb, program) => {
      const key = ((msb + 1) * 129 + lsb + 1) * 128 + program;
      const address = addresses.get(key) ?? addressFor(msb, lsb, program, NO_MESSAGES);
      addresses.set(key, address);
      return address;
    },
    destinationOf: (port) => registry.outputPort(port),
    laneOf,
    layerOf: (layerId) => {
      // What only the timeline plays stands last in every patch, what stands through the song before its own.
      const isStanding = song.standing.some((part) => part.layerId === layerId);
      const same = (patches[0] as CompiledPatch | undefined)?.layers.filter((layer) => layer.layerId === layerId) ?? [];
      const layer = isStanding ? same[0] : same.at(-1);
      const follows = song.layers.find(({ id }) => id === layerId)?.followsTranspose ?? false;
      return layer === undefined
        ? null
        : { lane: layer.lane, layer: layer.index, shift: follows ? song.transpose : 0, follows };
    },
    allowsSysex: (port) => around.sysexOutputs.has(port),
    leaveOut: (cue, reason) => {
      const what =
        'atTick' in cue
          ? `the cue at ${formatPosition(tempoMapOfSong(song).positionAt(cue.atTick))}`
          : `the backing part ${cue.name}`;
      notes.push({ code: 'cue-does-nothing', message: `${song.name}, ${what}: ${reason}` });
    },
  });
}

const startsOf = (patches: readonly CompiledPatch[]): number[] => {
  let count = 0;
  return patches.map(({ balances }) => {
    count += balances.length;
    return count - balances.length;
  });
};

/** What the recall of a place makes outboard gear stand at. */
function addressesOf(
  patches: readonly CompiledPatch[],
  starts: readonly number[],
  place: number,
): { lane: number; address: Address }[] {
  const p = starts.findLastIndex((start) => start <= place);
  const { layers, balances } = patches[p];
  const { articulations } = balances[place - starts[p]];
  return layers.flatMap((layer, i) => {
    const address = articulations?.[i] ?? layer.address;
    return layer.ownsAddress && !layer.silent && address !== null && address.program >= 0
      ? [{ lane: layer.lane, address }]
      : [];
  });
}
