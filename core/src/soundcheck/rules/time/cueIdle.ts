import type { Instrument, Song } from '../../../show';
import { compileTimeline, formatPosition, tempoMapOfSong, type TrackTargets } from '../../../timeline';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { inSong, type Around } from '../../tonight';

const THERE = { lane: 0, address: null };
const A_LAYER = { lane: 0, layer: 0, shift: 0, follows: false };

/** What is there, without what the engine needs to play it. */
function targetsOf(
  song: Song,
  { instruments, outputs }: Around,
  leaveOut: TrackTargets<null>['leaveOut'],
): TrackTargets<null> {
  const sysex = new Set(outputs.filter(({ allowsSysex }) => allowsSysex).map(({ alias }) => alias as string));
  const layers = new Set(song.layers.map(({ id }) => id as string));
  const presets = (instrument: Instrument | undefined): readonly { id: string }[] =>
    instrument?.kind === 'outboard' ? instrument.names : [];
  return {
    placeOf(patchId, blendId) {
      const patch = song.patches.find(({ id }) => id === patchId);
      if (patch === undefined) return -1;
      return blendId === null || patch.blends.some(({ id }) => id === blendId) ? 0 : -1;
    },
    presetOf: (instrumentId, presetId) =>
      presets(instruments.get(instrumentId)).some(({ id }) => id === presetId) ? THERE : null,
    addressesOf: () => [],
    addressOf: () => null,
    destinationOf: () => 0,
    laneOf: () => 0,
    layerOf: (id) => (layers.has(id) ? A_LAYER : null),
    allowsSysex: (port) => sysex.has(port),
    leaveOut,
  };
}

/** Every cue and backing part does something when the playhead passes it. */
export const cueIdle: SongRule = {
  id: 'cue-idle',
  group: 'time',
  sure: 'every cue and backing part finds what it is for',
  per: 'song',
  counts: counts.cues,
  find({ song }, around) {
    if (song.cues.length === 0 && song.backing.length === 0) return [];
    const found: Found[] = [];
    compileTimeline(
      song,
      targetsOf(song, around, (cue, reason) => {
        const at = 'atTick' in cue ? formatPosition(tempoMapOfSong(song).positionAt(cue.atTick)) : null;
        found.push({
          severity: 'willFail',
          cause: `${cue.id} ${reason}`,
          place: {
            ...inSong(song, null, 'timeline'),
            words: at === null ? song.name : `${song.name}, ${at}`,
          },
          message: `${at === null ? `the backing part ${(cue as { name: string }).name}` : `the cue at ${at}`} does nothing: ${reason}`,
          why: 'Nothing happens when the playhead passes it.',
          mend:
            at === null
              ? undefined
              : {
                  label: 'switch the cue off',
                  steps: [{ kind: 'songs', id: song.id, at: ['cues', { id: cue.id }, 'off'], was: false, now: true }],
                },
        });
      }),
    );
    return found;
  },
};
