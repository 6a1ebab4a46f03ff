import { messageInWords } from '@rackle/core/midi';
import { HeardLines } from './heardLines';
import type { HeardDevice } from './onTime';

const HEARD_LINES = 6;

/** A lamp: notes switch its four fields on and off, controller 7 dims it; it shows what it was sent last. */
export class Beacon implements HeardDevice {
  readonly name = 'Beacon';
  readonly fields = [false, false, false, false];
  readonly heard = new HeardLines(HEARD_LINES);
  brightness = 127;

  constructor(private readonly onChange: () => void) {}

  hear(status: number, data1: number, data2: number): void {
    const kind = status & 0xf0;
    if (kind === 0x90) this.fields[data1 % 4] = data2 > 0;
    if (kind === 0x80) this.fields[data1 % 4] = false;
    if (kind === 0xb0 && data1 === 7) this.brightness = data2;
    if (kind === 0xb0 && (data1 === 120 || data1 === 123)) this.fields.fill(false);
    if (status < 0xf0) this.note(`ch ${(status & 15) + 1} · ${messageInWords(status, data1, data2)}`);
  }

  hearSysex(bytes: Uint8Array): void {
    this.note(`system exclusive, ${bytes.length} bytes`);
  }

  private note(words: string): void {
    this.heard.add(words);
    this.onChange();
  }
}
