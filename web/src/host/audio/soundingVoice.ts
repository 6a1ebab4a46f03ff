/** A note that sounds, whatever makes it. */
export interface SoundingVoice {
  readonly released: boolean;
  /** The key is up and no pedal holds it. */
  release(): void;
  /** Dies away over so many seconds, without a click. */
  fade(seconds: number): void;
}
