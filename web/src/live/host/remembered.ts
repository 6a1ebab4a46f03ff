/** Where the set was, kept over a reload: enough to stand at the same patch with the same references. */
export interface Remembered {
  setlistId: string;
  entryId: string;
  patchId: string;
  blendId: string | null;
  counters: { device: string; channel: number; program: number }[];
}

export interface Memory {
  read(): Remembered | null;
  write(remembered: Remembered): void;
}

const KEY = 'rackle.place';

/** Kept in this browser. What cannot be read counts as nothing kept. */
export const browserMemory: Memory = {
  read() {
    try {
      const text = localStorage.getItem(KEY);
      return text === null ? null : (JSON.parse(text) as Remembered);
    } catch {
      return null;
    }
  },
  write(remembered) {
    try {
      localStorage.setItem(KEY, JSON.stringify(remembered));
    } catch {
      // No room or no permission: the set then starts at its first patch after a reload, which the stage shows.
    }
  },
};
