import { positionAt, tickAtMs, type Instrument, type Setlist, type Song } from '@rackle/core';
import type { BenchGesture, BenchState } from '../door';
import type { PortListener } from '../ports/port';
import { Aster73 } from './aster73';
import { Clack2 } from './clack2';
import { PilotCutter } from './pilotCutter';
import { SimulatedInput } from './simulatedInput';
import { Skerry } from './skerry';
import { Treadle6 } from './treadle6';
import { Updown2 } from './updown2';

const INPUTS = ['Aster 73', 'Treadle 6', 'Updown 2', 'Clack 2', 'Pilot Cutter'] as const;

/** All simulated gear, plugged in at the start. */
export class Bench {
  private readonly inputs: Record<(typeof INPUTS)[number], SimulatedInput>;
  private readonly aster: Aster73;
  private readonly treadle: Treadle6;
  private readonly updown: Updown2;
  private readonly clack: Clack2;
  private readonly skerry: Skerry;
  private readonly pilot: PilotCutter;
  private readonly unplugged = new Set<string>();
  private skerryNames: Instrument['names'] = [];
  private songs: readonly Song[] = [];
  private setlist: Setlist | null = null;

  constructor(
    private readonly listener: PortListener, private readonly nowMs: () => number,
    after: (delayMs: number, act: () => void) => () => void, private readonly onChange: () => void,
  ) {
    this.inputs = Object.fromEntries(INPUTS.map((name) => [name, new SimulatedInput(name, listener, nowMs)])) as Bench['inputs'];
    this.aster = new Aster73(this.inputs['Aster 73']);
    this.treadle = new Treadle6(this.inputs['Treadle 6']);
    this.updown = new Updown2(this.inputs['Updown 2'], after);
    this.clack = new Clack2(this.inputs['Clack 2']);
    this.pilot = new PilotCutter(this.inputs['Pilot Cutter'], nowMs, after);
    this.skerry = new Skerry(nowMs, (bank, program) => this.skerryNames.find((name) => (name.lsb ?? 0) === bank && name.program === program)?.name ?? null, () => {
      onChange();
      after(200, onChange);
    });
  }

  plugAll(): void {
    for (const name of INPUTS) this.inputs[name].plug(true);
    this.listener.onOutput(this.skerry, true);
  }

  know(songs: readonly Song[], setlist: Setlist, instruments: readonly Instrument[]): void {
    this.songs = songs;
    this.setlist = setlist;
    this.skerryNames = instruments.find((instrument) => instrument.port === 'Skerry')?.names ?? [];
  }

  do(gesture: BenchGesture): void {
    if (gesture.kind === 'plug') this.plug(gesture.device, gesture.plugged);
    else if (gesture.device === 'Aster 73') this.playAster(gesture);
    else if (gesture.device === 'Treadle 6') gesture.kind === 'pedal' ? this.treadle.pedal(gesture.pedal) : this.treadle.turn(gesture.direction);
    else if (gesture.device === 'Updown 2') gesture.down ? this.updown.press(gesture.direction) : this.updown.release();
    else if (gesture.device === 'Clack 2') this.clack.move(gesture.pedal, gesture.down);
    else if (gesture.device === 'Pilot Cutter') this.steerPilot(gesture);
    this.onChange();
  }

  private playAster(gesture: Extract<BenchGesture, { device: 'Aster 73' }>): void {
    if (gesture.kind === 'key') this.aster.key(gesture.key, gesture.velocity);
    else if (gesture.kind === 'wheel') this.aster.bend(gesture.value);
    else if (gesture.kind === 'controller') this.aster.control(gesture.controller, gesture.value);
  }

  private steerPilot(gesture: Extract<BenchGesture, { device: 'Pilot Cutter' }>): void {
    if (gesture.kind === 'play') this.pilot.play();
    else if (gesture.kind === 'stop') this.pilot.stop();
    else if (gesture.kind === 'song') {
      const entry = this.setlist?.entries.find((candidate) => candidate.id === gesture.entryId);
      const song = entry?.kind === 'song' ? this.songs.find((candidate) => candidate.id === entry.songId) : undefined;
      if (song && this.setlist) this.pilot.choose(gesture.entryId, song, this.setlist);
    }
  }

  private plug(device: string, plugged: boolean): void {
    if (plugged) this.unplugged.delete(device);
    else this.unplugged.add(device);
    if (device === 'Skerry') this.listener.onOutput(this.skerry, plugged);
    else this.inputs[device as keyof Bench['inputs']]?.plug(plugged);
  }

  get isMoving(): boolean {
    return this.pilot.playing;
  }

  state(): BenchState {
    const { song, playing, startedMs } = this.pilot;
    const at = song && playing ? positionAt(tickAtMs(this.nowMs() - startedMs, song.tempoBpm), song.meter) : { bar: 1, beat: 1 };
    return {
      treadle: { page: this.treadle.page, lit: this.treadle.lit }, updown: { counter: this.updown.counter }, clack: [...this.clack.down],
      aster: { sustain: this.aster.sustain, wheel: this.aster.wheel, modulation: this.aster.modulation },
      skerry: { channels: this.skerry.selected(), held: this.skerry.held, heard: [...this.skerry.heard] },
      pilot: { entryId: this.pilot.entryId, playing, bar: at.bar, beat: at.beat },
      unplugged: [...this.unplugged],
    };
  }
}
