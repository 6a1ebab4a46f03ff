import type { Cue, Layer, OutMessage, Part, Song } from '../../../show';
import type { Found, Place, Severity } from '../../finding';
import { counts, type EveningRule, type SongRule } from '../../rule';
import { inSong, onPage, type Around } from '../../tonight';
import { switchedOn } from './switchedOn';

/** A port that something names, and what comes of it when it is not there. */
interface Named {
  among: 'keyboards' | 'inputs' | 'outputs';
  alias: string;
  severity: Severity;
  /** In words: “no output “Skerry””. */
  lacks: string;
  why: string;
}

const keyboard = (alias: string): Named => ({
  among: 'keyboards',
  alias,
  severity: 'willFail',
  lacks: `no keyboard “${alias}” that plays`,
  why: 'Zones that only it plays are silent.',
});

const soundsAt = (alias: string): Named => ({
  among: 'outputs',
  alias,
  severity: 'willFail',
  lacks: `no output “${alias}”`,
  why: 'Layers that sound there are silent.',
});

const sentTo = (alias: string, severity: Severity, what: string): Named => ({
  among: 'outputs',
  alias,
  severity,
  lacks: `no output “${alias}” for what ${what}`,
  why: 'It goes nowhere.',
});

const leader = (alias: string): Named => ({
  among: 'inputs',
  alias,
  severity: 'mayFail',
  lacks: `no input “${alias}”, whose clock the timeline follows`,
  why: 'The timeline goes by its own tempo.',
});

const keyboardsOf = (parts: readonly Part[]): Named[] =>
  parts.flatMap(({ zone }) => (zone.input === null ? [] : keyboard(zone.input)));

/** The port of an instrument, where it is hardware. */
function portOf(instrumentId: string, { instruments }: Around): string[] {
  const instrument = instruments.get(instrumentId);
  return instrument?.kind === 'outboard' ? [instrument.port] : [];
}

const outboardOf = (layers: readonly Layer[], around: Around): Named[] =>
  layers.flatMap(({ source, sound }) =>
    source.kind === 'midi' ? portOf(sound.instrumentId, around).map(soundsAt) : [],
  );

/** Outputs that a cue sends to by itself. */
function portsOf(cue: Cue, around: Around): string[] {
  if (cue.off) return [];
  if (cue.kind === 'preset') return portOf(cue.instrumentId, around);
  if (cue.kind === 'note') return cue.to.kind === 'port' ? [cue.to.port] : [];
  return 'port' in cue ? [cue.port] : [];
}

const inMessages = (messages: readonly OutMessage[]): Named[] =>
  messages.map(({ port }) => sentTo(port, 'willFail', 'patches send as they are entered or left'));

const inCues = ({ cues }: Song, around: Around): Named[] =>
  [...new Set(cues.flatMap((cue) => portsOf(cue, around)))].map((port) =>
    sentTo(port, 'mayFail', 'the timeline sends'),
  );

/** Ports that are named and not in tonight's gear, each once, at its worst. */
function missingOf(all: readonly Named[], place: Place, { gear, inputs, outputs }: Around): Found[] {
  const there = {
    keyboards: namesOf(inputs.filter(({ plays }) => plays)),
    inputs: namesOf(inputs),
    outputs: namesOf(outputs),
  };
  const missing = new Map<string, Named>();
  for (const one of all) {
    const key = `${one.among} ${one.alias}`;
    if (!there[one.among].has(one.alias) && missing.get(key)?.severity !== 'willFail') missing.set(key, one);
  }
  return [...missing.values()].map(({ among, alias, severity, lacks, why }) => {
    const direction = among === 'outputs' ? 'out' : 'in';
    const mend = switchedOn(gear, direction, alias);
    return {
      severity,
      cause: `${direction} ${alias} ${mend !== undefined}${severity === 'willFail' ? '' : ' by the way'}`,
      place,
      message: `${gear.name} has ${lacks}`,
      why,
      mend,
    };
  });
}

const namesOf = (ports: readonly { alias: string }[]): ReadonlySet<string> => new Set(ports.map(({ alias }) => alias));

/** The keyboards and outputs that songs name are in tonight's gear. */
export const portNames: SongRule = {
  id: 'port-names',
  group: 'reach',
  sure: 'every keyboard and output that a song names is in tonight’s gear, and on',
  per: 'song',
  counts: counts.parts,
  find: ({ song }, around) =>
    missingOf(
      [
        ...keyboardsOf([...song.standing, ...song.patches.flatMap(({ parts }) => parts)]),
        ...outboardOf(song.layers, around),
        ...song.patches.flatMap(({ entering, leaving }) => inMessages([...entering, ...leaving])),
        ...inCues(song, around),
      ],
      inSong(song),
      around,
    ),
};

/** The same for what stands through the setlist, and for where the click goes and the clock comes from. */
export const setlistPortNames: EveningRule = {
  id: 'setlist-port-names',
  group: 'reach',
  sure: 'every port that standing layers, click and clock name is in tonight’s gear, and on',
  per: 'evening',
  counts: counts.ports,
  find({ setlist, around }) {
    const {
      clockFrom,
      click: { on, to },
    } = around.gear;
    const click = on && to.kind === 'port' ? [sentTo(to.port, 'mayFail', 'the click plays')] : [];
    return missingOf(
      [
        ...keyboardsOf(setlist.standing),
        ...outboardOf(setlist.layers, around),
        ...click,
        ...(clockFrom === null ? [] : [leader(clockFrom)]),
      ],
      onPage(setlist.name, 'setlist'),
      around,
    );
  },
};
