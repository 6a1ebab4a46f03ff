import type { Engine, EngineRecord, LastPlace } from '@rackle/core/engine';
import { sameBody } from '@rackle/core/show';
import type { HostEvent, LearnState, StampedRecord, Topics } from '../protocol';
import { Strikes } from './strikes';
import type { After } from './timer';

const TOPICS_MS = 33;
const RECORDS_MS = 100;
const LEVELS_MS = 66;
const KEPT_RECORDS = 20_000;
const SETTLED_MS = 1000;

/** What the teller needs of the host. */
export interface TellerParts {
  nowMs: () => number;
  after: After;
  send: (event: HostEvent) => void;
  engine: Engine;
  /** What besides the engine is told. */
  setlistId: () => string | null;
  learn: () => LearnState | null;
  sound: () => Topics['sound']['sound'];
  midi: () => Pick<Topics['sound'], 'midi' | 'sysex'>;
  levels: () => HostEvent | null;
  /** Whether something moves without a message, so that it is told again and again. */
  isMoving: () => boolean;
  onTold: () => void;
}

/** Tells the pages what they show: topics when they have changed, records and levels while somebody looks. */
export class Teller {
  readonly strikes = new Strikes();
  private readonly told: Partial<Topics> = {};
  private waits = false;
  private cancelSettled: (() => void) | null = null;
  private records: StampedRecord[] = [];
  private recordNumber = 0;
  private watching = { monitor: false, meters: false };
  private warning: string | null = null;
  /** What has waited since it was told last, and in which step: waits may be over before anything is told. */
  private waited: { step: Engine['step']; layers: ReturnType<Engine['notReady']> } = { step: null, layers: [] };

  constructor(private readonly parts: TellerParts) {}

  /** Something may have changed: it is told within a thirtieth of a second, and once more when all has come to rest. */
  touch(): void {
    this.seeWaits();
    if (this.waits) return;
    this.waits = true;
    this.cancelSettled?.();
    this.cancelSettled = this.parts.after(SETTLED_MS, () => {
      this.cancelSettled = null;
      this.tell();
    });
    this.parts.after(TOPICS_MS, () => {
      this.waits = false;
      this.tell();
      this.parts.onTold();
      if (this.parts.isMoving()) this.touch();
    });
  }

  private seeWaits(): void {
    const { engine } = this.parts;
    // What waited in a step that has been left is no news.
    if (this.waited.step !== engine.step) this.waited = { step: engine.step, layers: [] };
    if (!engine.isAnyNotReady) return;
    const { layers } = this.waited;
    this.waited.layers = [
      ...layers,
      ...engine.notReady().filter((one) => !layers.some(({ layerId }) => layerId === one.layerId)),
    ];
  }

  /** What waits, and has waited since the last time; what is over by now is told once, and then no more. */
  private takeWaits(): ReturnType<Engine['notReady']> {
    this.seeWaits();
    const { layers } = this.waited;
    this.waited.layers = [];
    if (layers.length > this.parts.engine.notReady().length) this.parts.after(TOPICS_MS, () => this.touch());
    return layers;
  }

  /** All of it once more, for a page that comes anew. */
  forgetTold(): void {
    for (const topic of Object.keys(this.told) as (keyof Topics)[]) delete this.told[topic];
    this.touch();
  }

  watch(monitor: boolean, meters: boolean): void {
    const was = this.watching;
    this.watching = { monitor, meters };
    this.parts.engine.observer = monitor ? { record: (record) => this.keep(record) } : null;
    if (monitor && !was.monitor) this.sendRecords();
    if (meters && !was.meters) this.sendLevels();
  }

  private tell(): void {
    const now = this.topics();
    const news = Object.fromEntries(
      (Object.keys(now) as (keyof Topics)[])
        .filter((topic) => !sameBody(now[topic], this.told[topic]))
        .map((topic) => [topic, now[topic]]),
    ) as Partial<Topics>;
    if (Object.keys(news).length === 0) return;
    Object.assign(this.told, news);
    this.parts.send({ type: 'topics', topics: news });
  }

  private topics(): Topics {
    const { engine, nowMs } = this.parts;
    return {
      place: this.place(),
      restart: { last: this.lastPlace() },
      transport: {
        playing: engine.isPlaying,
        tick: engine.tickAt(nowMs()),
        tempoBpm: engine.tempoBpm,
        trim: engine.tempoTrim,
        text: engine.text,
        holdsCues: engine.holdsCues,
        loop: engine.loop,
        jumpsTo: engine.jumpsTo,
        leader: this.leader(),
      },
      calls: { list: engine.calls },
      hands: {
        keys: engine.keysDown(),
        pedal: engine.isPedalDown(64),
        transpose: engine.transpose,
        holding: engine.isHolding,
        carried: engine.carried(),
        waiting: engine.waitingForBeat(),
      },
      controls: { controls: engine.controlStates(), learn: this.parts.learn() },
      sound: {
        sound: this.parts.sound(),
        ...this.parts.midi(),
        warning: this.warning,
        loading: this.takeWaits(),
      },
      balance: { layers: engine.balanceNow() },
    };
  }

  /** In tenths: what nobody reads makes no news. */
  private leader(): Topics['transport']['leader'] {
    const { engine, nowMs } = this.parts;
    const leader = engine.leader(nowMs());
    if (leader === null) return null;
    const tenths = (value: number): number => Math.round(value * 10) / 10;
    return { ...leader, bpm: tenths(leader.bpm), jitterMs: tenths(leader.jitterMs) };
  }

  private place(): Topics['place'] {
    const { engine } = this.parts;
    const { step } = engine;
    return {
      position: step ? Math.floor(step.position) : -1,
      entryId: step?.entryId ?? null,
      songId: step?.patch.songId ?? null,
      patchId: step?.patch.patchId ?? null,
      blendId: step?.balance.blendId ?? null,
      cursor: engine.cursor,
      nextPosition: engine.nextPosition,
    };
  }

  private lastPlace(): LastPlace | null {
    const { engine } = this.parts;
    const { step } = engine;
    const setlistId = this.parts.setlistId();
    if (!step || setlistId === null) return null;
    return {
      setlistId,
      entryId: step.entryId,
      patchId: step.patch.patchId,
      blendId: step.balance.blendId,
      counters: engine.counters(),
      hands: engine.movedByHand(),
    };
  }

  private keep(record: EngineRecord): void {
    if (record.type === 'warning') this.warning = record.code;
    this.records.push({ number: ++this.recordNumber, record });
    if (this.records.length > KEPT_RECORDS) this.records.splice(0, this.records.length - KEPT_RECORDS);
  }

  private sendRecords(): void {
    if (!this.watching.monitor) return;
    if (this.records.length > 0) this.parts.send({ type: 'records', records: this.records.splice(0) });
    this.parts.after(RECORDS_MS, () => this.sendRecords());
  }

  private sendLevels(): void {
    if (!this.watching.meters) return;
    const strikes = this.strikes.news();
    if (strikes) this.parts.send({ type: 'strikes', strikes });
    const levels = this.parts.levels();
    if (levels) this.parts.send(levels);
    this.parts.after(LEVELS_MS, () => this.sendLevels());
  }
}
