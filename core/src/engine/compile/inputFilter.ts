import type { InputPort } from '../../show';
import { channelFlags } from './inputs';
import type { KeyRow } from './compiled';
import { MAX_INPUT_CHANNELS } from '../state/limits';

/** Which inputs a zone lets play. */
interface Hearing {
  input: string | null;
  channels: readonly number[] | null;
}

interface Zone {
  inputFilter: number;
  lowKey: number;
  highKey: number;
  /** Nothing else plays its keys, where it is heard. */
  takes: boolean;
}

/** What only the timeline plays hears no input. */
export const NO_INPUT: Hearing = { input: null, channels: [] };
/** Hearing of a layer that never plays. */
export const SILENT_HEARING = -1;

/**
 * Numbers for the ways in which zones choose their inputs, and for the keymaps of patches: the zones of all layers in
 * order.
 * They know nothing of the gear and stay over every change of it, so that a change of gear compiles no song anew.
 */
export class Keymaps {
  readonly inputFilters: Hearing[] = [];
  readonly keymaps: (readonly Zone[])[] = [];
  private readonly hearingByKey = new Map<string, number>();
  private readonly keymapByKey = new Map<string, number>();

  inputFilter({ input, channels }: Hearing): number {
    const key = `${channels === null ? '' : `on ${channels.join(' ')}`}|${input ?? ''}`;
    const known = this.hearingByKey.get(key);
    if (known !== undefined) return known;
    this.hearingByKey.set(key, this.inputFilters.length);
    return this.inputFilters.push({ input, channels }) - 1;
  }

  keymap(zones: readonly Zone[]): number {
    const key = zones.map((zone) => `${zone.inputFilter}:${zoneKey(zone)}`).join(' ');
    const known = this.keymapByKey.get(key);
    if (known !== undefined) return known;
    this.keymapByKey.set(key, this.keymaps.length);
    return this.keymaps.push(zones) - 1;
  }
}

/** An input port with its number in the registry. */
export interface NumberedInput {
  port: InputPort;
  number: number;
}

/**
 * What tonight's gear makes of input filters and keymaps. Grows as songs are compiled; one for each gear list that is in use.
 */
export class InputFilterTables {
  /** By input filter: flags by input port and channel. */
  readonly hears: Uint8Array[] = [];
  /** The same for pedals, with ports that the gear list assigns. */
  readonly hearsPedals: Uint8Array[] = [];
  /** By keymap: rows by input port and channel, null where nothing plays. */
  readonly rows: (KeyRow | null)[][] = [];
  private readonly rowByKey = new Map<string, KeyRow>();

  constructor(
    private readonly keymaps: Keymaps,
    private readonly inputs: readonly NumberedInput[],
  ) {}

  /** Works out what has come in since the last time. */
  grow(): void {
    for (let i = this.hears.length; i < this.keymaps.inputFilters.length; i++) {
      this.hears.push(hearsFlags(this.keymaps.inputFilters[i], this.inputs));
      this.hearsPedals.push(hearsPedalFlags(this.keymaps.inputFilters[i], this.hears[i], this.inputs));
    }
    for (let i = this.rows.length; i < this.keymaps.keymaps.length; i++)
      this.rows.push(this.rowsOf(this.keymaps.keymaps[i]));
  }

  /** Most often every input plays every layer: then one row does for all. */
  private rowsOf(zones: readonly Zone[]): (KeyRow | null)[] {
    const highest = this.inputs.reduce((most, { number }) => Math.max(most, number), -1);
    const rows = new Array<KeyRow | null>((highest + 1) * 16).fill(null);
    const bySet = new Map<string, KeyRow>();
    for (const { number } of this.inputs) {
      let lastSet = '';
      let last: KeyRow | null = null;
      for (let at = number * 16; at < number * 16 + 16; at++) {
        let set = '';
        for (let i = 0; i < zones.length; i++)
          if (zones[i].inputFilter !== SILENT_HEARING && this.hears[zones[i].inputFilter][at] === 1)
            set += String.fromCharCode(i + 1);
        if (set === '') continue;
        if (set !== lastSet) {
          last = bySet.get(set) ?? this.row(zones, set);
          bySet.set(set, last);
          lastSet = set;
        }
        rows[at] = last;
      }
    }
    return rows;
  }

  private row(zones: readonly Zone[], set: string): KeyRow {
    let key = '';
    for (let i = 0; i < set.length; i++) {
      const target = set.charCodeAt(i) - 1;
      key += `${target}:${zoneKey(zones[target])} `;
    }
    const known = this.rowByKey.get(key);
    if (known) return known;
    const made = makeRow(
      zones,
      Array.from(set, (_, i) => set.charCodeAt(i) - 1),
      this.rowByKey.size,
    );
    this.rowByKey.set(key, made);
    return made;
  }
}

const zoneKey = ({ lowKey, highKey, takes }: Zone): string => `${lowKey}-${highKey}${takes ? '!' : ''}`;

function makeRow(zones: readonly Zone[], playing: readonly number[], number: number): KeyRow {
  const starts = new Uint16Array(129);
  const takers = playing.filter((target) => zones[target].takes);
  const has = (target: number, key: number): boolean => key >= zones[target].lowKey && key <= zones[target].highKey;
  let most = 0;
  for (const target of playing) most += Math.max(0, zones[target].highKey - zones[target].lowKey + 1);
  const targets = new Uint8Array(most);
  let at = 0;
  for (let key = 0; key < 128; key++) {
    starts[key] = at;
    const players = takers.some((target) => has(target, key)) ? takers : playing;
    for (const target of players) if (has(target, key)) targets[at++] = target;
  }
  starts[128] = at;
  return { number, starts, targets: targets.slice(0, at) };
}

function hearsFlags({ input, channels }: Hearing, inputs: readonly NumberedInput[]): Uint8Array {
  const flags = new Uint8Array(MAX_INPUT_CHANNELS);
  const allowed = channelFlags(channels);
  for (const { port, number } of inputs) {
    if (!port.plays || (input !== null && input !== port.alias)) continue;
    const plays = channelFlags(port.playsOn);
    for (let channel = 0; channel < 16; channel++) flags[number * 16 + channel] = allowed[channel] & plays[channel];
  }
  return flags;
}

function hearsPedalFlags(
  { input, channels }: Hearing,
  hears: Uint8Array,
  inputs: readonly NumberedInput[],
): Uint8Array {
  const flags = hears.slice();
  if (channels?.length === 0) return flags;
  const played = new Set(
    inputs
      .filter(({ port }) => port.plays && (input === null || input === port.alias))
      .map(({ port }) => port.alias as string),
  );
  for (const { port, number } of inputs)
    if (port.pedalsFor.some((alias) => played.has(alias))) flags.fill(1, number * 16, number * 16 + 16);
  return flags;
}
