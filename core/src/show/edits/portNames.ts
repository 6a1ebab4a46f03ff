import type { Cue } from '../model/cue';
import type { GearList } from '../model/gearList';
import type { Instrument } from '../model/instrument';
import type { Part } from '../model/layer';
import type { OutMessage } from '../model/outMessage';
import type { Setlist } from '../model/setlist';
import type { Song } from '../model/song';

interface Named {
  songs: readonly Song[];
  setlists: readonly Setlist[];
  instruments: readonly Instrument[];
}

const inputsIn = ({ songs, setlists }: Named): (string | null)[] => [
  ...[
    ...songs.flatMap((song) => [...song.standing, ...song.patches.flatMap(({ parts }) => parts)]),
    ...setlists.flatMap(({ standing }) => standing),
  ].map(({ zone }) => zone.input),
  ...setlists.flatMap(({ programs }) => programs.map(({ port }) => port)),
];
const outputOf = (cue: Cue): string | null =>
  'port' in cue ? cue.port : cue.kind === 'note' && cue.to.kind === 'port' ? cue.to.port : null;
function withOutput(cue: Cue, port: string): Cue {
  if ('port' in cue) return { ...cue, port };
  return cue.kind === 'note' && cue.to.kind === 'port' ? { ...cue, to: { ...cue.to, port } } : cue;
}
const outputsIn = ({ songs, instruments }: Named): string[] => [
  ...songs.flatMap(({ patches, cues, backing }) => [
    ...patches.flatMap(({ entering, leaving }) => [...entering, ...leaving].map(({ port }) => port)),
    ...cues.flatMap((cue) => outputOf(cue) ?? []),
    ...backing.flatMap((part) => (part.to.kind === 'port' ? [part.to.port] : [])),
  ]),
  ...instruments.flatMap((instrument) => (instrument.kind === 'outboard' ? [instrument.port] : [])),
];

/**
 * What else of a show changes with the alias of a port. An alias that only this gear list has is renamed wherever
 * songs, setlists and
 * instruments name it; one that other gear lists have too, and one that takes the name of a port which they name
 * already, is the gear list's
 * own affair: another device then plays that part tonight.
 * @returns what changed, as new objects.
 */
export function withRenamedPort(
  gearListId: string,
  direction: 'in' | 'out',
  from: string,
  to: string,
  show: Named & { gearLists: readonly GearList[] },
): { songs: Song[]; setlists: Setlist[]; instruments: Instrument[] } {
  const none = { songs: [], setlists: [], instruments: [] };
  const named: readonly (string | null)[] = direction === 'in' ? inputsIn(show) : outputsIn(show);
  const elsewhere = show.gearLists.some(
    (list) => list.id !== gearListId && list.ports.some((port) => port.direction === direction && port.alias === from),
  );
  if (from === to || elsewhere || !named.includes(from) || named.includes(to)) return none;
  const renamed = <T extends string | null>(name: T): T => (name === from ? (to as T) : name);
  const parts = (all: Part[]): Part[] =>
    all.map((part) =>
      part.zone.input === from ? { ...part, zone: { ...part.zone, input: renamed(part.zone.input) } } : part,
    );
  const messages = (all: OutMessage[]): OutMessage[] =>
    all.map((message) => (message.port === from ? { ...message, port: renamed(message.port) } : message));
  const namesIt = (part: Named): boolean =>
    (direction === 'in' ? inputsIn(part) : (outputsIn(part) as (string | null)[])).includes(from);
  const empty: Named = none;
  return {
    songs: show.songs
      .filter((song) => namesIt({ ...empty, songs: [song] }))
      .map((song) =>
        direction === 'in'
          ? {
              ...song,
              standing: parts(song.standing),
              patches: song.patches.map((patch) => ({ ...patch, parts: parts(patch.parts) })),
            }
          : {
              ...song,
              cues: song.cues.map((cue) => (outputOf(cue) === from ? withOutput(cue, to) : cue)),
              backing: song.backing.map((part) =>
                part.to.kind === 'port' && part.to.port === from ? { ...part, to: { ...part.to, port: to } } : part,
              ),
              patches: song.patches.map((patch) => ({
                ...patch,
                entering: messages(patch.entering),
                leaving: messages(patch.leaving),
              })),
            },
      ),
    setlists: show.setlists
      .filter((setlist) => namesIt({ ...empty, setlists: [setlist] }))
      .map((setlist) => ({
        ...setlist,
        standing: parts(setlist.standing),
        programs: setlist.programs.map((line) => ({ ...line, port: renamed(line.port) })),
      })),
    instruments: show.instruments
      .filter((instrument) => namesIt({ ...empty, instruments: [instrument] }))
      .map((instrument) =>
        instrument.kind === 'outboard' ? { ...instrument, port: renamed(instrument.port) } : instrument,
      ),
  };
}
