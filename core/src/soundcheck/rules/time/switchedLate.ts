import { backingEvents, type OutboardInstrument, type Patch, type Song } from '../../../show';
import { placedCues, tempoMapOfSong } from '../../../timeline';
import type { Found } from '../../finding';
import { counts, type SongRule } from '../../rule';
import { rowsIn } from '../../sounding';
import { inSong, type Around } from '../../tonight';

/** An outboard sound as a recall chooses it. */
interface Chosen {
  layerName: string;
  at: string;
  presetId: string;
  switchMs: number;
  isAtOnce: boolean;
}

/** Outboard sounds of a patch, by port and channel. */
function chosenIn(song: Song, patch: Patch, around: Around): Chosen[] {
  return rowsIn(song, patch, around).flatMap(({ layer }) => {
    const instrument = around.instruments.get(layer.sound.instrumentId);
    if (instrument?.kind !== 'outboard' || layer.source.kind === 'live') return [];
    return [
      {
        layerName: layer.name,
        at: addressOf(instrument, layer.sound.channel),
        presetId: layer.sound.presetId,
        switchMs: instrument.switchMs,
        isAtOnce: layer.notReady === 'atOnce',
      },
    ];
  });
}

const addressOf = (instrument: OutboardInstrument, channel: number | null): string =>
  `${instrument.port} ${channel ?? instrument.channel}`;

/** Outboard gear has switched before its first note. */
export const switchedLate: SongRule = {
  id: 'switched-late',
  group: 'time',
  sure: 'outboard gear has its time to switch before notes can come',
  per: 'song',
  counts: counts.patches,
  find: ({ song }, around) => {
    const isOutboard = ({ sound }: Song['layers'][number]): boolean =>
      around.instruments.get(sound.instrumentId)?.kind === 'outboard';
    if (!song.layers.some(isOutboard) && !around.setlist.layers.some(isOutboard)) return [];
    return [
      ...song.patches.flatMap((patch) => atOnceIn(song, patch, around)),
      ...(song.cues.length > 0 ? onTimeline(song, around) : []),
    ];
  },
};

/** Layers that play at once, though their gear is still switching. */
function atOnceIn(song: Song, patch: Patch, around: Around): Found[] {
  return chosenIn(song, patch, around).flatMap(({ layerName, switchMs, isAtOnce, presetId }): Found[] => {
    if (!isAtOnce || switchMs === 0) return [];
    const layer = song.layers.find(({ name, sound }) => name === layerName && sound.presetId === presetId);
    return [
      {
        severity: 'mayFail',
        cause: `${layerName} ${presetId} ${switchMs}`,
        place: inSong(song, patch),
        message: `${layerName} plays at once, and its gear takes ${switchMs} ms to switch`,
        why: 'A note right after the recall has the sound before, or none.',
        mend: layer && {
          label: 'let it wait',
          steps: [
            { kind: 'songs', id: song.id, at: ['layers', { id: layer.id }, 'notReady'], was: 'atOnce', now: 'wait' },
          ],
        },
      },
    ];
  });
}

interface Switched {
  atMs: number;
  presetId: string;
  switchMs: number;
  where: string;
}

/** Notes of the timeline that come while the gear they go to is switching, and recalls nearer than it can. */
function onTimeline(song: Song, around: Around): Found[] {
  const map = tempoMapOfSong(song);
  const found: Found[] = [];
  const place = (words: string) => ({ ...inSong(song, null, 'timeline'), words: `${song.name}, ${words}` });
  const switches = new Map<string, Switched[]>();
  const recalls = placedCues(song).flatMap(({ cue, atTick }) =>
    cue.kind === 'recall' && !cue.off ? [{ cue, atTick }] : [],
  );
  for (const { cue, atTick } of recalls) {
    const patch = song.patches.find(({ id }) => id === cue.patchId);
    if (!patch) continue;
    const atMs = map.msAt(atTick);
    for (const { at, presetId, switchMs, layerName } of chosenIn(song, patch, around)) {
      const list = switches.get(at) ?? [];
      const last = list.at(-1);
      if (last?.presetId === presetId) continue;
      if (last !== undefined && atMs - last.atMs < switchMs)
        found.push({
          severity: 'willFail',
          cause: `twice ${at} ${atTick}`,
          place: place(patch.name),
          message: `${layerName} is switched again after ${Math.round(atMs - last.atMs)} ms, and its gear takes ${switchMs}`,
          why: 'The sound between is never heard right.',
        });
      switches.set(at, [...list, { atMs, presetId, switchMs, where: patch.name }]);
    }
  }
  if (switches.size === 0) return found;
  for (const [at, ticks] of notesByAddress(song, around)) {
    for (const { atMs, switchMs, where } of switches.get(at) ?? []) {
      const early = ticks.map((tick) => map.msAt(tick)).find((ms) => ms >= atMs && ms < atMs + switchMs);
      if (early !== undefined)
        found.push({
          severity: 'willFail',
          cause: `${at} ${where} ${Math.round(early - atMs)}`,
          place: place(where),
          message: `a note goes to channel ${at.split(' ').at(-1)} of ${at.slice(0, at.lastIndexOf(' '))} ${Math.round(early - atMs)} ms after it was switched, and it takes ${switchMs}`,
          why: 'It has the sound before, or none: put the recall earlier.',
        });
    }
  }
  return found;
}

/** Ticks of notes that the timeline sends to outboard gear, by port and channel. */
function notesByAddress(song: Song, { instruments }: Around): Map<string, number[]> {
  const notes = new Map<string, number[]>();
  const add = (at: string | null, tick: number): void => {
    if (at !== null) notes.set(at, [...(notes.get(at) ?? []), tick]);
  };
  const addressOfTarget = (to: Extract<Song['cues'][number], { kind: 'note' }>['to']): string | null => {
    if (to.kind === 'port') return `${to.port} ${to.channel}`;
    const layer = song.layers.find(({ id }) => id === to.layerId);
    const instrument = layer && instruments.get(layer.sound.instrumentId);
    return instrument?.kind === 'outboard' ? addressOf(instrument, layer!.sound.channel) : null;
  };
  for (const { cue, atTick } of placedCues(song))
    if (cue.kind === 'note' && !cue.off) add(addressOfTarget(cue.to), atTick);
  for (const part of song.backing) {
    const at = part.off ? null : addressOfTarget(part.to);
    if (at !== null) for (const event of backingEvents(part)) if (event.kind === 'note') add(at, event.atTick);
  }
  return notes;
}
