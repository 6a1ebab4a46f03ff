/** A pure step from one version of the show file to the next. */
export interface Migration {
  from: number;
  step: (document: unknown) => unknown;
}

type Loose = Record<string, unknown>;
const isLoose = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const mapped = (value: unknown, change: (item: unknown) => unknown): unknown =>
  Array.isArray(value) ? value.map(change) : value;

/**
 * Up to version 1 a binding's action was a bare name. Also for setlists that were stored by themselves; newer ones stay
 * as they are.
 */
export const setlistWithActionKinds = (setlist: unknown): unknown =>
  !isLoose(setlist)
    ? setlist
    : {
        ...setlist,
        ...(setlist.bindings === undefined
          ? {}
          : {
              bindings: mapped(setlist.bindings, (binding) =>
                isLoose(binding) && typeof binding.action === 'string'
                  ? { ...binding, action: { kind: binding.action === 'firstStep' ? 'firstSong' : binding.action } }
                  : binding,
              ),
            }),
      };

/** In order, without gaps: the first leads from version 1 to 2. */
export const migrations: readonly Migration[] = [
  {
    from: 1,
    step: (document) => ({
      ...(document as Loose),
      version: 2,
      setlists: mapped((document as Loose).setlists, setlistWithActionKinds),
    }),
  },
  // What version 3 adds has defaults.
  { from: 2, step: (document) => ({ ...(document as Loose), version: 3 }) },
  // And what version 4 adds: what is done in every setlist, dates and places, keys for tonight.
  { from: 3, step: (document) => ({ ...(document as Loose), version: 4 }) },
];
