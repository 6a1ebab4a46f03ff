/** A preset of a bank as it is asked for. */
export interface BankAsked {
  /** As the bank has it: 128 is the drums. */
  bank: number;
  program: number;
  /** Samples longer than so many seconds are cut and ring on. */
  mostS: number;
  /** Every other sampled key is left out: half the memory. */
  everyOtherKey: boolean;
  /** What stands still in samples is taken out of them. */
  centred: boolean;
  /** Only where its zones lie and how they are played, without any numbers: quick. */
  isOutline: boolean;
  /** Samples whose numbers need not come, by their ids. */
  has: readonly string[];
}

/** A preset as its bank has it, whole. */
export const asItIs = ({ bank, program }: { bank: number; program: number }): BankAsked => ({
  bank,
  program,
  mostS: Infinity,
  everyOtherKey: false,
  centred: false,
  isOutline: false,
  has: [],
});
