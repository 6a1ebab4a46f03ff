import { messageInWords } from '@rackle/core/midi';
import { HeardLines } from './heardLines';
import type { HeardDevice } from './onTime';

const SWITCH_MS = 180;
const HEARD_LINES = 12;

interface Part {
  msb: number;
  lsb: number;
  program: number;
  selectedBank: number;
  switchingUntilMs: number;
}

/**
 * A sound module: per channel it shows which of its 256 patches is selected, takes 180 ms to switch, and notes what it
 * is sent.
 */
export class Skerry implements HeardDevice {
  readonly name = 'Skerry';
  readonly heard = new HeardLines(HEARD_LINES);
  private readonly parts = Array.from({ length: 16 }, (): Part => ({
    msb: 0,
    lsb: 0,
    program: -1,
    selectedBank: 0,
    switchingUntilMs: 0,
  }));
  private readonly keys = new Set<number>();

  constructor(
    private readonly nowMs: () => number,
    private readonly patchName: (bank: number, program: number) => string | null,
    private readonly onChange: () => void,
  ) {}

  hear(status: number, data1: number, data2: number): void {
    const part = this.parts[status & 15];
    switch (status & 0xf0) {
      case 0xb0:
        if (data1 === 0) part.msb = data2;
        if (data1 === 32) part.lsb = data2;
        if (data1 === 120 || data1 === 123)
          this.keys.forEach((key) => {
            if (key >> 7 === (status & 15)) this.keys.delete(key);
          });
        break;
      case 0xc0:
        part.selectedBank = part.lsb;
        part.program = data1;
        part.switchingUntilMs = this.nowMs() + SWITCH_MS;
        break;
      case 0x90:
        this.keys.add(((status & 15) << 7) | data1);
        break;
      case 0x80:
        this.keys.delete(((status & 15) << 7) | data1);
        break;
    }
    this.note(`ch ${(status & 15) + 1} · ${messageInWords(status, data1, data2)}`);
  }

  hearSysex(bytes: Uint8Array): void {
    this.note(`system exclusive, ${bytes.length} bytes`);
  }

  private note(words: string): void {
    this.heard.add(words);
    this.onChange();
  }

  get held(): number {
    return this.keys.size;
  }

  /** Channels that have been told a patch. */
  selected(): { channel: number; name: string; bank: string; program: number; switching: boolean }[] {
    return this.parts.flatMap((part, i) =>
      part.program < 0
        ? []
        : [
            {
              channel: i + 1,
              name: this.patchName(part.selectedBank, part.program) ?? 'no such patch',
              bank:
                part.selectedBank === 0
                  ? 'Inner bank'
                  : part.selectedBank === 1
                    ? 'Outer bank'
                    : `bank ${part.selectedBank}`,
              program: part.program,
              switching: part.switchingUntilMs > this.nowMs(),
            },
          ],
    );
  }
}
