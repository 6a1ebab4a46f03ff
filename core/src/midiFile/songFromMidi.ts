import { midi, packed, type PackedMessage } from '../midi';
import { decodedText } from '../formats/smf';
import { BackingPart, Cue, Layer, TAPES, type CueId, type Instrument, type Section, type Song } from '../show';
import { tempoMapOf, type TempoMap } from '../timeline';
import { channelCues, outboardById } from './channelCues';
import { UNNAMED_PORT, type GroupTarget, type ImportChoices } from './choices';
import type { FileGroup, MidiContents } from './contents';
import { markCues, streamOf, type ChannelMessage as Channel } from './sortCues';
import { cleanName, sectionsFrom } from './sections';

/** What an import needs of the show around it. */
export interface ImportAround {
  instruments: readonly Instrument[];
  /** The patch or blend of the song that a program recalls; null: it recalls none of them. */
  recallOf(msb: number, lsb: number, program: number): { patchId: string; blendId: string | null } | null;
  mint(kind: 'cue' | 'section' | 'backing' | 'layer'): string;
}

/** A song with what a file has brought, and what it could not bring, in words. */
export interface ImportedSong {
  song: Song;
  cues: number;
  parts: number;
  sections: number;
  words: string[];
}

const MOST_CUES = 2000;
const MOST_PARTS = 64;
const MOST_LAYERS = 64;
const MOST_LYRICS = 5000;
/** A group with more messages than these besides its programs stays together as a part. */
const MANY = 400;
const LONGEST_TEXT = 200;
const LONGEST_SYSEX = 4096;

/** The song with what is chosen of a file; nothing of what it has goes, but for its map and sections where they are taken. */
export function songFromMidi(
  song: Song,
  contents: MidiContents,
  choices: ImportChoices,
  around: ImportAround,
): ImportedSong {
  return new Importer(song, contents, choices, around).run();
}

class Importer {
  private readonly words: string[] = [];
  private readonly cues: Cue[] = [];
  private readonly parts: BackingPart[] = [];
  private readonly map: TempoMap;
  private readonly base: Song;

  constructor(
    song: Song,
    private readonly contents: MidiContents,
    private readonly choices: ImportChoices,
    private readonly around: ImportAround,
  ) {
    this.base = choices.takesMap
      ? { ...song, map: contents.map, sections: this.sections(), key: song.key === '' ? contents.key : song.key }
      : song;
    this.map = tempoMapOf(this.base.map);
  }

  run(): ImportedSong {
    const layers = this.newLayers();
    const channels = new Map<string, FileGroup[]>();
    this.contents.groups.forEach((group) => {
      const to = this.target(group);
      if (to.kind === 'leave') return;
      if (to.kind === 'recalls') return this.recalls(group);
      if (group.channel === 0)
        return this.sysex(group, to.kind === 'port' ? to.port : cleanName(group.port ?? '', UNNAMED_PORT));
      if (to.kind === 'port') {
        const key = `${to.channel} ${to.port}`;
        channels.set(key, [...(channels.get(key) ?? []), group]);
        return;
      }
      const layerId = to.kind === 'layer' ? to.layerId : layers.get(group.id)?.id;
      if (layerId !== undefined) this.layerPart(group, layerId);
    });
    for (const groups of channels.values()) this.channel(groups);
    this.texts();
    return this.finished([...layers.values()]);
  }

  private target(group: FileGroup): GroupTarget {
    return this.choices.groups[group.id] ?? { kind: 'leave' };
  }

  private sections(): Section[] {
    const { sections, words } = sectionsFrom(this.contents, this.choices.textCode, () => this.around.mint('section'));
    this.words.push(...words);
    return sections;
  }

  private newLayers(): Map<string, Layer> {
    const made = new Map<string, Layer>();
    this.contents.groups.forEach((group, i) => {
      const to = this.target(group);
      if (to.kind !== 'newLayer' || group.channel === 0) return;
      if (this.base.layers.length + made.size >= MOST_LAYERS)
        return void this.words.push(`${describe(group)}: a song has at most ${MOST_LAYERS} layers; it is left out`);
      const { instrumentId, presetId } = to;
      const layer = Layer.parse({
        id: this.around.mint('layer'),
        name: cleanName(group.trackName, `Track ${group.track}, channel ${group.channel}`),
        tape: TAPES[i % TAPES.length],
        sound: { instrumentId, presetId },
      });
      made.set(group.id, layer);
    });
    return made;
  }

  private room(): number {
    return MOST_CUES - this.base.cues.length - this.cues.length;
  }

  /** Groups that go to one port and channel: programs and what is sparse as cues, the rest as parts. */
  private channel(groups: readonly FileGroup[]): void {
    const to = this.target(groups[0]);
    if (to.kind !== 'port') return;
    const stream = streamOf(groups);
    markCues(
      stream,
      groups.map(({ notes, messages, programs }) => notes > 0 || messages.length - programs > MANY),
    );
    if (stream.isCue.reduce((sum, one) => sum + one, 0) > this.room()) {
      this.words.push(`${to.port} ${to.channel}: there is no room for more cues; its programs stay in its part`);
      stream.isCue.fill(0);
    }
    const instrument = outboardById(this.around.instruments, to.instrumentId);
    this.cues.push(
      ...channelCues(stream, {
        port: to.port,
        channel: to.channel,
        instrument,
        map: this.map,
        mint: () => this.around.mint('cue') as CueId,
      }),
    );
    groups.forEach((group, g) =>
      this.part(
        group,
        stream.messages.filter((_, i) => stream.groups[i] === g && stream.isCue[i] === 0),
        { kind: 'port', port: to.port, channel: to.channel },
      ),
    );
  }

  /** A layer has its own sound: programs and banks are left out. */
  private layerPart(group: FileGroup, layerId: string): void {
    const kept = group.messages.filter(
      (message): message is Channel =>
        message.kind === 'message' && message.status !== midi.PROGRAM && !isBankOrMode(message),
    );
    if (group.programs > 0)
      this.words.push(`${describe(group)}: a layer keeps its sound, ${many(group.programs, 'program')} left out`);
    this.part(group, kept, { kind: 'layer', layerId } as BackingPart['to']);
  }

  private part(group: FileGroup, given: readonly Channel[], to: BackingPart['to']): void {
    const [off, messages] = [given.filter(isMode), given.filter((message) => !isMode(message))];
    // What ends everything comes in switched off, where one can see it.
    if (to.kind === 'port')
      for (const { atTick, data1, data2 } of off)
        this.message(atTick, to.port, [midi.CONTROLLER | (to.channel - 1), data1, data2], true);
    if (messages.length === 0) return;
    if (this.base.backing.length + this.parts.length >= MOST_PARTS)
      return void this.words.push(`${describe(group)}: a song has at most ${MOST_PARTS} backing parts; it is left out`);
    const part = BackingPart.safeParse({
      id: this.around.mint('backing'),
      name: cleanName(group.trackName, `Track ${group.track}, channel ${group.channel}`),
      to,
      events: packed(messages as readonly PackedMessage[]),
    });
    if (part.success) this.parts.push(part.data);
    else this.words.push(`${describe(group)}: ${part.error.issues[0].message}; it is left out`);
  }

  private message(atTick: number, port: string, bytes: readonly number[], off: boolean): void {
    if (this.room() <= 0) return this.noRoom();
    this.cues.push(Cue.parse({ kind: 'message', id: this.around.mint('cue'), atTick, port, bytes, off }));
  }

  private noRoom(): void {
    const said = `a song has at most ${MOST_CUES} cues; the rest is left out`;
    if (!this.words.includes(said)) this.words.push(said);
  }

  private sysex({ messages }: FileGroup, port: string): void {
    for (const message of messages) {
      if (message.kind !== 'sysex') continue;
      const { bytes, atTick } = message;
      if (bytes.length === 0 || bytes.length + 2 > LONGEST_SYSEX) {
        this.words.push(`system exclusive of ${bytes.length} bytes is left out`);
        continue;
      }
      this.message(atTick, port, [0xf0, ...bytes, 0xf7], isReset(bytes));
    }
  }

  private recalls(group: FileGroup): void {
    let [msb, lsb, unknown] = [0, 0, 0];
    for (const message of group.messages) {
      if (message.kind !== 'message') continue;
      const { status, data1, data2, atTick } = message;
      if (status === midi.CONTROLLER && data1 === midi.CC_BANK_MSB) msb = data2;
      if (status === midi.CONTROLLER && data1 === midi.CC_BANK_LSB) lsb = data2;
      if (status !== midi.PROGRAM) continue;
      const found = this.around.recallOf(msb, lsb, data1);
      if (found === null) unknown++;
      else if (this.room() <= 0) this.noRoom();
      else this.cues.push(Cue.parse({ kind: 'recall', id: this.around.mint('cue'), atTick, ...found }));
    }
    if (unknown > 0)
      this.words.push(`${describe(group)}: ${many(unknown, 'number')} of no patch of this song, and left out`);
  }

  private texts(): void {
    const { texts } = this.contents;
    const { textCode, takesTexts } = this.choices;
    let cut = 0;
    for (const { kind, atTick, bytes } of texts) {
      if ((kind !== 'text' && kind !== 'cuePoint') || !takesTexts) continue;
      const text = decodedText(bytes, textCode)
        .replace(/\p{Cc}+/gu, ' ')
        .trim();
      if (text === '' && kind !== 'cuePoint') continue;
      if (this.room() <= 0) {
        this.noRoom();
        break;
      }
      if (text.length > LONGEST_TEXT) cut++;
      this.cues.push(
        Cue.parse({ kind: 'text', id: this.around.mint('cue'), atTick, text: text.slice(0, LONGEST_TEXT) }),
      );
    }
    if (cut > 0) this.words.push(`${many(cut, 'text')} cut at ${LONGEST_TEXT} letters`);
  }

  private lyrics(): Song['lyrics'] {
    const { textCode, takesLyrics } = this.choices;
    if (!takesLyrics) return this.base.lyrics;
    const sung = this.contents.texts.flatMap(({ kind, atTick, bytes }) => {
      const text = kind === 'lyric' ? decodedText(bytes, textCode) : '';
      return text === '' ? [] : [{ atTick, text: text.slice(0, 500) }];
    });
    const all = [...this.base.lyrics, ...sung].sort((a, b) => a.atTick - b.atTick);
    if (all.length > MOST_LYRICS) this.words.push(`lyrics behind the first ${MOST_LYRICS} are left out`);
    return all.slice(0, MOST_LYRICS);
  }

  private finished(layers: readonly Layer[]): ImportedSong {
    const { base, cues, parts, words } = this;
    const behind = cues.filter(({ atTick }) => atTick >= this.map.endTick).length;
    if (behind > 0) words.push(`${many(behind, 'cue')} behind the end of the song, and does nothing`);
    const copyright = this.contents.texts.find(({ kind }) => kind === 'copyright');
    const said = copyright === undefined ? '' : decodedText(copyright.bytes, this.choices.textCode).trim();
    return {
      song: {
        ...base,
        // As the file has them: those of one tick in its order.
        cues: [...base.cues, ...cues].sort((a, b) => a.atTick - b.atTick),
        description: base.description === '' ? said.slice(0, 4000) : base.description,
        layers: [...base.layers, ...layers],
        backing: [...base.backing, ...parts],
        lyrics: this.lyrics(),
      },
      cues: cues.length,
      parts: parts.length,
      sections: this.choices.takesMap ? base.sections.length : 0,
      words,
    };
  }
}

const many = (count: number, one: string): string => `${count} ${one}${count === 1 ? ' is' : 's are'}`;
const describe = ({ track, trackName, channel }: FileGroup): string =>
  `${trackName === '' ? `track ${track}` : trackName}, channel ${channel}`;

const isMode = ({ status, data1 }: Channel): boolean => status === midi.CONTROLLER && data1 >= 120;
const isBankOrMode = (message: Channel): boolean =>
  isMode(message) ||
  (message.status === midi.CONTROLLER && (message.data1 === midi.CC_BANK_MSB || message.data1 === midi.CC_BANK_LSB));

/** Messages that set a whole instrument back, by their bytes between F0 and F7; −1: any. */
const RESETS: readonly (readonly number[])[] = [
  [0x7e, -1, 0x09, 0x01],
  [0x7e, -1, 0x09, 0x02],
  [0x7e, -1, 0x09, 0x03],
  [0x41, -1, 0x42, 0x12, 0x40, 0x00, 0x7f],
  [0x41, -1, 0x42, 0x12, 0x00, 0x00, 0x7f],
  [0x43, -1, 0x4c, 0x00, 0x00, 0x7e],
];
const isReset = (bytes: Uint8Array): boolean =>
  RESETS.some((reset) => reset.every((byte, i) => byte === -1 || bytes[i] === byte));
