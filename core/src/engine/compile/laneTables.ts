import { CONTROLLER, NOTE_ON, PROGRAM } from '../../midi/status';
import type { Instrument, OutboardInstrument, StepMessage } from '../../show';
import type { Registry } from '../state/registry';
import type { CompiledShow, CompiledSong, CountedLane, StepBytes } from './compiled';

/** By lane, what outboard gear needs to be told and given time for. */
export type LaneTables = Pick<CompiledShow, 'laneUsesMsb' | 'laneUsesLsb' | 'laneSwitchMs' | 'laneCounted'>;

/** Whether any preset, or any message of a patch, on a lane gives a bank byte; and the switching time there. */
export function laneTables(
  instruments: Iterable<Instrument>,
  registry: Registry,
  songs: ReadonlySet<Pick<CompiledSong, 'lanes'>>,
): LaneTables {
  const tables = {
    laneUsesMsb: new Uint8Array(registry.laneCount),
    laneUsesLsb: new Uint8Array(registry.laneCount),
    laneSwitchMs: new Float64Array(registry.laneCount),
    laneCounted: [] as (CountedLane | undefined)[],
  };
  const outboard = [...instruments].filter((instrument) => instrument.kind === 'outboard');
  const own = new Map<number, Set<number>>();
  for (const { port, channel } of outboard) {
    const destination = registry.findOutputPort(port);
    own.set(destination, (own.get(destination) ?? new Set()).add(channel - 1));
  }
  const played = playedLanes(songs);
  for (const instrument of outboard) {
    const destination = registry.findOutputPort(instrument.port);
    if (destination < 0) continue;
    const first = registry.destinations[destination].lane;
    // Its own channel, and those on which its layers play it; a neighbour behind the same port is not touched.
    for (const lane of lanesOf(instrument.channel - 1, first, own.get(destination)!, played.get(instrument.id)))
      enter(instrument, lane, tables);
  }
  for (const { lanes } of songs) {
    for (const lane of lanes.msb) tables.laneUsesMsb[lane] = 1;
    for (const lane of lanes.lsb) tables.laneUsesLsb[lane] = 1;
  }
  return tables;
}

function playedLanes(songs: ReadonlySet<Pick<CompiledSong, 'lanes'>>): Map<string, Set<number>> {
  const played = new Map<string, Set<number>>();
  for (const { lanes } of songs)
    for (const [instrumentId, on] of lanes.played) {
      const known = played.get(instrumentId) ?? new Set<number>();
      played.set(instrumentId, known);
      for (const lane of on) known.add(lane);
    }
  return played;
}

/** What is known of a name list, however long: worked out once. */
const usesBank = new WeakMap<OutboardInstrument['names'], { msb: boolean; lsb: boolean }>();

function banksOf({ names }: OutboardInstrument): { msb: boolean; lsb: boolean } {
  const known = usesBank.get(names) ?? {
    msb: names.some(({ msb }) => msb !== null),
    lsb: names.some(({ lsb }) => lsb !== null),
  };
  usesBank.set(names, known);
  return known;
}

function enter(
  instrument: OutboardInstrument,
  lane: number,
  tables: LaneTables & { laneCounted: (CountedLane | undefined)[] },
): void {
  const banks = banksOf(instrument);
  if (banks.msb) tables.laneUsesMsb[lane] = 1;
  if (banks.lsb) tables.laneUsesLsb[lane] = 1;
  tables.laneSwitchMs[lane] = Math.max(tables.laneSwitchMs[lane], instrument.switchMs);
  if (instrument.counted)
    tables.laneCounted[lane] = {
      next: stepBytes(instrument.counted.next),
      previous: stepBytes(instrument.counted.previous),
      count: instrument.names.length,
    };
}

/** An instrument's own lane, and those where layers play it on a channel that is no other instrument's own. */
const lanesOf = (
  channel: number,
  first: number,
  own: ReadonlySet<number>,
  played: ReadonlySet<number> = new Set(),
): number[] => [first + channel, ...[...played].filter((lane) => !own.has(lane - first))];

const stepBytes = (message: StepMessage): StepBytes => {
  switch (message.kind) {
    case 'controller':
      return { status: CONTROLLER, data1: message.number, data2: message.value };
    case 'program':
      return { status: PROGRAM, data1: message.number, data2: 0 };
    case 'note':
      return { status: NOTE_ON, data1: message.number, data2: 100 };
  }
};
