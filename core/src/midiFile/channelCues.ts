import { midi } from '../midi';
import { Cue, type CueId, type Instrument, type OutboardInstrument } from '../show';
import { rampPoints, type TempoMap } from '../timeline';
import type { ChannelMessage as Channel, ChannelStream } from './sortCues';

/** Where cues go, and under which ids. */
export interface CueTarget {
  port: string;
  channel: number;
  /** Whose presets the programs are, by name. */
  instrument: OutboardInstrument | null;
  map: TempoMap;
  mint(): CueId;
}

/** Whether values of a controller can be a way: no bank, no half of a 14-bit pair, no parameter, nothing of the moment. */
function isPlain(controller: number, used: ReadonlySet<number>): boolean {
  if (controller === midi.CC_BANK_MSB || controller === midi.CC_DATA_MSB || controller >= MODE_MESSAGES_FROM)
    return false;
  if (controller < 32) return !used.has(controller + 32);
  return controller >= 64 && (controller < 96 || controller > 101);
}

const MODE_MESSAGES_FROM = 120;
const FEWEST_OF_RAMP = 4;
const CURVES = Array.from({ length: 201 }, (_, i) => (i % 2 === 1 ? -1 : 1) * Math.ceil(i / 2));

/** Cues of one port and channel, in the order of their messages. */
export function channelCues(stream: ChannelStream, target: CueTarget): Cue[] {
  const cues: Cue[] = [];
  const banks = new Banks();
  const messages = stream.messages.filter((_, place) => stream.isCue[place] === 1);
  const ramped = new Map<Channel, { toValue: number; lengthTicks: number; curve: number } | null>();
  for (const [first, ramp, rest] of rampsIn(messages, target.map)) {
    ramped.set(first, ramp);
    for (const one of rest) ramped.set(one, null);
  }
  let standing = '';
  let i = -1;
  for (const [place, message] of stream.messages.entries()) {
    if (stream.isCue[place] === 0) {
      banks.hear(message);
      continue;
    }
    i++;
    const { atTick, status, data1, data2 } = message;
    const { port, channel } = target;
    const to = { id: target.mint(), atTick, port, channel };
    if (status === midi.PROGRAM) {
      const bank = banks.takeFor(messages, i);
      const preset = presetOf(target.instrument, bank, data1);
      const address = `${bank.msb} ${bank.lsb} ${data1}`;
      cues.push(
        Cue.parse(
          preset !== null && address !== standing
            ? { kind: 'preset', id: to.id, atTick, instrumentId: target.instrument!.id, presetId: preset }
            : { kind: 'program', ...to, ...bank, program: data1 },
        ),
      );
      standing = address;
    } else if (status === midi.CONTROLLER && data1 < MODE_MESSAGES_FROM) {
      if (banks.isOfProgram(messages, i)) continue;
      banks.hear(message);
      const ramp = ramped.get(message);
      if (ramp === null) continue;
      cues.push(Cue.parse({ kind: 'controller', ...to, controller: data1, value: data2, ramp: ramp ?? null }));
    } else {
      const short = status === midi.PRESSURE;
      const bytes = [status | (channel - 1), data1, ...(short ? [] : [data2])];
      const off = status === midi.CONTROLLER;
      const isState = short || status === midi.WHEEL;
      cues.push(Cue.parse({ kind: 'message', id: to.id, atTick, port, bytes, off, isState }));
    }
  }
  return cues;
}

interface ProgramBank {
  msb: number | null;
  lsb: number | null;
  msbAhead: number | null;
  lsbAhead: number | null;
}

const isBank = ({ status, data1 }: Channel): boolean =>
  status === midi.CONTROLLER && (data1 === midi.CC_BANK_MSB || data1 === midi.CC_BANK_LSB);

/** The bank in force, and which of its bytes belong to a program: those right before it, MSB before LSB. */
class Banks {
  private msb: number | null = null;
  private lsb: number | null = null;

  hear({ status, data1, data2 }: Channel): void {
    if (status !== midi.CONTROLLER) return;
    if (data1 === midi.CC_BANK_MSB) this.msb = data2;
    if (data1 === midi.CC_BANK_LSB) this.lsb = data2;
  }

  /** Bank bytes right before a program, as far as a program can say them: MSB, LSB or both in this order. */
  private before(messages: readonly Channel[], program: number): Channel[] {
    const found: Channel[] = [];
    for (let i = program - 1; i >= 0 && found.length < 2 && isBank(messages[i]); i--) {
      if (found.length === 1 && !(messages[i].data1 === midi.CC_BANK_MSB && found[0].data1 === midi.CC_BANK_LSB)) break;
      // What stands at another tick must be the last there.
      found.unshift(messages[i]);
    }
    return found;
  }

  isOfProgram(messages: readonly Channel[], at: number): boolean {
    if (!isBank(messages[at])) return false;
    let program = at + 1;
    while (program < messages.length && isBank(messages[program])) program++;
    return messages[program]?.status === midi.PROGRAM && this.before(messages, program).includes(messages[at]);
  }

  takeFor(messages: readonly Channel[], program: number): ProgramBank {
    const sent = this.before(messages, program);
    sent.forEach((message) => this.hear(message));
    const aheadOf = (controller: number): number | null => {
      const byte = sent.find(({ data1 }) => data1 === controller);
      return byte === undefined ? null : messages[program].atTick - byte.atTick;
    };
    return {
      msb: this.msb,
      lsb: this.lsb,
      // A byte that nobody has ever sent is none that is in force.
      msbAhead: this.msb === null ? 0 : aheadOf(midi.CC_BANK_MSB),
      lsbAhead: this.lsb === null ? 0 : aheadOf(midi.CC_BANK_LSB),
    };
  }
}

/** The preset by whose name exactly these bytes are sent; null: there is none. */
function presetOf(instrument: OutboardInstrument | null, bank: ProgramBank, program: number): string | null {
  const isWhole = bank.msbAhead === 0 && bank.lsbAhead === 0;
  const found = instrument?.names.find(
    (name) => name.program === program && name.msb === bank.msb && name.lsb === bank.lsb && name.also.length === 0,
  );
  return isWhole && found !== undefined ? found.id : null;
}

/** Runs of one controller that a ramp gives message by message; nothing else stands at their ticks. */
function* rampsIn(
  messages: readonly Channel[],
  map: TempoMap,
): Generator<[Channel, { toValue: number; lengthTicks: number; curve: number }, Channel[]]> {
  const alone = (i: number): boolean =>
    messages[i - 1]?.atTick !== messages[i].atTick && messages[i + 1]?.atTick !== messages[i].atTick;
  const runs = new Map<number, number[]>();
  const used = new Set(messages.flatMap(({ status, data1 }) => (status === midi.CONTROLLER ? [data1] : [])));
  messages.forEach(({ status, data1 }, i) => {
    if (status === midi.CONTROLLER && isPlain(data1, used)) {
      const run = runs.get(data1) ?? [];
      runs.set(data1, run);
      run.push(i);
    }
  });
  for (const places of runs.values()) {
    for (let from = 0; from + FEWEST_OF_RAMP <= places.length;) {
      const to = endOfRun(messages, places, from);
      const run = places.slice(from, to);
      const ramp =
        run.length >= FEWEST_OF_RAMP && run.slice(1).every(alone)
          ? rampOf(
              run.map((i) => messages[i]),
              map,
            )
          : null;
      if (ramp !== null) yield [messages[run[0]], ramp, run.slice(1).map((i) => messages[i])];
      from = Math.max(from + 1, to - 1);
    }
  }
}

/** Where values of one controller turn, or stand still. */
function endOfRun(messages: readonly Channel[], places: readonly number[], from: number): number {
  const value = (at: number): number => messages[places[at]].data2;
  const way = Math.sign(value(from + 1) - value(from));
  let to = from + 2;
  while (to < places.length && Math.sign(value(to) - value(to - 1)) === way && way !== 0) to++;
  return to;
}

function rampOf(
  run: readonly Channel[],
  map: TempoMap,
): { toValue: number; lengthTicks: number; curve: number } | null {
  const [first, last] = [run[0], run[run.length - 1]];
  const lengthTicks = last.atTick - first.atTick;
  if (lengthTicks < 1) return null;
  const toValue = last.data2;
  const curve = CURVES.find((bend) => {
    const points = rampPoints({ atTick: first.atTick, value: first.data2, toValue, lengthTicks, curve: bend }, map);
    return (
      points.length === run.length - 1 &&
      points.every(({ tick, value }, i) => tick === run[i + 1].atTick && value === run[i + 1].data2)
    );
  });
  return curve === undefined ? null : { toValue, lengthTicks, curve };
}

/** Instruments of a show that have presets by name. */
export const outboardById = (instruments: readonly Instrument[], id: string | null): OutboardInstrument | null =>
  instruments.find((one): one is OutboardInstrument => one.kind === 'outboard' && one.id === id) ?? null;
