/** A pure step from one version of the show file to the next. */
export interface Migration {
  from: number;
  step: (document: unknown) => unknown;
}

/** In order, without gaps: the first leads from version 1 to 2. Version 1 is the present one. */
export const migrations: readonly Migration[] = [];
