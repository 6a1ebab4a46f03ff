import {
  backingEvents,
  eventsByTick,
  withCue,
  withMovedCues,
  Cue,
  type CueId,
  type EntryMessage,
  type Instrument,
  type Layer,
  type OutboardInstrument,
  type Song,
} from '../show';
import { placedCues, type PlacedCue } from './placedCues';
import { tempoMapOfSong } from './repeatedMap';
import type { HandNote } from './usualNotes';
import type { TempoMap } from './tempoMap';

/** One byte on a MIDI cable: ten bits at 31,250 baud. */
export const BYTE_MS = 0.32;
/** What is added to every readiness. */
export const MARGIN_MS = 10;

/** Outboard gear that a cue switches, from the cue until it is ready. */
export interface Lead {
  /** Of the cue where it runs, with the gear behind it: the same over edits. */
  key: string;
  cue: Extract<Cue, { kind: 'recall' | 'preset' | 'program' }>;
  atTick: number;
  /** It runs here because a section repeats another one. */
  isRepeat: boolean;
  instrument: OutboardInstrument;
  /** 1–16. */
  channel: number;
  /** The layer whose preset a recall brings; null: a cue of the gear's own. */
  layer: Layer | null;
  /** What it switches to, where that is a preset by name. */
  presetId: string | null;
  /** The patch that is left by then plays the same channel: switched earlier, it would sound with the new preset. */
  isUnderHands: boolean;
  /** Bytes on the cable, switching, what follows, and the margin. */
  needsMs: number;
  /** The first tick at which it is ready. */
  readyTick: number;
  /** Notes that come before that, of the timeline and of hands, how many of them are hands', and the first of them. */
  lateNotes: number;
  lateHandNotes: number;
  firstNoteTick: number | null;
  /** The latest tick from which it is ready in time; null: the sound before it still plays there, or none is late. */
  safeTick: number | null;
}

interface LaneNote {
  atTick: number;
  endTick: number;
  byHand?: boolean;
}

/** A note of a hand is taken as this long: keys are let go of unlike each time. */
const HAND_NOTE_TICKS = 240;

/** The notes of one lane, by tick. */
class LaneNotes {
  private readonly ticks: Float64Array;
  /** By note: when it and all before it have ended. */
  private readonly ended: Float64Array;
  /** By note: how many up to it are hands'. */
  private readonly hands: Float64Array;

  constructor(notes: readonly LaneNote[]) {
    const inOrder = [...notes].sort((a, b) => a.atTick - b.atTick);
    this.ticks = Float64Array.from(inOrder, ({ atTick }) => atTick);
    let last = 0;
    this.ended = Float64Array.from(inOrder, ({ endTick }) => (last = Math.max(last, endTick)));
    let hands = 0;
    this.hands = Float64Array.from(inOrder, ({ byHand }) => (hands += byHand ? 1 : 0));
  }

  /** Number of the first note that does not begin before a tick. */
  private from(tick: number): number {
    let [low, high] = [0, this.ticks.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.ticks[middle] < tick) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** How many begin from a tick to before another, and where the first of them does. */
  within(fromTick: number, toTick: number): { count: number; hands: number; firstTick: number | null } {
    const first = this.from(fromTick);
    const end = this.from(toTick);
    const handsBefore = (note: number): number => (note === 0 ? 0 : this.hands[note - 1]);
    const count = end - first;
    return {
      count,
      hands: handsBefore(end) - handsBefore(first),
      firstTick: count > 0 ? this.ticks[first] : null,
    };
  }

  /** When the last of those that begin before a tick has ended; 0: none does. */
  releasedBefore(tick: number): number {
    const before = this.from(tick);
    return before === 0 ? 0 : this.ended[before - 1];
  }
}

const NO_NOTES = new LaneNotes([]);

interface Address {
  key: string;
  bytes: number;
  also: readonly EntryMessage[];
}

const laneKey = (port: string, channel: number): string => `${channel} ${port}`;
const alsoBytes = (also: readonly EntryMessage[]): number =>
  also.reduce((sum, { kind }) => sum + (kind === 'note' ? 6 : 3), 0);

function addressOf(instrument: OutboardInstrument, presetId: string): Address | null {
  const name = instrument.names.find(({ id }) => id === presetId);
  if (!name) return null;
  const { msb, lsb, program, also } = name;
  const bytes = (msb === null ? 0 : 3) + (lsb === null ? 0 : 3) + (program === null ? 0 : 2) + alsoBytes(also);
  return { key: `${msb ?? -1} ${lsb ?? -1} ${program ?? -1}`, bytes, also };
}

/**
 * What of a song's timeline needs time until it sounds: for each cue that switches outboard gear elsewhere than it stands,
 * when that is ready (bytes on the wire, its switching time, what follows it, and a margin of 10 ms), and which notes of
 * the timeline come before.
 * @param hands notes that the player usually plays there, which count like those of the timeline
 */
export function leadsOf(song: Song, instruments: readonly Instrument[], hands: readonly HandNote[] = []): Lead[] {
  return new LeadReader(song, instruments, hands).read();
}

class LeadReader {
  private readonly outboard: OutboardInstrument[];
  private readonly map: TempoMap;
  private readonly notes = new Map<string, LaneNotes>();
  /** By lane: where the gear stands. */
  private readonly stands = new Map<string, string>();
  /** By lane: the tick from which it does. */
  private readonly standsFrom = new Map<string, number>();
  /** Lanes of the patch that sounds. */
  private played = new Set<string>();
  /** By port: up to when its cable is busy, in ms. */
  private readonly busyMs = new Map<string, number>();

  constructor(
    private readonly song: Song,
    instruments: readonly Instrument[],
    private readonly hands: readonly HandNote[],
  ) {
    this.outboard = instruments.filter((one): one is OutboardInstrument => one.kind === 'outboard');
    this.map = tempoMapOfSong(song);
  }

  read(): Lead[] {
    const { song, map } = this;
    this.findNotes();
    const placed = placedCues(song);
    // What sounds before the first recall stands already.
    const [first] = song.patches;
    if (first)
      for (const { lane, address } of this.switchedBy(first.id)) {
        this.stands.set(lane, address.key);
        this.played.add(lane);
      }
    return placed
      .filter(({ atTick }) => atTick < map.endTick)
      .flatMap((one) => this.leadsAt(one))
      .sort((a, b) => a.atTick - b.atTick);
  }

  private instrumentOf(layer: Layer | undefined): { instrument: OutboardInstrument; channel: number } | null {
    const instrument = this.outboard.find(({ id }) => id === layer?.sound.instrumentId);
    return instrument && layer ? { instrument, channel: layer.sound.channel ?? instrument.channel } : null;
  }

  private findNotes(): void {
    const { song } = this;
    const found = new Map<string, LaneNote[]>();
    const add = (lane: string | null, note: LaneNote): void => {
      if (lane === null) return;
      const known = found.get(lane);
      if (known) known.push(note);
      else found.set(lane, [note]);
    };
    const laneOf = (to: Extract<Cue, { kind: 'note' }>['to']): string | null => {
      if (to.kind === 'port') return laneKey(to.port, to.channel);
      const played = this.instrumentOf(song.layers.find(({ id }) => id === to.layerId));
      return played && laneKey(played.instrument.port, played.channel);
    };
    for (const { cue, atTick } of placedCues(song))
      if (cue.kind === 'note') add(laneOf(cue.to), { atTick, endTick: atTick + cue.lengthTicks });
    for (const part of song.backing) {
      const lane = laneOf(part.to);
      if (part.off || lane === null) continue;
      for (const event of eventsByTick(backingEvents(part), song.sections)) if (event.kind === 'note') add(lane, event);
    }
    for (const { lane, note } of this.handNotes()) add(lane, note);
    for (const [lane, notes] of found) this.notes.set(lane, new LaneNotes(notes));
  }

  /** What hands play, on every lane that the patch which sounds then has under the key. */
  private handNotes(): { lane: string; note: LaneNote }[] {
    if (this.hands.length === 0) return [];
    const { song } = this;
    const recalls = placedCues(song).filter(({ cue }) => cue.kind === 'recall');
    const parts = new Map(song.patches.map(({ id, parts: own }) => [id as string, own]));
    return this.hands.flatMap(({ atTick, key }) => {
      const cue = recalls.findLast((one) => one.atTick <= atTick)?.cue;
      const patchId = cue?.kind === 'recall' ? cue.patchId : song.patches[0]?.id;
      return (parts.get(patchId ?? '') ?? []).flatMap(({ layerId, zone }) => {
        const played = this.instrumentOf(song.layers.find(({ id }) => id === layerId));
        if (!played || key < zone.lowKey || key > zone.highKey) return [];
        const note = { atTick, endTick: atTick + HAND_NOTE_TICKS, byHand: true };
        return [{ lane: laneKey(played.instrument.port, played.channel), note }];
      });
    });
  }

  /** The outboard layers of a patch, each where it has to stand; of several on one channel the first says where. */
  private switchedBy(
    patchId: string,
  ): { layer: Layer; instrument: OutboardInstrument; channel: number; lane: string; address: Address }[] {
    const patch = this.song.patches.find(({ id }) => id === patchId);
    const seen = new Set<string>();
    return (patch?.parts ?? []).flatMap(({ layerId }) => {
      const layer = this.song.layers.find(({ id }) => id === layerId);
      const found = this.instrumentOf(layer);
      const address = found && layer ? addressOf(found.instrument, layer.sound.presetId) : null;
      if (!layer || !found || !address) return [];
      const lane = laneKey(found.instrument.port, found.channel);
      if (seen.has(lane)) return [];
      seen.add(lane);
      return [{ layer, ...found, lane, address }];
    });
  }

  private leadsAt({ cue, atTick, key }: PlacedCue): Lead[] {
    const at = { atTick, isRepeat: key !== cue.id };
    switch (cue.kind) {
      case 'recall': {
        const switched = this.switchedBy(cue.patchId);
        const leads = switched.flatMap(({ layer, instrument, channel, lane, address }) => {
          const presetId = layer.sound.presetId;
          return this.lead({ ...at, key: `${key} ${lane}`, cue, instrument, channel, layer, presetId }, address, true);
        });
        this.played = new Set(switched.map(({ lane }) => lane));
        return leads;
      }
      case 'preset': {
        const instrument = this.outboard.find(({ id }) => id === cue.instrumentId);
        const address = instrument ? addressOf(instrument, cue.presetId) : null;
        if (!instrument || !address) return [];
        const channel = cue.channel ?? instrument.channel;
        return this.lead({ ...at, key, cue, instrument, channel, layer: null, presetId: cue.presetId }, address, true);
      }
      case 'program': {
        const { msb, lsb, program, channel, port } = cue;
        const instrument =
          this.outboard.find((one) => one.port === port && one.channel === channel) ??
          this.outboard.find((one) => one.port === port);
        const bytes = (msb === null ? 0 : 3) + (lsb === null ? 0 : 3) + 2;
        const address = { key: `${msb ?? -1} ${lsb ?? -1} ${program}`, bytes, also: [] };
        if (!instrument) return [];
        return this.lead({ ...at, key, cue, instrument, channel, layer: null, presetId: null }, address, false);
      }
      default:
        return [];
    }
  }

  /** @param ifOther nothing is sent where it stands there already */
  private lead(
    of: Pick<Lead, 'key' | 'cue' | 'atTick' | 'isRepeat' | 'instrument' | 'channel' | 'layer' | 'presetId'>,
    address: Address,
    ifOther: boolean,
  ): Lead[] {
    const { map } = this;
    const { instrument, atTick } = of;
    const lane = laneKey(instrument.port, of.channel);
    if (ifOther && this.stands.get(lane) === address.key) return [];
    this.stands.set(lane, address.key);
    const sinceTick = this.standsFrom.get(lane) ?? -1;
    this.standsFrom.set(lane, atTick);
    const atMs = map.msAt(atTick);
    const sentMs = Math.max(atMs, this.busyMs.get(instrument.port) ?? 0) + address.bytes * BYTE_MS;
    this.busyMs.set(instrument.port, sentMs);
    const needsMs = sentMs - atMs + instrument.switchMs + MARGIN_MS;
    const readyTick = Math.ceil(map.tickAt(atMs + needsMs) - 1e-6);
    const notes = this.notes.get(lane) ?? NO_NOTES;
    const { count: lateNotes, hands: lateHandNotes, firstTick: firstNoteTick } = notes.within(atTick, readyTick);
    return [
      {
        ...of,
        isUnderHands: this.played.has(lane),
        needsMs,
        readyTick,
        lateNotes,
        lateHandNotes,
        firstNoteTick,
        safeTick: this.safe(notes, firstNoteTick, needsMs, sinceTick),
      },
    ];
  }

  /** @param sinceTick when the gear was switched before: one cue does not pass another */
  private safe(notes: LaneNotes, firstNoteTick: number | null, needsMs: number, sinceTick: number): number | null {
    if (firstNoteTick === null) return null;
    const { map } = this;
    const startMs = map.msAt(firstNoteTick) - needsMs;
    if (startMs < 0) return null;
    const tick = Math.floor(map.tickAt(startMs) + 1e-6);
    // Never before the release of the last note that the old sound has there.
    return tick >= notes.releasedBefore(firstNoteTick) && tick > sinceTick ? tick : null;
  }
}

/** Whether cues that switch gear can be sent earlier such that no note is late. */
export const canGoAhead = ({ safeTick, isRepeat }: Lead): boolean => safeTick !== null && !isRepeat;

/**
 * The song with the gear of a lead switched earlier, at the last moment that is safe: a cue of the gear's own is moved, a
 * recall stays and gets a preset cue ahead of it.
 */
export function withGearAhead(song: Song, lead: Lead, mint: () => CueId): Song {
  const { safeTick, cue, instrument, presetId, channel } = lead;
  if (safeTick === null || !canGoAhead(lead)) return song;
  if (cue.kind !== 'recall')
    return withMovedCues(song, new Set([cue.id]), () => safeTick, tempoMapOfSong(song).endTick);
  return withCue(
    song,
    Cue.parse({
      kind: 'preset',
      id: mint(),
      atTick: safeTick,
      instrumentId: instrument.id,
      presetId,
      channel: channel === instrument.channel ? null : channel,
    }),
  );
}

/** Those of an instrument that can go ahead without the hands on the patch before hearing it. */
export const aheadOfHands = (leads: readonly Lead[], instrumentId: string): Lead[] =>
  leads.filter((lead) => lead.instrument.id === instrumentId && canGoAhead(lead) && !lead.isUnderHands);

/** The same for every such cue of an instrument. */
export const withAllAhead = (song: Song, leads: readonly Lead[], instrumentId: string, mint: () => CueId): Song =>
  aheadOfHands(leads, instrumentId).reduce((current, lead) => withGearAhead(current, lead, mint), song);

/** The lowest channel of a port that nothing of a song or an instrument uses; null: none is free. */
export function freeChannel(song: Song, instruments: readonly Instrument[], port: string): number | null {
  const used = new Set(channelsOn(song, instruments, port));
  for (let channel = 1; channel <= 16; channel++) if (!used.has(channel)) return channel;
  return null;
}

function channelsOn(song: Song, instruments: readonly Instrument[], port: string): (number | null)[] {
  const there = instruments.flatMap((one) => (one.kind === 'outboard' && one.port === port ? [one] : []));
  const isThere = (id: string): boolean => there.some((one) => one.id === id);
  const toPort = (to: Extract<Cue, { kind: 'note' }>['to']): (number | null)[] =>
    to.kind === 'port' && to.port === port ? [to.channel] : [];
  const ofCue = (cue: Cue): (number | null)[] => {
    if (cue.kind === 'note') return toPort(cue.to);
    if (cue.kind === 'preset') return isThere(cue.instrumentId) ? [cue.channel] : [];
    return cue.kind === 'program' || cue.kind === 'controller' ? (cue.port === port ? [cue.channel] : []) : [];
  };
  return [
    ...there.map(({ channel }) => channel),
    ...song.layers.flatMap(({ sound }) => (isThere(sound.instrumentId) ? [sound.channel] : [])),
    ...song.cues.flatMap(ofCue),
    ...song.backing.flatMap(({ to }) => toPort(to)),
  ];
}

/**
 * The song with the layer of a lead on a second channel, and its preset selected there in time, while the old sound still
 * rings on the first. The gear has to listen there too.
 */
export function withSecondChannel(song: Song, lead: Lead, channel: number, mint: () => CueId): Song {
  const { layer, instrument, firstNoteTick, atTick, needsMs, presetId } = lead;
  if (layer === null) return song;
  const map = tempoMapOfSong(song);
  const startMs = map.msAt(firstNoteTick ?? atTick) - needsMs;
  const ahead = startMs <= 0 ? 0 : Math.floor(map.tickAt(startMs) + 1e-6);
  const moved = {
    ...song,
    layers: song.layers.map((one) => (one.id === layer.id ? { ...one, sound: { ...one.sound, channel } } : one)),
  };
  return withCue(
    moved,
    Cue.parse({ kind: 'preset', id: mint(), atTick: ahead, instrumentId: instrument.id, presetId, channel }),
  );
}
