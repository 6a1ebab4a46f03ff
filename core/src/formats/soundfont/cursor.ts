/** Reads little-endian numbers of a byte array, never outside of it: what is not there is null. */
export class Cursor {
  private readonly view: DataView;

  constructor(bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get length(): number {
    return this.view.byteLength;
  }

  u8(at: number): number | null {
    return at >= 0 && at < this.length ? this.view.getUint8(at) : null;
  }

  i8(at: number): number | null {
    return at >= 0 && at < this.length ? this.view.getInt8(at) : null;
  }

  u16(at: number): number | null {
    return at >= 0 && at + 2 <= this.length ? this.view.getUint16(at, true) : null;
  }

  u32(at: number): number | null {
    return at >= 0 && at + 4 <= this.length ? this.view.getUint32(at, true) : null;
  }

  /** Latin-1 text up to a zero byte, at most `length` bytes; shorter when the bytes end. */
  text(at: number, length: number): string {
    let text = '';
    for (let i = at; i < Math.min(at + length, this.length); i++) {
      const byte = this.view.getUint8(i);
      if (byte === 0) break;
      text += String.fromCharCode(byte);
    }
    return text;
  }
}
