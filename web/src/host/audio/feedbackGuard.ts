/** Loud enough to be dangerous, in dB of one spectral line. */
const LOUD_DB = -26;
/** A howl is one pure tone: its line stands this far above everything that is not beside it. */
const ABOVE_DB = 22;
/** So many frames in a row with the same line. */
const FRAMES = 8;
const BESIDE_BINS = 6;
const LOWEST_HZ = 120;

/** Hears whether a microphone has begun to howl: one loud pure tone that stays and does not fall. */
export class FeedbackGuard {
  isShut = false;
  private bin = -1;
  private frames = 0;
  private lastDb = -Infinity;

  constructor(
    private readonly sampleRate: number,
    private readonly fftSize: number,
  ) {}

  /**
   * One frame of the spectrum, in dB by line.
   * @returns whether the input has to be shut now.
   */
  hear(spectrumDb: Float32Array): boolean {
    if (this.isShut) return false;
    const lowest = Math.ceil((LOWEST_HZ * this.fftSize) / this.sampleRate);
    let loudest = lowest;
    for (let i = lowest; i < spectrumDb.length; i++) if (spectrumDb[i] > spectrumDb[loudest]) loudest = i;
    const loudDb = spectrumDb[loudest];
    let elsewhereDb = -Infinity;
    for (let i = lowest; i < spectrumDb.length; i++)
      if (Math.abs(i - loudest) > BESIDE_BINS) elsewhereDb = Math.max(elsewhereDb, spectrumDb[i]);
    const isPure = loudDb > LOUD_DB && loudDb - elsewhereDb > ABOVE_DB;
    const stays = isPure && Math.abs(loudest - this.bin) <= 1 && loudDb >= this.lastDb - 0.5;
    this.frames = stays ? this.frames + 1 : isPure ? 1 : 0;
    this.bin = loudest;
    this.lastDb = loudDb;
    this.isShut = this.frames >= FRAMES;
    return this.isShut;
  }

  reset(): void {
    this.isShut = false;
    this.frames = 0;
    this.bin = -1;
    this.lastDb = -Infinity;
  }
}
