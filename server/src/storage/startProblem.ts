/** Why Rackle cannot start, in one line for the player; exit status 2. */
export class StartProblem extends Error {
  readonly code = 'start';
}
