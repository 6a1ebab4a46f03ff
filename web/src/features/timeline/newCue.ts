import { Cue, type CueId, type CueKind, type GearList, type Instrument, type Song } from '@rackle/core/show';

/** What a new cue can be, and what has to be there for it. */
export interface CueGround {
  song: Song;
  gear: GearList | null;
  instruments: readonly Instrument[];
}

/** Outputs of tonight’s gear, and those that the song's cues name. */
export const outputsOf = ({ song, gear }: Pick<CueGround, 'song' | 'gear'>): string[] => [
  ...new Set([
    ...(gear?.ports.flatMap((port) => (port.direction === 'out' ? [port.alias as string] : [])) ?? []),
    ...song.cues.flatMap((cue) => ('port' in cue ? [cue.port as string] : [])),
  ]),
];

type Started = Exclude<CueKind, 'recall'>;

/** What a new cue of a kind is about, besides where it stands; null: there is nothing that it could be about. */
const BEGINNINGS: Record<Started, (ground: CueGround, port: string | undefined) => object | null> = {
  preset: ({ instruments }) => {
    const instrument = instruments.find((one) => one.kind === 'outboard' && one.names.length > 0);
    return instrument?.kind === 'outboard' ? { instrumentId: instrument.id, presetId: instrument.names[0].id } : null;
  },
  note: ({ song: { layers } }, port) => {
    const [layer] = layers;
    if (layer) return { to: { kind: 'layer', layerId: layer.id }, key: 60, lengthTicks: 960 };
    return port ? { to: { kind: 'port', port, channel: 1 }, key: 60, lengthTicks: 960 } : null;
  },
  text: () => ({ text: 'wait' }),
  tempo: () => ({ percent: 100 }),
  program: (_, port) => (port ? { port, channel: 1, program: 0 } : null),
  controller: (_, port) => (port ? { port, channel: 1, controller: 7, value: 100 } : null),
  message: (_, port) => (port ? { port, bytes: [0xb0, 7, 100] } : null),
  lights: (ground, port) => (port ? { name: 'Lights', port: lightsPort(ground) ?? port, bytes: [0xb0, 7, 127] } : null),
};

/** A cue of a kind to begin with; null: there is nothing that it could be about. */
export function startedCue(kind: Started, id: CueId, atTick: number, ground: CueGround): Cue | null {
  const beginning = BEGINNINGS[kind](ground, outputsOf(ground)[0]);
  return beginning === null ? null : Cue.parse({ kind, id, atTick, ...beginning });
}

/** The output that cues to lights have gone to so far. */
const lightsPort = ({ song }: CueGround): string | null => {
  const known = song.cues.find((cue) => cue.kind === 'lights');
  return known?.kind === 'lights' ? known.port : null;
};

/** Bytes as they are typed, in hexadecimal with or without blanks; null: they are none. */
export function readBytes(text: string): number[] | null {
  const digits = text.replace(/[\s,]+/g, '');
  if (!/^([0-9a-f]{2})+$/i.test(digits)) return null;
  return Array.from({ length: digits.length / 2 }, (_, i) => Number.parseInt(digits.slice(i * 2, i * 2 + 2), 16));
}

/** Bytes in hexadecimal. */
export const hexOf = (bytes: readonly number[]): string =>
  bytes.map((byte) => byte.toString(16).toUpperCase().padStart(2, '0')).join(' ');
