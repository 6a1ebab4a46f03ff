import type { GearList, Instrument, LayerId, InstrumentId, OutboardInstrument, PresetId } from '../show';
import type { TextCode } from '../formats/smf';
import type { FileGroup, MidiContents } from './contents';
import { cleanName } from './sections';

/** What becomes of a group of messages. */
export type GroupTarget =
  | { kind: 'leave' }
  /** To a port and channel; with an instrument, its programs are presets by name where they are exactly that. */
  | { kind: 'port'; port: string; channel: number; instrumentId: InstrumentId | null }
  /** Its notes and controllers play a layer of the song, or a new one. */
  | { kind: 'layer'; layerId: LayerId }
  | { kind: 'newLayer'; instrumentId: InstrumentId; presetId: PresetId }
  /** Its programs are recalls of patches of the song, by tonight's numbers. */
  | { kind: 'recalls' };

/** What is taken of a file, and as what. */
export interface ImportChoices {
  groups: Readonly<Record<string, GroupTarget>>;
  /** Tempo, meter, bars and sections of the file take the place of the song's. */
  takesMap: boolean;
  /** Cue points and texts become texts for the player. */
  takesTexts: boolean;
  takesLyrics: boolean;
  textCode: TextCode;
}

/** Port of a group that the file names no port for. */
export const UNNAMED_PORT = 'MIDI file';

const isSame = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/**
 * Where a group goes unless the player says otherwise: to the output that the file names, as the outboard instrument there
 * where the channel is its own too; else to a port and channel of its own.
 */
export function proposedTarget(
  { port, channel, isRecalls }: FileGroup,
  gear: Pick<GearList, 'ports'> | null,
  instruments: readonly Instrument[],
): GroupTarget {
  if (isRecalls) return { kind: 'recalls' };
  const outputs = (gear?.ports ?? []).flatMap((one) => (one.direction === 'out' ? [one.alias] : []));
  const found = port === null ? undefined : outputs.find((alias) => isSame(alias, port));
  const instrument = instruments.find(
    (one): one is OutboardInstrument => one.kind === 'outboard' && one.port === found && one.channel === channel,
  );
  return {
    kind: 'port',
    port: found ?? cleanName(port ?? '', UNNAMED_PORT),
    channel: Math.max(1, channel),
    instrumentId: instrument?.id ?? null,
  };
}

/** The choices with which a preview begins. */
export function proposedChoices(
  contents: MidiContents,
  gear: Pick<GearList, 'ports'> | null,
  instruments: readonly Instrument[],
  textCode: TextCode,
): ImportChoices {
  return {
    groups: Object.fromEntries(contents.groups.map((group) => [group.id, proposedTarget(group, gear, instruments)])),
    takesMap: true,
    takesTexts: true,
    takesLyrics: true,
    textCode,
  };
}
