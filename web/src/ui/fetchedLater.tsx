import { lazy, useEffect, useState, type ComponentType, type ReactNode } from 'react';

/** How long after the first page what it does not need begins to be fetched. */
export const AFTER_FIRST_PAGE_MS = 1500;

/** The first page has had its time. */
export const firstPageIsThere: Promise<void> = new Promise((resolve) => setTimeout(resolve, AFTER_FIRST_PAGE_MS));

/**
 * A part that is fetched when it is first wanted. Until it is there nothing is drawn; one that cannot be fetched now
 * takes nothing else with it, and is tried again when it is wanted again.
 * @param missing drawn where it cannot be fetched
 */
export function fetchedLater<Props extends object>(
  fetchPart: () => Promise<ComponentType<Props>>,
  missing: ReactNode = null,
): (props: Props) => ReactNode {
  let Part: ComponentType<Props> | null = null;
  return function FetchedLater(props) {
    const [state, setState] = useState<'fetching' | 'here' | 'missing'>('fetching');
    useEffect(() => {
      if (Part) return undefined;
      let isWanted = true;
      const to = (next: typeof state): void => {
        if (isWanted) setState(next);
      };
      fetchPart().then(
        (part) => {
          Part = part;
          to('here');
        },
        () => to('missing'),
      );
      return () => {
        isWanted = false;
      };
    }, []);
    if (Part) return <Part {...props} />;
    return state === 'missing' ? missing : null;
  };
}

const again = new Set<() => void>();

/** A page that is fetched when it is first gone to. One that cannot be fetched throws to the boundary around it. */
export function fetchedPage(fetchPage: () => Promise<ComponentType>): () => ReactNode {
  const load = () => {
    const fetched = async (): Promise<{ default: ComponentType }> => {
      try {
        return { default: await fetchPage() };
      } catch (error) {
        again.add(anew);
        throw error;
      }
    };
    return lazy(fetched);
  };
  let Page = load();
  const anew = (): void => {
    Page = load();
  };
  return function FetchedPage() {
    return <Page />;
  };
}

/** Pages that could not be fetched are fetched anew the next time they are gone to. */
export function fetchMissingAnew(): void {
  for (const anew of again) anew();
  again.clear();
}
