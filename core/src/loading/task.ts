/** What is loaded and let go of together: the samples of a preset, counted once however many layers share them. */
export interface LoadUnit {
  /** What it is known by. */
  key: string;
  /** Decoded, in memory. */
  bytes: number;
  /** How long loading it takes on this machine. */
  loadMs: number;
  /** Stays in memory all evening. */
  isPinned: boolean;
}

/** A planned recall, in playing order. */
export interface LoadStop {
  /** When it comes, from any beginning; no earlier than the one before. */
  atMs: number;
  /** Places in the list of units of what has to be ready then. */
  needs: readonly number[];
  /** The first of its song. */
  isFirstOfSong: boolean;
}

/** What is to be planned. */
export interface LoadTask {
  units: readonly LoadUnit[];
  stops: readonly LoadStop[];
  /** So much may be in memory at once. */
  budgetBytes: number;
  /** So many are loaded at once, at least 1. */
  parallel: number;
  /** Time to load before the first stop; Infinity: as long as it takes. */
  beforeMs: number;
  /** Places of what is in memory already. */
  resident: readonly number[];
}

/** What a plan costs, in the order in which it matters. */
export interface PlanCost {
  /** Longest wait at a planned recall, in ms. */
  worstMs: number;
  totalMs: number;
  loads: number;
  peakBytes: number;
}

/** What is in memory from a stop until the next one, and how long the player waits for it there. */
export interface PlannedStop {
  /** Places of units, also of those that are still being loaded. */
  holds: readonly number[];
  /** Those of them whose loading is asked for here. */
  loads: readonly number[];
  evicts: readonly number[];
  bytes: number;
  waitMs: number;
  /** What has to be ready here does not fit into the budget by itself. */
  isOver: boolean;
}

/** A whole evening of loading. The stop before the first one is what is loaded ahead. */
export interface LoadPlan {
  ahead: PlannedStop;
  stops: readonly PlannedStop[];
  cost: PlanCost;
  /** Whether there is no better one; else how far from it this one can be at most. */
  isExact: boolean;
  /** No plan waits less than that: in ms, at the worst and in all. */
  atLeast: Pick<PlanCost, 'worstMs' | 'totalMs'>;
}
