import type { PlayedShow } from '@rackle/core/engine';
import type { NameListEntry, OutboardInstrument } from '@rackle/core/show';
import type { BenchDevice, BenchGesture, BenchState } from '../../protocol';
import type { PortListener } from '../ports/port';
import { Aster73 } from './aster73';
import { Beacon } from './beacon';
import { Clack2 } from './clack2';
import { Cobble25 } from './cobble25';
import { Creaker } from './creaker';
import { Heel1 } from './heel1';
import { Keg4 } from './keg4';
import { PilotCutter } from './pilotCutter';
import { SimulatedInput } from './simulatedInput';
import { OnTime } from './onTime';
import { Skerry } from './skerry';
import { TREADLE_PEDALS, Treadle6 } from './treadle6';
import { FORGETFUL, type BenchMemory } from './memory';
import { Updown2 } from './updown2';

const INPUTS = [
  'Aster 73',
  'Aster 73, second port',
  'Cobble 25',
  'Treadle 6',
  'Updown 2',
  'Clack 2',
  'Heel 1',
  'Creaker',
  'Keg 4',
  'Pilot Cutter',
] as const;

/** What the simulated player and module have to know of the show. */
export type BenchShow = Pick<PlayedShow, 'setlist' | 'instruments' | 'song'>;

/** All simulated gear, plugged in at the start. */
export class Bench {
  private readonly inputs: Record<(typeof INPUTS)[number], SimulatedInput>;
  private readonly aster: Aster73;
  private readonly cobble: Cobble25;
  private readonly treadle: Treadle6;
  private readonly updown: Updown2;
  private readonly clack: Clack2;
  private readonly heel: Heel1;
  private readonly creaker: Creaker;
  private readonly keg: Keg4;
  private readonly skerry: Skerry;
  private readonly beacon: Beacon;
  /** The cables to both. */
  private readonly cables: { Skerry: OnTime; Beacon: OnTime };
  private readonly pilot: PilotCutter;
  private readonly unplugged = new Set<string>();
  private skerryNames: readonly NameListEntry[] = [];
  /** Whether the simulated audio input plays its loop. */
  loops = false;
  private show: BenchShow | null = null;
  /** What is held down, as the gestures that let it go. */
  private readonly held = new Map<string, BenchGesture>();

  constructor(
    private readonly listener: PortListener,
    nowMs: () => number,
    after: (delayMs: number, act: () => void) => () => void,
    private readonly onChange: () => void,
    private readonly memory: BenchMemory = FORGETFUL,
  ) {
    this.inputs = Object.fromEntries(
      INPUTS.map((name) => [name, new SimulatedInput(name, listener, nowMs)]),
    ) as Bench['inputs'];
    this.aster = new Aster73(this.inputs['Aster 73'], this.inputs['Aster 73, second port']);
    this.cobble = new Cobble25(this.inputs['Cobble 25']);
    this.treadle = new Treadle6(this.inputs['Treadle 6']);
    const { buttons, latching } = memory.read();
    if (buttons.length > 0) this.treadle.write(buttons);
    this.updown = new Updown2(this.inputs['Updown 2'], after);
    this.clack = new Clack2(this.inputs['Clack 2']);
    this.clack.setLatching(latching);
    this.heel = new Heel1(this.inputs['Heel 1']);
    this.creaker = new Creaker(this.inputs.Creaker, after);
    this.keg = new Keg4(this.inputs['Keg 4'], after);
    this.pilot = new PilotCutter(this.inputs['Pilot Cutter'], nowMs, after);
    this.beacon = new Beacon(onChange);
    this.skerry = new Skerry(
      nowMs,
      (bank, program) =>
        this.skerryNames.find((name) => (name.lsb ?? 0) === bank && name.program === program)?.name ?? null,
      () => {
        onChange();
        after(200, onChange);
      },
    );
    this.cables = { Skerry: new OnTime(this.skerry, nowMs, after), Beacon: new OnTime(this.beacon, nowMs, after) };
  }

  plugAll(): void {
    for (const name of INPUTS) this.inputs[name].plug(true);
    this.listener.onOutput(this.cables.Skerry, true);
    this.listener.onOutput(this.cables.Beacon, true);
  }

  know(show: BenchShow): void {
    this.show = show;
    this.skerryNames =
      show.instruments.find(
        (instrument): instrument is OutboardInstrument =>
          instrument.kind === 'outboard' && instrument.port === 'Skerry',
      )?.names ?? [];
  }

  /** Whatever a hand or foot holds down comes up. */
  letGo(): void {
    for (const up of this.held.values()) this.move(up);
    this.held.clear();
    this.onChange();
  }

  private noteHeld(gesture: BenchGesture): void {
    const up = upOf(gesture);
    if (up === null) return;
    const key = JSON.stringify(up);
    if (isUp(gesture)) this.held.delete(key);
    else this.held.set(key, up);
  }

  do(gesture: BenchGesture): void {
    this.noteHeld(gesture);
    this.move(gesture);
    this.onChange();
  }

  private move(gesture: BenchGesture): void {
    switch (gesture.kind) {
      case 'plug':
        return this.plug(gesture.device, gesture.plugged);
      case 'key':
        return gesture.device === 'Aster 73'
          ? this.aster.key(gesture.key, gesture.velocity)
          : this.cobble.key(gesture.key, gesture.velocity);
      case 'wheel':
        return this.aster.bend(gesture.value);
      case 'controller':
        return this.aster.control(gesture.controller, gesture.value);
      case 'pad':
        return this.cobble.pad(gesture.pad, gesture.velocity);
      case 'knob':
        return this.cobble.knob(gesture.knob, gesture.value);
      case 'hit':
        return this.keg.hit(gesture.pad, gesture.zone, gesture.velocity);
      case 'heel':
        return gesture.device === 'Heel 1' ? this.heel.move(gesture.stands) : this.creaker.move(gesture.stands * 127);
      case 'tremble':
        return this.creaker.wake(gesture.on);
      case 'page':
        return this.treadle.turn(gesture.direction);
      case 'write':
        this.treadle.write(gesture.buttons);
        return this.keep();
      case 'switch':
        return gesture.down ? this.updown.press(gesture.direction) : this.updown.release();
      case 'latching':
        this.clack.setLatching(gesture.on);
        return this.keep();
      case 'pedal':
        return gesture.device === 'Treadle 6'
          ? this.treadle.pedal(gesture.pedal)
          : this.clack.move(gesture.pedal, gesture.down);
      case 'song':
        return this.choose(gesture.entryId);
      case 'play':
        return this.pilot.play();
      case 'stop':
        return this.pilot.stop();
      case 'toStart':
        return this.pilot.toStart();
      case 'clock':
        this.pilot.sendsClock = gesture.on;
        return;
      case 'calls':
        this.pilot.sendsCalls = gesture.on;
        return;
      case 'loop':
        this.loops = gesture.on;
    }
  }

  /** What a device keeps when it is switched off. */
  private keep(): void {
    this.memory.write({ buttons: this.treadle.buttons, latching: this.clack.latching });
  }

  private choose(entryId: string): void {
    const setlist = this.show?.setlist;
    const entry = setlist?.entries.find((candidate) => candidate.id === entryId);
    const song = entry?.kind === 'song' ? this.show?.song(entry.songId) : undefined;
    if (song && setlist) this.pilot.choose(entryId, song, setlist);
  }

  private plug(device: BenchDevice, plugged: boolean): void {
    if (plugged) this.unplugged.delete(device);
    else this.unplugged.add(device);
    if (device === 'Skerry' || device === 'Beacon') this.listener.onOutput(this.cables[device], plugged);
    else this.inputs[device].plug(plugged);
    // Its two ports hang on one cable.
    if (device === 'Aster 73') this.inputs['Aster 73, second port'].plug(plugged);
  }

  get isMoving(): boolean {
    return this.pilot.playing;
  }

  state(): BenchState {
    return {
      treadle: {
        page: this.treadle.page,
        lit: this.treadle.lit,
        written: this.treadle.isWritten,
        pedals: Array.from({ length: TREADLE_PEDALS }, (_, i) => this.treadle.button(i)),
      },
      updown: { counter: this.updown.counter },
      clack: { down: [...this.clack.down], lit: [...this.clack.lit], latching: this.clack.latching },
      aster: { sustain: this.aster.sustain, wheel: this.aster.wheel, modulation: this.aster.modulation },
      cobble: { knobs: [...this.cobble.knobs], padsDown: [...this.cobble.padsDown] },
      heel: { stands: this.heel.stands },
      creaker: { stands: this.creaker.stands, trembles: this.creaker.trembles },
      skerry: { channels: this.skerry.selected(), held: this.skerry.held, heard: [...this.skerry.heard.lines] },
      beacon: {
        fields: [...this.beacon.fields],
        brightness: this.beacon.brightness,
        heard: [...this.beacon.heard.lines],
      },
      pilot: this.pilot.state(),
      quayMic: { loops: this.loops },
      unplugged: [...this.unplugged],
    };
  }
}

/** The gesture that ends one which presses something; null: it presses nothing. */
function upOf(gesture: BenchGesture): BenchGesture | null {
  switch (gesture.kind) {
    case 'key':
    case 'pad':
      return { ...gesture, velocity: 0 };
    case 'switch':
      return { ...gesture, down: false };
    case 'pedal':
      return gesture.device === 'Clack 2' ? { ...gesture, down: false } : null;
    default:
      return null;
  }
}

const isUp = (gesture: BenchGesture): boolean =>
  ('velocity' in gesture && gesture.velocity === 0) || ('down' in gesture && !gesture.down);
