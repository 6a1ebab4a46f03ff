import { LearnRow, inputsOf, type LearnStep } from '@rackle/core/controls';
import type { GearList } from '@rackle/core/show';
import type { HostEvent, LearnState } from '../protocol';
import type { After } from './timer';

const LEARN_POLL_MS = 60;

/** A row of roles that waits for the controls that are to play them. */
export class LearnSession {
  private row: LearnRow | null = null;
  private taken: LearnState['taken'] = null;
  /** By device, the alias of its port. */
  private aliases = new Map<string, string>();

  constructor(
    private readonly parts: { nowMs: () => number; after: After; send: (event: HostEvent) => void },
    private readonly onChange: () => void,
  ) {}

  get isOn(): boolean {
    return this.row !== null;
  }

  /** An empty row, or no gear list, ends it. */
  start(roles: readonly string[], gear: GearList | null): void {
    this.taken = null;
    if (roles.length === 0 || !gear) {
      this.row = null;
      return;
    }
    const inputs = inputsOf(gear);
    this.aliases = new Map(inputs.map(({ device, alias }) => [device as string, alias as string]));
    const doubles = new Map(
      inputs.flatMap((port) => (port.doubleOf === null ? [] : [[port.alias as string, port.doubleOf as string]])),
    );
    const idle = this.row === null;
    this.row = new LearnRow(roles, gear.roles, { doubles });
    if (idle) this.poll();
  }

  /**
   * While it waits, what is moved is not played; what was played before still ends.
   * @returns whether the message is to be played.
   */
  hear(device: string, status: number, data1: number, data2: number, atMs: number): boolean {
    this.row!.hear({ port: this.aliases.get(device) ?? device, atMs, status, data1, data2 });
    const kind = status & 0xf0;
    return (
      kind === 0x80 ||
      (kind === 0x90 && data2 === 0) ||
      (kind === 0xb0 && data1 >= 64 && data1 <= 67 && data2 < 64) ||
      status >= 0xf0
    );
  }

  hearComputerKey(code: string): void {
    this.row?.hearComputerKey(code, this.parts.nowMs());
  }

  undo(): void {
    const role = this.row?.undo() ?? null;
    this.taken = null;
    if (role !== null) this.parts.send({ type: 'unlearned', role });
  }

  confirm(): void {
    const step = this.row?.confirm() ?? null;
    if (step !== null) this.tell(step);
    this.endWhenDone();
  }

  skip(): void {
    this.row?.skip();
    this.endWhenDone();
  }

  state(): LearnState | null {
    const { row } = this;
    if (row === null || row.waitsFor === null) return null;
    return {
      waitsFor: row.waitsFor,
      left: row.roles.length - row.roles.indexOf(row.waitsFor),
      isMoving: row.isMoving,
      taken: this.taken,
    };
  }

  private poll(): void {
    const { row } = this;
    if (row === null) return;
    const step = row.poll(this.parts.nowMs());
    if (step !== null) this.tell(step);
    this.endWhenDone();
    this.onChange();
    this.parts.after(LEARN_POLL_MS, () => this.poll());
  }

  private tell(step: LearnStep): void {
    this.taken = step.kind === 'taken' ? { by: step.by, saw: step.learned.saw } : null;
    if (step.kind === 'filled') {
      const { role, learned, from } = step;
      this.parts.send({ type: 'learned', role, learned, from });
    }
  }

  private endWhenDone(): void {
    if (this.row?.waitsFor === null) this.row = null;
  }
}
